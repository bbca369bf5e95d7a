#include "core/base/phrase.h"
#include "core/parts/lines.h"

#include <algorithm>

namespace vicegrip::parts {
namespace {

/// The lines that kinds of devices are described by: "beta, ratiometric, volts".
template <class... Kind> std::string allKeys(const std::variant<Kind...>*)
{
    std::string out;
    const auto add = [&](const auto& keys) {
        for (const std::string_view key : keys)
            out += (out.empty() ? "" : ", ") + std::string(key);
    };
    (add(Kind::kKeys), ...);
    return out;
}

class PartReader
{
  public:
    Described<Part> read(std::string_view text)
    {
        m_lines = linesOf(text);
        for (const Line& l : m_lines) // kind and dimension first: ranges and tables are read by them
            if (l.key == "kind" || l.key == "measures")
                kindOrDimension(l);
        for (const Line& l : m_lines)
            if (l.key == "range")
                range(l);
        for (const Line& l : m_lines)
            fact(l);
        return finish();
    }

  private:
    void kindOrDimension(const Line& l)
    {
        const std::string wanted = lower(l.value);
        if (l.key == "measures") {
            std::string name = wanted;
            std::ranges::replace(name, ' ', '-');
            m_reads.take(l, units::dimensionFromName(name), [&](Dimension d) { m_measures = d; });
            return;
        }
        std::string known;
        for (const auto& [kind, name] : fields::EnumNames<PartUse>::kNames) {
            if (spaced(name) == wanted || name == wanted) {
                m_part.kind = kind;
                return;
            }
            known += (known.empty() ? "" : ", ") + spaced(name);
        }
        m_reads.complain(l, phrase("\"{}\" is no kind of part: expected one of {}", l.value, known));
    }

    void range(const Line& l)
    {
        m_part.measures = m_measures.value_or(usualDimension(m_part.kind));
        m_part.unit = unitAtEnd(l.value);
        if (m_part.unit.empty())
            m_part.unit = units::everydayUnit(m_part.measures);
        m_reads.take(l, rangeOf(l.value, m_part.measures, m_part.unit), [&](const auto& r) {
            m_part.low = r.first;
            m_part.high = r.second;
            m_ranged = true;
        });
    }

    void pins(const Line& l)
    {
        for (const std::string& pin : listOf(l.value)) {
            const size_t space = pin.find(' ');
            const std::string typed = space == std::string::npos ? std::string() : lower(trimmed(pin.substr(space)));
            const auto& known = fields::EnumNames<PinRole>::kNames;
            const auto role = std::ranges::find(known, typed, [](const auto& name) { return name.second; });
            if (role == std::end(known)) {
                m_reads.complain(
                    l, phrase("expected the plug's cavities with what they do, such as 1 signal, 2 ground, 3 supply"));
                return;
            }
            m_part.pins[pin.substr(0, space)] = role->first;
        }
    }

    /// The kind is set by the first line that belongs to one; what follows may refine it. False when no kind has it.
    template <size_t I = 0> bool ofKind(const Line& l)
    {
        if constexpr (I == std::variant_size_v<Model>) {
            return false;
        } else {
            using Kind = std::variant_alternative_t<I, Model>;
            if (std::ranges::find(Kind::kKeys, l.key) == Kind::kKeys.end())
                return ofKind<I + 1>(l);
            if (m_modelled && m_part.model.index() != I)
                m_reads.complain(l, phrase("the part is described as something else already"));
            if (!m_modelled || m_part.model.index() != I)
                m_part.model = Kind{};
            m_modelled = true;
            std::get<Kind>(m_part.model).readLine(m_reads, l, m_part);
            return true;
        }
    }

    /// What refines the model, once it is known.
    void refine(const Line& l)
    {
        double number = 0; // draws: what the sheet says it takes from its supply
        const bool tolerance = l.key == "tolerance";
        m_reads.quantity(l, l.value, tolerance ? Dimension::Ratio : Dimension::Current, tolerance ? "%" : "mA", number);
        const auto refined = [&](auto& m) {
            if constexpr (requires { m.setTolerance(number); })
                if (tolerance)
                    m.setTolerance(number);
            if constexpr (requires { m.setDraw(number, m_part); })
                if (!tolerance && number > 0)
                    m.setDraw(number, m_part);
        };
        std::visit(refined, m_part.model);
    }

    void fact(const Line& l)
    {
        if (l.key.empty() || l.key == "kind" || l.key == "measures" || l.key == "range")
            return; // tables are read by the line above them
        if (l.key == "name")
            m_part.name = l.value;
        else if (l.key == "id")
            m_part.id.value = l.value;
        else if (l.key == "pins")
            pins(l);
        else if (l.key == "feed") {
            m_part.feed = lower(l.value) == "battery" ? Feed::Battery : Feed::SensorSupply;
            if (lower(l.value) != "battery" && lower(l.value) != "sensor supply")
                m_reads.complain(l, phrase("expected battery or sensor supply"));
        } else if (l.key == "conditioner") {
            m_part.conditioned = lower(l.value) == "yes";
            if (lower(l.value) != "yes" && lower(l.value) != "no")
                m_reads.complain(l, phrase("expected yes or no: whether a box of its own makes the signal"));
        } else if (l.key == "tolerance" || l.key == "draws")
            m_later.push_back(l);
        else if (!ofKind(l))
            m_reads.complain(l, phrase("\"{}\" is not understood: expected name, kind, range, pins, feed, conditioner, "
                                       "tolerance, draws, and one of {}",
                                       l.written, allKeys(static_cast<const Model*>(nullptr))));
    }

    Described<Part> finish()
    {
        setDissipation(m_part, usualDissipation(m_part.kind));
        for (const Line& l : m_later)
            refine(l);
        const auto lacks = [&](bool is, const std::string& sentence) {
            if (is)
                m_out.complaints.push_back({0, sentence});
        };
        lacks(m_part.name.empty(), phrase("it has no name: add a line such as name: Oil thermistor of the shop"));
        lacks(!m_ranged && !isDriven(m_part), phrase("it has no range: add a line such as range: -40 to 150 °C"));
        lacks(m_part.pins.empty(), phrase("it has no pins: add a line such as pins: 1 signal, 2 ground"));
        lacks(!m_modelled,
              phrase(
                  "nothing says what it puts out: add a line such as ratiometric: 0.5 V, 4.5 V, or beta: 2k2, 3500 K"));
        if (m_part.id.empty())
            m_part.id.value = idFrom(m_part.name);
        conclude(m_out, m_part, readPart);
        return std::move(m_out);
    }

    std::vector<Line> m_lines, m_later;
    Described<Part> m_out;
    PartLines m_reads{m_lines, m_out.complaints};
    std::optional<Dimension> m_measures;
    bool m_ranged = false, m_modelled = false;
    Part m_part;
};

} // namespace

void PartLines::quantity(const Line& l, const std::string& typed, Dimension dimension, std::string_view unit,
                         double& to)
{
    take(l, units::parse(typed, dimension, unit), [&](double v) { to = v; });
}

bool PartLines::yes(const Line& l)
{
    const std::string said = lower(l.value);
    if (said != "yes" && said != "no")
        complain(l, phrase("expected yes or no"));
    return said == "yes";
}

std::vector<std::string> PartLines::two(const Line& l, std::string_view example)
{
    std::vector<std::string> values = listOf(l.value);
    if (values.size() == 2)
        return values;
    complain(l, std::string(phrase("expected two values, such as ")) + std::string(example));
    return {};
}

std::vector<std::pair<double, double>> PartLines::tableBelow(const Line& l, Dimension first, std::string_view firstUnit,
                                                             Dimension second, std::string_view secondUnit)
{
    std::vector<std::pair<double, double>> out;
    bool inside = false;
    for (const Line& row : m_lines) {
        if (row.number == l.number)
            inside = true;
        else if (!row.key.empty())
            inside = false;
        else if (inside)
            take(row, twoNumbers(row.value, first, firstUnit, second, secondUnit),
                 [&](const auto& pair) { out.push_back(pair); });
    }
    if (out.size() < 2)
        complain(l, phrase("expected at least two lines of numbers below"));
    std::ranges::sort(out);
    return out;
}

tl::unexpected<Error> outOfRange(std::string pointer, std::string sentence)
{
    return fail(ErrorCode::Range, std::move(sentence), {{}, std::move(pointer), 0, 0});
}

Described<Part> partFromText(std::string_view text)
{
    return PartReader().read(text);
}

} // namespace vicegrip::parts
