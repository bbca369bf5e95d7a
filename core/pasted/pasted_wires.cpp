#include "core/pasted/pasted_wires.h"

#include "core/base/phrase.h"
#include "core/harness/edits.h"
#include "core/harness/places.h"
#include "core/pasted/pasted_list.h"
#include "core/units/shown.h"
#include "core/wires/colour.h"
#include "core/wires/colour_plan.h"
#include "core/wires/wire_typed.h"

#include <algorithm>

namespace vicegrip::pasted {
namespace {

const std::vector<ListColumn>& columns()
{
    static const std::vector<ListColumn> kColumns = {
        {"from", {"from", "start", "sensor", "plug", "source"}},
        {"to", {"to", "end", "ecu", "cavity", "pin", "destination"}},
        {"colour", {"colour", "color", "wire colour", "wire color"}},
        {"area", {"area", "size", "gauge", "cross section", "mm²", "mm2", "awg"}},
        {"length", {"length", "long", "m", "cm", "mm"}}};
    return kColumns;
}

std::string cell(const ListLine& line, const char* column)
{
    const auto it = line.cells.find(column);
    return it == line.cells.end() ? std::string() : it->second;
}

class Reading
{
  public:
    Reading(const job::Job& job, const List& list) : m_job(job), m_list(list) {}

    PastedWire read(const ListLine& line)
    {
        PastedWire out{line.number, line.text, {}, {}};
        auto wire = wireOf(line, out.trouble);
        if (wire)
            out.wire = *wire;
        else
            out.trouble = wire.error().sentence;
        return out;
    }

  private:
    [[nodiscard]] std::string unit(const char* column, std::string_view usual) const
    {
        const auto it = m_list.units.find(column);
        return it == m_list.units.end() ? std::string(usual) : it->second;
    }

    Result<job::Wire> wireOf(const ListLine& line, std::string& assumed)
    {
        const auto from = placeTyped(m_job, cell(line, "from"));
        if (!from)
            return tl::make_unexpected(from.error());
        const auto to = placeTyped(m_job, cell(line, "to"));
        if (!to)
            return tl::make_unexpected(to.error());
        if (*from == *to)
            return fail(ErrorCode::Reference, phrase("both ends are at {}", from->text()));
        const auto drawn = std::ranges::find_if(m_job.wires, [&](const job::Wire& w) {
            return (w.from == *from && w.to == *to) || (w.from == *to && w.to == *from);
        });
        if (drawn != m_job.wires.end())
            return fail(ErrorCode::Reference, phrase("drawn already, as {}", drawn->id.value));
        job::Wire wire{{}, *from, *to, harness::kPlannedLength_m, harness::kPlannedArea_m2, {}};
        if (const std::string typed = cell(line, "colour"); !typed.empty()) {
            const auto letters = wires::parseColour(typed);
            if (!letters)
                return tl::make_unexpected(letters.error());
            wire.colour = *letters;
        } else {
            wire.colour = wires::freeColour(m_job, wire.from, wire.to);
            assumed += phrase("no colour: {}. ", wire.colour);
        }
        return areaOf(line, assumed)
            .and_then([&](double m2) {
                wire.area_m2 = m2;
                return lengthOf(line, assumed);
            })
            .map([&](double m) {
                wire.length_m = m;
                return wire;
            });
    }

    [[nodiscard]] Result<double> areaOf(const ListLine& line, std::string& assumed) const
    {
        const std::string typed = cell(line, "area");
        if (!typed.empty())
            return wires::areaTyped(typed, unit("area", units::pastedUnit(units::Dimension::Area, "mm²")));
        assumed += phrase("no area: 0.5 mm². ");
        return harness::kPlannedArea_m2;
    }

    [[nodiscard]] Result<double> lengthOf(const ListLine& line, std::string& assumed) const
    {
        const std::string typed = cell(line, "length");
        if (!typed.empty())
            return wires::lengthTyped(typed, unit("length", units::pastedUnit(units::Dimension::Length, "m")));
        assumed += phrase("no length: 1.5 m, as planned. ");
        return harness::kPlannedLength_m;
    }

    const job::Job& m_job;
    const List& m_list;
};

} // namespace

Result<std::vector<PastedWire>> pasteWires(const job::Job& job, std::string_view text)
{
    return readList(text, columns()).map([&](const List& list) {
        std::vector<PastedWire> out;
        Reading reading(job, list);
        std::map<std::pair<job::PointRef, job::PointRef>, int> seen;
        for (const ListLine& line : list.lines) {
            PastedWire& p = out.emplace_back(reading.read(line));
            if (!p.wire)
                continue;
            const auto ends = std::minmax(p.wire->from, p.wire->to);
            if (const auto [it, added] = seen.try_emplace({ends.first, ends.second}, line.number); !added) {
                p.wire.reset();
                p.trouble = phrase("the same wire as in line {}", std::to_string(it->second));
            }
        }
        return out;
    });
}

int drawPasted(job::Job& job, const std::vector<PastedWire>& pasted)
{
    int drawn = 0;
    for (const PastedWire& p : pasted)
        if (p.wire) {
            harness::drawWire(job, p.wire->from, p.wire->to, p.wire->length_m, p.wire->area_m2, p.wire->colour);
            ++drawn;
        }
    return drawn;
}

} // namespace vicegrip::pasted
