#include "core/findings/seat_checks.h"

#include "core/base/phrase.h"
#include "core/brief/range.h"
#include "core/electrics/electrics.h"
#include "core/seating/compatibility.h"

#include <algorithm>

namespace vicegrip::findings {
namespace {

using seating::Incompatibility;

struct CompatibilityRule
{
    std::string_view rule;
    std::string why;
    std::string todo;
};

CompatibilityRule ruleOf(Incompatibility kind)
{
    switch (kind) {
    case Incompatibility::Function:
        return {"input-function", phrase("The firmware takes what it reads there for something else."),
                phrase("Seat it on an input that is free, or on the one meant for it.")};
    case Incompatibility::Coil:
        return {"input-coil", phrase("A coil's voltage swings below ground, and the input neither sees nor stands it."),
                phrase("Use an input for coils, a conditioner, or a Hall sensor.")};
    case Incompatibility::Frequency:
        return {"over-frequency", phrase("Above its limit the input loses edges, and the value stands still or falls."),
                phrase("Use a faster input, or divide the frequency.")};
    case Incompatibility::Volts:
        return {"over-volts", phrase("Above the span the reading stands still while the real value goes on."),
                phrase("Fit a divider, or take a version of the sensor for this span.")};
    case Incompatibility::Damage:
        return {"over-volts", phrase("The input is damaged by it."),
                phrase("Do not connect it. Fit a divider, or take a version of the sensor for this span.")};
    default:
        return {"input-mode", phrase("The input cannot be set to take this kind of signal."),
                phrase("Seat it on an input that takes it.")};
    }
}

std::string seatText(const job::Circuit& circuit)
{
    return phrase("{} on input {}", circuit.name, circuit.input.value);
}

void unseated(std::vector<Finding>& out, const job::Circuit& circuit)
{
    const bool required = circuit.want == job::Want::Required;
    out.push_back({"unseated", required ? Severity::Stop : Severity::Note, circuit.id,
                   phrase("{} has no input on the ECU", circuit.name),
                   required ? phrase("The engine cannot be run without it.") : phrase("What it measures is not seen."),
                   phrase("Seat it at Inputs; where no input takes it, the ways out stand there.")});
}

void setOtherwise(std::vector<Finding>& out, const job::Circuit& circuit, const parts::Part& sensor,
                  const parts::EcuInput& input)
{
    if (!parts::isSetOtherwise(input, sensor))
        return;
    const std::string set = phrase(fields::enumName(*input.setTo));
    const std::string needed = phrase(fields::enumName(*parts::suitingMode(input, sensor)));
    out.push_back(
        {"mode-set-otherwise", Severity::Fix, circuit.id,
         phrase("{}: the input is set to {}, and the sensor needs {}", seatText(circuit), set, needed),
         phrase("The wire is right and the meter reads what it must, but the ECU shows no value, or a wrong one."),
         phrase("Set input {} to {} in the ECU, and say so at Inputs.", input.id.value, needed)});
}

void pullUps(std::vector<Finding>& out, const job::Circuit& circuit, const parts::Part& sensor,
             const parts::EcuInput& input, const job::Resistor* fitted)
{
    const bool collector = parts::pulsesOf(sensor).has_value();
    if (fitted != nullptr && input.pull_up_ohm)
        out.push_back({"pull-up-doubled", Severity::Fix, circuit.id,
                       phrase("{} has two pull-ups: {} in the ECU and {} in the harness", seatText(circuit),
                              units::formatOhms(*input.pull_up_ohm), units::formatOhms(fitted->ohm)),
                       phrase("Side by side they are a smaller one: every reading is off the planned curve."),
                       phrase("Switch the ECU's off, or take the one in the harness out.")});
    if (parts::needsPullUp(sensor) && fitted == nullptr && !input.pull_up_ohm)
        out.push_back(
            {"pull-up-missing", Severity::Fix, circuit.id,
             phrase("{}: input {} has no pull-up, and {}", circuit.name, input.id.value,
                    (collector ? phrase("an open collector only pulls down")
                               : phrase("the sensor puts out no voltage of its own"))),
             collector ? phrase("There are no edges to count.") : phrase("The input stays near 0 V at every value."),
             phrase("Switch the pull-up on, fit one outside, or use another input.")});
    if (!parts::needsPullUp(sensor) && input.pull_up_ohm && parts::signalOf(sensor) == parts::SignalKind::Voltage)
        out.push_back({"pull-up-unwanted", Severity::Note, circuit.id,
                       phrase("{}: the pull-up of input {} ({}) loads a sensor that drives its own voltage",
                              circuit.name, input.id.value, units::formatOhms(*input.pull_up_ohm)),
                       phrase("It lifts the signal, most near 0 V, and hides a broken wire as a full-scale reading."),
                       phrase("Switch the pull-up off; the table already allows for it while it is on.")});
}

/// By the other edge an open collector counts where a tooth ends, and a coil where the middle of a gap is.
void edges(std::vector<Finding>& out, const job::Circuit& circuit, const parts::Part& sensor)
{
    const auto sharp = job::sharpEdge(sensor);
    if (!sharp || !circuit.trigger || !circuit.trigger->edge || circuit.trigger->edge == sharp)
        return;
    const bool coil = parts::traitsOf(sensor).alternating;
    out.push_back(
        {"wheel-edge", coil ? Severity::Fix : Severity::Note, circuit.id,
         phrase("{}: the ECU counts its {} edge", circuit.name, phrase(fields::enumName(*circuit.trigger->edge))),
         coil ? phrase("Between two teeth a coil's volts rise through zero wherever gap and speed put it: "
                       "beside a missing tooth the ECU loses where the engine stands.")
              : phrase(
                    "It falls at once, and rises as slowly as its pull-up fills the cable: what rises comes late, and "
                    "later with another cable."),
         coil ? phrase("Count the falling one; or, if it was found by a capture, exchange the coil's wires "
                       "in its plug.")
              : phrase("Count the falling one, unless the unit turns the signal over: a capture shows it.")});
}

} // namespace

void checkSeat(std::vector<Finding>& out, const job::Circuit& circuit, const electrics::Wiring& wiring)
{
    const job::Job& job = wiring.job();
    const parts::Part* sensor = job::sensorOf(job, circuit);
    const parts::EcuInput* input = job::findInput(job, circuit.input);
    if (sensor == nullptr)
        return;
    if (input == nullptr) {
        unseated(out, circuit);
        return;
    }
    pullUps(out, circuit, *sensor, *input, wiring.pullUp(circuit));
    setOtherwise(out, circuit, *sensor, *input);
    edges(out, circuit, *sensor);
    const seating::Compatibility compatibility = seating::compatibility(wiring, circuit, *input);
    if (compatibility.compatible() || compatibility.kind == Incompatibility::PullUp)
        return;
    const CompatibilityRule rule = ruleOf(compatibility.kind);
    out.push_back({std::string(rule.rule), Severity::Stop, circuit.id, seatText(circuit) + ": " + compatibility.reason,
                   rule.why, rule.todo});
}

void checkRange(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit)
{
    const parts::Part* sensor = job::sensorOf(job, circuit);
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
                       phrase("Where the range ends the reading stands still: a log that flattens there shows the "
                              "sensor, not the engine."),
                       phrase("Take a sensor whose range covers it: the Brief ranks them.")});
}

void checkGroundPlace(std::vector<Finding>& out, const job::Circuit& circuit, const electrics::Wiring& wiring,
                      const std::vector<electrics::Path>& paths)
{
    const job::Job& job = wiring.job();
    const parts::Part* sensor = job::sensorOf(job, circuit);
    if (sensor == nullptr || sensor->kind != parts::PartUse::Wideband)
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
                       phrase("{} returns to the {} ({}) and the ECU to the {}", circuit.name, stud->body,
                              job::spoken(job, ground->points.back()), ecuStuds.front()->body),
                       phrase("Whatever flows between the two adds to its voltage: an offset becomes a mixture error "
                              "and a wrong correction."),
                       phrase("Take its power, ground and signal ground to where the ECU's go.")});
}

} // namespace vicegrip::findings
