#include "core/base/phrase.h"
#include "core/harness/edits.h"
#include "core/harness/places.h"
#include "core/lists/taking.h"
#include "core/pasted/pasted_list.h"
#include "core/wires/colour.h"
#include "core/wires/colour_plan.h"
#include "core/wires/joins.h"
#include "core/wires/wire_typed.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <utility>

namespace vicegrip::lists {
namespace {

/// What a row would make of a wire. A cell that is empty says nothing.
class WireRow
{
  public:
    WireRow(Taking& taking, const Row& row) : m_taking(taking), m_row(row) {}

    [[nodiscard]] bool isBeyond() const
    {
        return cell("from").value_or("-").empty() && cell("to").value_or("-").empty();
    }

    /// False: a note says why.
    bool apply(job::Wire& wire)
    {
        m_fine = true;
        const job::PointRef from = wire.from, to = wire.to;
        place("from", wire.from);
        place("to", wire.to);
        if (wire.from == to && wire.to == from) // told from its other end: the same wire
            std::swap(wire.from, wire.to);
        if (m_fine && wire.from == wire.to)
            stop(phrase("both ends are at {}", wire.from.text()));
        if (const std::string typed = cell("colour").value_or(""); !typed.empty() && typed != wire.colour)
            take(wires::parseColour(typed), wire.colour);
        measure("area_mm2", wire.area_m2, 1e-6,
                [](const std::string& typed) { return wires::areaTyped(typed, "mm²"); });
        measure("length_m", wire.length_m, 1, [](const std::string& typed) { return wires::lengthTyped(typed, "m"); });
        return m_fine;
    }

    [[nodiscard]] std::optional<std::string> cell(const char* column) const { return cellOf(m_row, column); }

    void stop(std::string sentence)
    {
        m_fine = false;
        m_taking.stop(m_row.line, std::move(sentence));
    }

  private:
    template <class T> void take(Result<T> typed, T& to)
    {
        if (typed)
            to = *std::move(typed);
        else
            stop(typed.error().sentence);
    }

    void place(const char* column, job::PointRef& end)
    {
        const auto typed = cell(column);
        if (typed && (*typed != end.text() || end.empty()))
            take(pasted::placeTyped(m_taking.job, *typed), end);
    }

    /// A list rounds: what is the same to its last digit has not changed.
    template <class Read> void measure(const char* column, double& to, double unit, Read read)
    {
        constexpr double kLastDigit = 1e-3;
        const std::string typed = cell(column).value_or("");
        if (typed.empty())
            return;
        double now = to;
        take(read(typed), now);
        if (std::abs(now - to) > 0.51 * kLastDigit * unit)
            to = now;
    }

    Taking& m_taking;
    const Row& m_row;
    bool m_fine = true;
};

void draw(Taking& taking, WireRow& row, int line, const std::string& name)
{
    job::Wire wire{{name}, {}, {}, 0, 0, {}};
    if (!row.cell("from") || !row.cell("to"))
        return row.stop(phrase("a new wire has its two ends: the columns from and to"));
    if (!row.apply(wire))
        return;
    std::string assumed;
    if (wire.colour.empty()) {
        wire.colour = wires::freeColour(taking.job, wire.from, wire.to);
        assumed += phrase("no colour: {}. ", wire.colour);
    }
    if (wire.area_m2 == 0) {
        wire.area_m2 = harness::kPlannedArea_m2;
        assumed += phrase("no area: 0.5 mm². ");
    }
    if (wire.length_m == 0) {
        wire.length_m = harness::kPlannedLength_m;
        assumed += phrase("no length: 1.5 m, as planned. ");
    }
    if (name.empty())
        harness::drawWire(taking.job, wire.from, wire.to, wire.length_m, wire.area_m2, wire.colour);
    else
        taking.job.wires.push_back(std::move(wire));
    if (!assumed.empty())
        taking.assume(line, assumed);
}

} // namespace

void takeWires(Taking& taking, const std::vector<Row>& rows)
{
    std::map<std::string, int> seen;
    std::vector<job::WireId> gone;
    for (const Row& r : rows) {
        WireRow row(taking, r);
        const std::string name = row.cell("wire").value_or("");
        if (const auto [it, first] = seen.emplace(name, r.line); !first && !name.empty()) {
            row.stop(phrase("{} stands in line {} too", name, std::to_string(it->second)));
            continue;
        }
        const auto wire = std::ranges::find(taking.job.wires, job::WireId{name}, &job::Wire::id);
        if (row.isBeyond() && wire == taking.job.wires.end())
            row.stop(name.empty() ? phrase("neither a wire nor its ends stand there")
                                  : phrase("no wire {} is there to be taken out", name));
        else if (row.isBeyond())
            gone.push_back(wire->id);
        else if (wire == taking.job.wires.end())
            draw(taking, row, r.line, name);
        else
            row.apply(*wire);
    }
    if (!gone.empty())
        wires::removeWires(taking.job, gone);
}

} // namespace vicegrip::lists
