#include "core/inputs/switch_levels.h"

#include "core/electrics/electrics.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace vicegrip::inputs {
namespace {

constexpr double kProbe_ohm = 1000;
constexpr double kLeastGap_v = 0.6; ///< less between the thresholds, and a running engine's noise toggles it (typical)
constexpr double kDampPlug_ohm = 100e3, kTiredContact_ohm = 100; ///< (typical)
constexpr double kNever = std::numeric_limits<double>::infinity();

/// The input with this much across the contact; none: it is open.
Result<electrics::Bounded> inputWith(job::Job job, const job::Circuit& circuit, std::optional<double> ohm)
{
    job::Device& device = *std::ranges::find(job.devices, circuit.device, &job::Device::id);
    parts::Sensor sensor = *job::sensorOf(job, circuit);
    auto& contact = std::get<parts::Contact>(sensor.model);
    contact.closedAtRest = ohm.has_value();
    contact.on_ohm = ohm.value_or(contact.on_ohm);
    sensor.id = parts::PartId{sensor.id.value + " being tried"};
    device.part = sensor.id;
    job.parts.push_back(std::move(sensor));
    const auto car = electrics::build(job, {.surroundings = job.surroundings});
    if (!car)
        return tl::make_unexpected(car.error());
    const auto seen = car->inputVolts(job, circuit);
    if (!seen)
        return fail(ErrorCode::Reference, circuit.name + " is on no input that has power");
    return *seen;
}

/// The resistance across the contact at which the input stands at `threshold`: it goes from closed to open as a
/// divider does, by R / (R + Rt).
double ohmAt(double threshold, const SwitchLevels& l, double thevenin_ohm)
{
    const double way = (threshold - l.closed_v) / (l.open_v - l.closed_v);
    return way >= 1 ? kNever : way <= 0 ? 0 : thevenin_ohm * way / (1 - way);
}

std::string wordsOf(const SwitchLevels& l, const parts::EcuInput& input)
{
    const auto volts = [](double v) { return units::format(v, units::Dimension::Voltage, "V", 2); };
    if (!l.apart) {
        if (std::abs(l.open_v - l.closed_v) < 0.1)
            return input.pull_up_ohm ? "Open and closed look alike: the switch does not reach this input."
                                     : "Open and closed look alike: the input has no pull-up, and nothing lifts it.";
        return "Open at " + volts(l.open_v) + " and closed at " + volts(l.closed_v) +
               " are too near each other for thresholds that noise does not reach.";
    }
    std::string out = std::string(l.closedIsLow ? "Closed pulls it low" : "Closed lifts it high") + ": below " +
                      volts(l.low_v) + " is " + (l.closedIsLow ? "closed" : "open") + ", above " + volts(l.high_v) +
                      " is " + (l.closedIsLow ? "open" : "closed") + ", between them it stays as it was.";
    if (l.leak_ohm > kDampPlug_ohm)
        out += " A damp plug looks closed (" + units::formatOhms(l.leak_ohm) + "): give the input a stronger " +
               (l.closedIsLow ? "pull-up." : "pull-down.");
    if (l.contact_ohm < kTiredContact_ohm)
        out += " A tired contact looks open (" + units::formatOhms(l.contact_ohm) + "): give the input a weaker " +
               (l.closedIsLow ? "pull-up." : "pull-down.");
    return out;
}

} // namespace

Result<SwitchLevels> switchLevels(const job::Job& job, const job::Circuit& circuit)
{
    const parts::Sensor* sensor = job::sensorOf(job, circuit);
    const parts::EcuInput* input = job::findInput(job, circuit.input);
    if (sensor == nullptr || input == nullptr || !std::holds_alternative<parts::Contact>(sensor->model))
        return fail(ErrorCode::Reference, circuit.name + " is no switch on an ECU input");
    const auto open = inputWith(job, circuit, {});
    const auto closed = inputWith(job, circuit, std::get<parts::Contact>(sensor->model).on_ohm);
    const auto probed = inputWith(job, circuit, kProbe_ohm);
    for (const auto* r : {&open, &closed, &probed})
        if (!*r)
            return tl::make_unexpected(r->error());
    SwitchLevels out{.open_v = open->value,
                     .closed_v = closed->value,
                     .openWorst_v = open->worst,
                     .closedWorst_v = closed->worst,
                     .low_v = 0,
                     .high_v = 0,
                     .contact_ohm = 0,
                     .leak_ohm = 0,
                     .apart = false,
                     .closedIsLow = closed->value < open->value,
                     .words = {}};
    const auto& [low, high] = out.closedIsLow ? std::pair(*closed, *open) : std::pair(*open, *closed);
    const double most = low.value + low.worst, least = high.value - high.worst;
    out.low_v = std::lerp(most, least, 1 / 3.0);
    out.high_v = std::lerp(most, least, 2 / 3.0);
    out.apart = out.high_v - out.low_v >= kLeastGap_v;
    const double toProbe = out.open_v - probed->value;
    if (out.apart && std::abs(probed->value - out.closed_v) > 1e-9) {
        const double thevenin_ohm = kProbe_ohm * toProbe / (probed->value - out.closed_v);
        // It must come under the lower threshold to change when it pulls low, and over the upper one to change back.
        out.contact_ohm = ohmAt(out.closedIsLow ? out.low_v : out.high_v, out, thevenin_ohm);
        out.leak_ohm = ohmAt(out.closedIsLow ? out.high_v : out.low_v, out, thevenin_ohm);
    }
    out.words = wordsOf(out, *input);
    return out;
}

} // namespace vicegrip::inputs
