#include "core/base/phrase.h"
#include "core/parts/lines.h"

#include <algorithm>

namespace vicegrip::parts {
namespace {

using units::Dimension;

class SensorReader
{
  public:
    Described<Sensor> read(std::string_view text)
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
    void complain(const Line& l, std::string sentence) { m_out.complaints.push_back({l.number, std::move(sentence)}); }

    template <class T, class Use> void take(const Line& l, const Result<T>& result, Use use)
    {
        if (result)
            use(*result);
        else
            complain(l, result.error().sentence);
    }

    void quantity(const Line& l, const std::string& typed, Dimension dimension, std::string_view unit, double& to)
    {
        take(l, units::parse(typed, dimension, unit), [&](double v) { to = v; });
    }

    void kindOrDimension(const Line& l)
    {
        const std::string wanted = lower(l.value);
        if (l.key == "measures") {
            std::string name = wanted;
            std::ranges::replace(name, ' ', '-');
            take(l, units::dimensionFromName(name), [&](Dimension d) { m_measures = d; });
            return;
        }
        std::string known;
        for (const auto& [kind, name] : fields::EnumNames<SensorKind>::kNames) {
            if (spaced(name) == wanted || name == wanted) {
                m_sensor.kind = kind;
                return;
            }
            known += (known.empty() ? "" : ", ") + spaced(name);
        }
        complain(l, phrase("\"{}\" is no kind of sensor: expected one of {}", l.value, known));
    }

    void range(const Line& l)
    {
        m_sensor.measures = m_measures.value_or(usualDimension(m_sensor.kind));
        m_sensor.unit = unitAtEnd(l.value);
        if (m_sensor.unit.empty())
            m_sensor.unit = units::everydayUnit(m_sensor.measures);
        take(l, rangeOf(l.value, m_sensor.measures, m_sensor.unit), [&](const auto& r) {
            m_sensor.low = r.first;
            m_sensor.high = r.second;
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
                complain(
                    l, phrase("expected the plug's cavities with what they do, such as 1 signal, 2 ground, 3 supply"));
                return;
            }
            m_sensor.pins[pin.substr(0, space)] = role->first;
        }
    }

    /// The model is set by the first line that names one; what follows may refine it.
    template <class Model> Model& model(const Line& l)
    {
        if (!m_modelled)
            m_sensor.model = Model{};
        else if (!std::holds_alternative<Model>(m_sensor.model))
            complain(l, phrase("the sensor is described as something else already"));
        m_modelled = true;
        if (!std::holds_alternative<Model>(m_sensor.model))
            m_sensor.model = Model{};
        return std::get<Model>(m_sensor.model);
    }

    /// Two values of a list, or a complaint.
    bool two(const Line& l, std::vector<std::string>& values, const char* example)
    {
        values = listOf(l.value);
        if (values.size() == 2)
            return true;
        complain(l, std::string(phrase("expected two values, such as ")) + example);
        return false;
    }

    std::vector<std::pair<double, double>> tableBelow(const Line& l, Dimension first, std::string_view firstUnit,
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

    void curve(const Line& l)
    {
        auto& t = model<Thermistor>(l);
        std::vector<std::string> v;
        if (l.key == "beta") {
            BetaCurve c;
            if (two(l, v, "2k2, 3500 K")) {
                quantity(l, v[0], Dimension::Resistance, "Ω", c.r25_ohm);
                quantity(l, v[1], Dimension::TemperatureDifference, "K", c.beta_k);
            }
            t.curve = c;
        } else if (l.key == "steinhart-hart") {
            v = listOf(l.value);
            SteinhartHartCurve c;
            double* const into[] = {&c.a, &c.b, &c.c};
            if (v.size() != 3)
                complain(l, phrase("expected the three coefficients, such as 1.13e-3, 2.34e-4, 8.77e-8"));
            for (size_t i = 0; i < 3 && v.size() == 3; ++i)
                quantity(l, v[i], Dimension::Counts, {}, *into[i]);
            t.curve = c;
        } else {
            TableCurve c;
            for (const auto& [kelvin, ohm] : tableBelow(l, Dimension::Temperature, "°C", Dimension::Resistance, "Ω"))
                c.points.push_back({kelvin, ohm});
            t.curve = std::move(c);
        }
    }

    void output(const Line& l)
    {
        std::vector<std::string> v;
        if (l.key == "ratiometric") {
            auto& r = model<RatiometricTransducer>(l);
            if (two(l, v, "0.5 V, 4.5 V")) {
                quantity(l, v[0], Dimension::Voltage, "V", r.low_v);
                quantity(l, v[1], Dimension::Voltage, "V", r.high_v);
            }
        } else if (l.key == "volts") {
            auto& d = model<VoltageDevice>(l);
            if (l.value.empty()) {
                for (const auto& [value, volts] :
                     tableBelow(l, m_sensor.measures, m_sensor.unit, Dimension::Voltage, "V"))
                    d.points.push_back({value, volts});
                if (d.points.size() >= 2) {
                    d.low_v = d.points.front().volts;
                    d.high_v = d.points.back().volts;
                }
            } else if (two(l, v, "0 V, 5 V")) {
                quantity(l, v[0], Dimension::Voltage, "V", d.low_v);
                quantity(l, v[1], Dimension::Voltage, "V", d.high_v);
            }
        } else if (l.key == "hertz") {
            auto& o = model<OpenCollector>(l);
            if (l.value.empty()) {
                for (const auto& [value, hz] :
                     tableBelow(l, m_sensor.measures, m_sensor.unit, Dimension::Frequency, "Hz"))
                    o.points.push_back({value, hz});
                if (o.points.size() >= 2) {
                    o.low_hz = std::min(o.points.front().hz, o.points.back().hz);
                    o.high_hz = std::max(o.points.front().hz, o.points.back().hz);
                }
            } else if (two(l, v, "50 Hz, 150 Hz")) {
                quantity(l, v[0], Dimension::Frequency, "Hz", o.low_hz);
                quantity(l, v[1], Dimension::Frequency, "Hz", o.high_hz);
            }
        } else if (l.key == "ohms") {
            auto& s = model<Resistive>(l);
            for (const auto& [value, ohm] : tableBelow(l, m_sensor.measures, m_sensor.unit, Dimension::Resistance, "Ω"))
                s.points.push_back({value, ohm});
        } else if (l.key == "coil") {
            auto& c = model<VariableReluctance>(l);
            if (two(l, v, "850 ohm, 60 V")) {
                quantity(l, v[0], Dimension::Resistance, "Ω", c.coil_ohm);
                quantity(l, v[1], Dimension::Voltage, "V", c.peak_v);
            }
        } else if (l.key == "track") {
            quantity(l, l.value, Dimension::Resistance, "Ω", model<Potentiometer>(l).track_ohm);
        } else {
            auto& c = model<Contact>(l);
            if (lower(l.value) != "open" && lower(l.value) != "closed")
                complain(l, phrase("expected how it stands at rest: open or closed"));
            c.closedAtRest = lower(l.value) == "closed";
        }
    }

    /// What refines the model, once it is known.
    void refine(const Line& l)
    {
        if (l.key == "tolerance") {
            double share = 0;
            quantity(l, l.value, Dimension::Ratio, "%", share);
            if (auto* t = std::get_if<Thermistor>(&m_sensor.model))
                t->tolerance = share;
            else if (auto* r = std::get_if<RatiometricTransducer>(&m_sensor.model))
                r->tolerance = share;
            else if (auto* p = std::get_if<Potentiometer>(&m_sensor.model))
                p->tolerance = share;
            else if (auto* s = std::get_if<Resistive>(&m_sensor.model))
                s->tolerance = share;
            else if (auto* d = std::get_if<VoltageDevice>(&m_sensor.model))
                d->tolerance_v = share * std::abs(d->high_v - d->low_v);
            else if (auto* o = std::get_if<OpenCollector>(&m_sensor.model))
                o->tolerance = share;
            return;
        }
        double amps = 0; // draws: what the sheet says it takes from its supply
        quantity(l, l.value, Dimension::Current, "mA", amps);
        if (!(amps > 0))
            return;
        if (auto* r = std::get_if<RatiometricTransducer>(&m_sensor.model))
            r->supply_ohm = r->at_supply_v / amps;
        else if (auto* d = std::get_if<VoltageDevice>(&m_sensor.model))
            d->supply_ohm = 12 / amps;
        else if (auto* o = std::get_if<OpenCollector>(&m_sensor.model))
            o->supply_ohm = (m_sensor.feed == Feed::Battery ? 12 : 5) / amps;
    }

    void fact(const Line& l)
    {
        if (l.key.empty() || l.key == "kind" || l.key == "measures" || l.key == "range")
            return; // tables are read by the line above them
        if (l.key == "name")
            m_sensor.name = l.value;
        else if (l.key == "id")
            m_sensor.id.value = l.value;
        else if (l.key == "pins")
            pins(l);
        else if (l.key == "feed") {
            m_sensor.feed = lower(l.value) == "battery" ? Feed::Battery : Feed::SensorSupply;
            if (lower(l.value) != "battery" && lower(l.value) != "sensor supply")
                complain(l, phrase("expected battery or sensor supply"));
        } else if (l.key == "conditioner") {
            m_sensor.conditioned = lower(l.value) == "yes";
            if (lower(l.value) != "yes" && lower(l.value) != "no")
                complain(l, phrase("expected yes or no: whether a box of its own makes the signal"));
        } else if (l.key == "beta" || l.key == "steinhart-hart" || l.key == "table")
            curve(l);
        else if (l.key == "ratiometric" || l.key == "volts" || l.key == "hertz" || l.key == "ohms" || l.key == "coil" ||
                 l.key == "track" || l.key == "switch")
            output(l);
        else if (l.key == "tolerance" || l.key == "draws")
            m_later.push_back(l);
        else
            complain(
                l,
                phrase(
                    "\"{}\" is not understood: expected name, kind, range, pins, feed, conditioner, tolerance, draws, "
                    "and one of beta, steinhart-hart, table, ratiometric, volts, hertz, ohms, coil, track, switch",
                    l.written));
    }

    Described<Sensor> finish()
    {
        if (auto* thermistor = std::get_if<Thermistor>(&m_sensor.model))
            thermistor->dissipation_w_per_k = usualDissipation(m_sensor.kind);
        for (const Line& l : m_later)
            refine(l);
        const auto lacks = [&](bool is, const std::string& sentence) {
            if (is)
                m_out.complaints.push_back({0, sentence});
        };
        lacks(m_sensor.name.empty(), "it has no name: add a line such as name: Oil thermistor of the shop");
        lacks(!m_ranged, "it has no range: add a line such as range: -40 to 150 °C");
        lacks(m_sensor.pins.empty(), "it has no pins: add a line such as pins: 1 signal, 2 ground");
        lacks(!m_modelled,
              phrase(
                  "nothing says what it puts out: add a line such as ratiometric: 0.5 V, 4.5 V, or beta: 2k2, 3500 K"));
        if (m_sensor.id.empty())
            m_sensor.id.value = idFrom(m_sensor.name);
        if (m_out.complaints.empty()) {
            // The reader's own checks have the last word: what is shown as sound can be kept.
            auto sound = readSensor(nlohmann::json(fields::toJson(m_sensor)));
            if (sound)
                m_out.part = std::move(*sound);
            else
                m_out.complaints.push_back({0, sound.error().text()});
        }
        std::ranges::stable_sort(m_out.complaints, {}, &LineComplaint::line);
        return std::move(m_out);
    }

    std::vector<Line> m_lines, m_later;
    std::optional<Dimension> m_measures;
    bool m_ranged = false, m_modelled = false;
    Sensor m_sensor;
    Described<Sensor> m_out;
};

} // namespace

Described<Sensor> sensorFromText(std::string_view text)
{
    return SensorReader().read(text);
}

} // namespace vicegrip::parts
