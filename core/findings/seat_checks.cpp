#include "core/findings/seat_checks.h"

#include "core/brief/range.h"
#include "core/electrics/electrics.h"
#include "core/harness/edits.h"
#include "core/seating/compatibility.h"

#include <algorithm>

namespace vicegrip::findings {
namespace {

using seating::Incompatibility;

struct CompatibilityRule
{
    std::string_view rule;
    const char* why;
    const char* todo;
};

CompatibilityRule ruleOf(Incompatibility kind)
{
    switch (kind) {
    case Incompatibility::Function:
        return {"input-function", "The firmware takes what it reads there for something else.",
                "Seat it on an input that is free, or on the one meant for it."};
    case Incompatibility::Coil:
        return {"input-coil", "A coil's voltage swings below ground, and the input neither sees nor stands it.",
                "Use an input for coils, a conditioner, or a Hall sensor."};
    case Incompatibility::Frequency:
        return {"over-frequency", "Above its limit the input loses edges, and the value stands still or falls.",
                "Use a faster input, or divide the frequency."};
    case Incompatibility::Volts:
        return {"over-volts", "Above the span the reading stands still while the real value goes on.",
                "Fit a divider, or take a version of the sensor for this span."};
    case Incompatibility::Damage:
        return {"over-volts", "The input is damaged by it.",
                "Do not connect it. Fit a divider, or take a version of the sensor for this span."};
    default:
        return {"input-mode", "The input cannot be set to take this kind of signal.",
                "Seat it on an input that takes it."};
    }
}

std::string seatText(const job::Circuit& circuit)
{
    return circuit.name + " on input " + circuit.input.value;
}

void unseated(std::vector<Finding>& out, const job::Circuit& circuit)
{
    const bool required = circuit.want == job::Want::Required;
    out.push_back({"unseated", required ? Severity::Stop : Severity::Note, circuit.id,
                   circuit.name + " has no input on the ECU",
                   required ? "The engine cannot be run without it." : "What it measures is not seen.",
                   "Seat it at Inputs; where no input takes it, the ways out stand there."});
}

void setOtherwise(std::vector<Finding>& out, const job::Circuit& circuit, const parts::Sensor& sensor,
                  const parts::EcuInput& input)
{
    const auto wanted = harness::suitingMode(input, sensor);
    const bool switchAsVolts =
        parts::signalOf(sensor) == parts::SignalKind::OnOff && input.setTo == parts::InputMode::Analog;
    if (!wanted || !input.setTo || *wanted == *input.setTo || switchAsVolts)
        return;
    const std::string set(fields::enumName(*input.setTo)), needed(fields::enumName(*wanted));
    out.push_back({"mode-set-otherwise", Severity::Fix, circuit.id,
                   seatText(circuit) + ": the input is set to " + set + ", and the sensor needs " + needed,
                   "The wire is right and the meter reads what it must, but the ECU shows no value, or a wrong one.",
                   "Set input " + input.id.value + " to " + needed + " in the ECU, and say so at Inputs."});
}

void pullUps(std::vector<Finding>& out, const job::Circuit& circuit, const parts::Sensor& sensor,
             const parts::EcuInput& input, const job::Resistor* fitted)
{
    const bool collector = std::holds_alternative<parts::OpenCollector>(sensor.model);
    if (fitted != nullptr && input.pull_up_ohm)
        out.push_back({"pull-up-doubled", Severity::Fix, circuit.id,
                       seatText(circuit) + " has two pull-ups: " + units::formatOhms(*input.pull_up_ohm) +
                           " in the ECU and " + units::formatOhms(fitted->ohm) + " in the harness",
                       "Side by side they are a smaller one: every reading is off the planned curve.",
                       "Switch the ECU's off, or take the one in the harness out."});
    if (parts::needsPullUp(sensor) && fitted == nullptr && !input.pull_up_ohm)
        out.push_back(
            {"pull-up-missing", Severity::Fix, circuit.id,
             circuit.name + ": input " + input.id.value + " has no pull-up, and " +
                 (collector ? "an open collector only pulls down" : "the sensor puts out no voltage of its own"),
             collector ? "There are no edges to count." : "The input stays near 0 V at every value.",
             "Switch the pull-up on, fit one outside, or use another input."});
    if (!parts::needsPullUp(sensor) && input.pull_up_ohm && parts::signalOf(sensor) == parts::SignalKind::Voltage)
        out.push_back({"pull-up-unwanted", Severity::Note, circuit.id,
                       circuit.name + ": the pull-up of input " + input.id.value + " (" +
                           units::formatOhms(*input.pull_up_ohm) + ") loads a sensor that drives its own voltage",
                       "It lifts the signal, most near 0 V, and hides a broken wire as a full-scale reading.",
                       "Switch the pull-up off; the table already allows for it while it is on."});
}

} // namespace

void checkSeat(std::vector<Finding>& out, const job::Circuit& circuit, const electrics::Wiring& wiring)
{
    const job::Job& job = wiring.job();
    const parts::Sensor* sensor = job::sensorOf(job, circuit);
    const parts::EcuInput* input = job::findInput(job, circuit.input);
    if (sensor == nullptr)
        return;
    if (input == nullptr) {
        unseated(out, circuit);
        return;
    }
    pullUps(out, circuit, *sensor, *input, wiring.pullUp(circuit));
    setOtherwise(out, circuit, *sensor, *input);
    const seating::Compatibility compatibility = seating::compatibility(wiring, circuit, *input);
    if (compatibility.compatible() || compatibility.kind == Incompatibility::PullUp)
        return;
    const CompatibilityRule rule = ruleOf(compatibility.kind);
    out.push_back({std::string(rule.rule), Severity::Stop, circuit.id, seatText(circuit) + ": " + compatibility.reason,
                   rule.why, rule.todo});
}

void checkRange(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit)
{
    const parts::Sensor* sensor = job::sensorOf(job, circuit);
    if (!job.brief || sensor == nullptr)
        return;
    const auto marks = brief::marksOf(circuit.function, *job.brief, job.surroundings.barometer_pa);
    if (marks.empty())
        return;
    const parts::EcuInput plain;
    const parts::EcuInput* input = job::findInput(job, circuit.input);
    const brief::Candidate c = brief::rated(*sensor, marks, input == nullptr ? plain : *input,
                                            input == nullptr ? plain.span_v : electrics::fullScaleVolts(job, *input),
                                            job.surroundings.barometer_pa);
    if (!c.reads)
        out.push_back({"range-short", Severity::Fix, circuit.id, circuit.name + ", " + sensor->name + ": " + c.verdict,
                       "Where the range ends the reading stands still: a log that flattens there shows the sensor, not "
                       "the engine.",
                       "Take a sensor whose range covers it: the Brief ranks them."});
}

void checkGroundPlace(std::vector<Finding>& out, const job::Circuit& circuit, const electrics::Wiring& wiring,
                      const std::vector<electrics::Path>& paths)
{
    const job::Job& job = wiring.job();
    const parts::Sensor* sensor = job::sensorOf(job, circuit);
    if (sensor == nullptr || sensor->kind != parts::SensorKind::Wideband)
        return;
    const auto ground = std::ranges::find(paths, parts::PinRole::Ground, &electrics::Path::role);
    if (ground == paths.end() || !ground->complete)
        return;
    const job::Joint* stud = wiring.joint(ground->points.back());
    const auto ecuStuds = wiring.groundEnds();
    if (stud == nullptr || stud->kind != job::JointKind::Stud || ecuStuds.empty())
        return;
    const bool shared = std::ranges::any_of(ecuStuds, [&](const job::Joint* j) { return j->body == stud->body; });
    if (!shared)
        out.push_back({"wideband-ground", Severity::Fix, circuit.id,
                       circuit.name + " returns to the " + stud->body + " (" + job::spoken(job, ground->points.back()) +
                           ") and the ECU to the " + ecuStuds.front()->body,
                       "Whatever flows between the two adds to its voltage: an offset becomes a mixture error and a "
                       "wrong correction.",
                       "Take its power, ground and signal ground to where the ECU's go."});
}

} // namespace vicegrip::findings
