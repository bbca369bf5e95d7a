#include "core/findings/checks.h"

#include "core/base/phrase.h"
#include "core/findings/drive_checks.h"
#include "core/findings/end_checks.h"
#include "core/findings/pin_checks.h"
#include "core/findings/power_checks.h"
#include "core/findings/scale_checks.h"
#include "core/findings/seat_checks.h"
#include "core/units/shown.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

namespace vicegrip::findings {
namespace {

using proof::State;
using units::Dimension;

/// Shares of a range that are worth a word.
constexpr double kNoticeableOffset = 0.005, kNoticeableTableError = 0.01;

std::string millivolts(double v)
{
    return units::format(v, Dimension::Voltage, "mV", 0);
}

/// A difference of the circuit's value, in its shown unit.
std::string difference(const parts::Part& sensor, double si)
{
    const double size = std::abs(units::differenceToUnit(si, sensor.measures, sensor.unit));
    return units::formatDifference(si, sensor.measures, sensor.unit, size >= 10 ? 0 : size >= 1 ? 1 : 3);
}

void readings(std::vector<Finding>& out, const job::Circuit& circuit, const proof::CircuitView& view)
{
    for (const auto& [condition, stations] : view.stations) {
        for (const proof::Standing& s : stations) {
            const std::string where = circuit.name + ", " + s.place.station.label + ": ";
            if (s.state == State::Failing)
                out.push_back({"reading-fails", Severity::Fix, circuit.id, where + s.reason,
                               phrase("The circuit is not wired as drawn, or a part is not the one planned."),
                               phrase("Probe the neighbouring places: the fault lies between the last right reading "
                                      "and the first wrong one.")});
            if (s.state == State::Stale)
                out.push_back({"proof-stale", Severity::Fix, circuit.id, where + s.reason,
                               phrase("What was proved before the change says nothing about the circuit now."),
                               phrase("Measure it again.")});
        }
    }
}

void scalingOf(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit,
               const proof::CircuitView& view)
{
    const parts::Part* sensor = job::sensorOf(job, circuit);
    if (sensor == nullptr || circuit.input.empty() || view.scale == State::NotNeeded)
        return;
    if (!view.table) {
        out.push_back({"no-table", Severity::Fix, circuit.id,
                       phrase("{}: no scaling table, {}", circuit.name, view.tableTrouble),
                       phrase("The ECU cannot turn this input's volts into a value."),
                       phrase("Correct the input's mode or the range asked for.")});
        return;
    }
    const double span = circuit.scaling.high - circuit.scaling.low;
    const auto [least, most] = std::ranges::minmax(view.table->points, {}, &scaling::TablePoint::value);
    const double lost = std::max(least.value - circuit.scaling.low, circuit.scaling.high - most.value);
    if (lost > kNoticeableOffset * span)
        out.push_back(
            {"range-clipped", Severity::Fix, circuit.id,
             phrase("{}: {} of the range lies beyond what the input can read", circuit.name, difference(*sensor, lost)),
             phrase("The reading stops at the end of the converter's span while the real value goes on."),
             phrase("Take the ground offset away, or choose an input with a wider span.")});
    const bool saidAbove =
        lost > kNoticeableOffset * span && (view.table->worstAt < least.value || view.table->worstAt > most.value);
    const bool formula = view.table->formula.has_value();
    if (view.table->worstError > kNoticeableTableError * span && !saidAbove)
        out.push_back({"table-coarse", Severity::Note, circuit.id,
                       phrase("{}{}{} off at {} ({})", circuit.name,
                              (formula ? phrase(": the formula is ") : phrase(": the table is ")),
                              difference(*sensor, view.table->worstError),
                              units::format(view.table->worstAt, sensor->measures, sensor->unit, 1),
                              scaling::readingText(view.table->worstAtReading, view.table->axis)),
                       formula ? phrase("It does not follow the curve closely there.")
                               : phrase("Straight lines between {} points do not follow the curve closely there.",
                                        std::to_string(circuit.scaling.points)),
                       formula ? phrase("Take a higher degree, points if the ECU has them, or a shorter range.")
                       : circuit.scaling.breakpoints == job::Breakpoints::Even
                           ? phrase("Have the points placed best (Scale, Placed), or ask for more of them.")
                           : phrase("Ask for more points, or a shorter range.")});
}

} // namespace

void checkGroundOffset(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit,
                       const electrics::Electrics& car, const proof::CircuitView& view)
{
    const auto it = car.circuits.find(circuit.id);
    const parts::Part* sensor = job::sensorOf(job, circuit);
    if (it == car.circuits.end() || !it->second.sensorGround || !it->second.input || sensor == nullptr ||
        !view.travel || parts::countsValue(*sensor)) // a frequency forgives it
        return;
    const double offset = car.solution.volts(*it->second.sensorGround, car.units[it->second.input->unit].ground);
    const auto [span, travel] = *view.travel;
    if (travel == 0 || std::abs(offset) < kNoticeableOffset * std::abs(travel)) // 0: nothing is read there at all
        return;
    out.push_back(
        {"ground-offset", Severity::Fix, circuit.id,
         phrase("{}: its ground stands {}{} the ECU's, worth {}", circuit.name, millivolts(std::abs(offset)),
                (offset > 0 ? phrase(" above") : phrase(" below")), difference(*sensor, offset / travel * span)),
         phrase(
             "Current of other consumers on the same ground wire is read as signal, and it comes and goes with them."),
         phrase("Return the signal's ground to the ECU, and give the heater a ground wire of its own.")});
}

namespace {

/// Wires that end nowhere hold whatever voltage leaks into them. Cavities without a wire are not worth a word.
void floatingWires(std::vector<Finding>& out, const job::Job& job, const electrics::Electrics& car)
{
    std::set<job::PointRef> wired;
    for (const job::Wire& w : job.wires)
        wired.insert({w.from, w.to});
    std::map<circuit::Node, job::PointRef> places;
    for (const auto& [point, node] : car.nodes)
        if (wired.contains(point))
            places.try_emplace(node, point);
    for (const auto& part : car.solution.floating()) {
        std::string names;
        for (circuit::Node node : part)
            if (const auto it = places.find(node); it != places.end())
                names += (names.empty() ? "" : ", ") + job::spoken(job, it->second);
        if (!names.empty())
            out.push_back({"floating-part",
                           Severity::Note,
                           {},
                           phrase("Nothing ties these places to the battery or to ground: {}", names),
                           phrase("A meter there shows whatever leaks in, and no expected reading can be relied on."),
                           phrase("Draw what joins them, or take the wires out.")});
    }
}

void supplyBudget(std::vector<Finding>& out, const job::Job& job, const electrics::Electrics& car)
{
    const auto units = job::units(job);
    for (size_t u = 0; u < car.units.size(); ++u) {
        const double amps = car.supplyCurrent(u), limit = units[u]->supply.limit_a;
        if (amps > limit)
            out.push_back({"supply-budget",
                           Severity::Fix,
                           {},
                           phrase("The sensor supply of {} delivers {} of {}", units[u]->name,
                                  units::format(amps, Dimension::Current, "mA", 0),
                                  units::format(limit, Dimension::Current, "mA", 0)),
                           phrase("Overloaded, it sags, and every sensor on it reads low."),
                           phrase("Feed some sensors from elsewhere, or find the short.")});
    }
}

} // namespace

std::string_view severityName(Severity severity)
{
    switch (severity) {
    case Severity::Stop:
        return "stop";
    case Severity::Fix:
        return "fix";
    case Severity::Note:
        return "note";
    }
    return {};
}

void sort(std::vector<Finding>& findings)
{
    std::ranges::stable_sort(findings, {}, [](const Finding& f) { return f.severity; });
}

void checkDrawn(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit,
                const electrics::Wiring& wiring, const std::vector<electrics::Path>& paths)
{
    checkEnds(out, job, circuit, wiring, paths);
    checkSeat(out, circuit, wiring);
    checkDrive(out, circuit, wiring);
    checkGroundPlace(out, circuit, wiring, paths);
}

void checkCircuit(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit,
                  const proof::CircuitView& view)
{
    checkRange(out, job, circuit);
    readings(out, circuit, view);
    scalingOf(out, job, circuit, view);
    checkValues(out, job, circuit, view);
    checkSupply(out, job, circuit, view);
    checkReadings(out, job, circuit, view);
}

void checkDrawing(std::vector<Finding>& out, const job::Job& job, const electrics::Wiring& wiring,
                  const electrics::Electrics* car, const std::string& trouble)
{
    checkPower(out, job, wiring);
    if (car == nullptr) {
        out.push_back({"no-answer",
                       Severity::Stop,
                       {},
                       phrase("The drawing has no electrical answer: {}", trouble),
                       phrase("Without one there are no expected readings."),
                       phrase("Take the contradiction out of the drawing.")});
        return;
    }
    supplyBudget(out, job, *car);
    floatingWires(out, job, *car);
}

} // namespace vicegrip::findings
