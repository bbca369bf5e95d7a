#include "core/switches/switch_levels.h"

#include "core/base/phrase.h"
#include "core/electrics/electrics.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace vicegrip::switches {
namespace {

constexpr double kProbe_ohm = 1000;
constexpr double kLeastGap_v = 0.6; ///< less between the thresholds, and a running engine's noise toggles it (typical)
constexpr double kDampPlug_ohm = 100e3, kTiredContact_ohm = 100; ///< (typical)
constexpr double kNever = std::numeric_limits<double>::infinity();

/// The input with this much across the contact; none: it is open.
Result<electrics::Bounded> inputWith(job::Job job, const job::Circuit& circuit, std::optional<double> ohm)
{
    job::Device& device = *std::ranges::find(job.devices, circuit.device, &job::Device::id);
    parts::Part sensor = *job::sensorOf(job, circuit);
    if (!parts::setContact(sensor, ohm))
        return fail(ErrorCode::Reference, phrase("{} is no switch on an ECU input", circuit.name));
    sensor.id = parts::PartId{sensor.id.value + " being tried"};
    device.part = sensor.id;
    job.parts.push_back(std::move(sensor));
    const auto car = electrics::build(job, {.surroundings = job.surroundings});
    if (!car)
        return tl::make_unexpected(car.error());
    const auto seen = car->inputVolts(job, circuit);
    if (!seen)
        return fail(ErrorCode::Reference, phrase("{} is on no input that has power", circuit.name));
    return *seen;
}

/// The input over the resistance across the contact: it goes to the open contact's volts as a divider does, by
/// Rt / (Rt + R).
struct Divider
{
    double open_v = 0, closed_v = 0, closed_ohm = 0, thevenin_ohm = 0;

    /// Of the closed contact, which has some resistance itself, and another one.
    static Divider through(const SwitchLevels& l, double closed_ohm, double other_v, double other_ohm)
    {
        const double closed = l.closed_v - l.open_v, other = other_v - l.open_v;
        return {l.open_v, l.closed_v, closed_ohm, (other * other_ohm - closed * closed_ohm) / (closed - other)};
    }

    /// The resistance at which the input stands at `threshold`.
    [[nodiscard]] double ohmAt(double threshold) const
    {
        const double left = (threshold - open_v) / (closed_v - open_v);
        return left <= 0 ? kNever : std::max(0.0, (thevenin_ohm + closed_ohm) / left - thevenin_ohm);
    }
};

std::string sentenceOf(const SwitchLevels& l, const parts::EcuInput& input)
{
    const auto volts = [](double v) { return units::format(v, units::Dimension::Voltage, "V", 2); };
    if (!l.apart) {
        if (std::abs(l.open_v - l.closed_v) < 0.1)
            return input.pull_up_ohm
                       ? phrase("Open and closed look alike: the switch does not reach this input.")
                       : phrase("Open and closed look alike: the input has no pull-up, and nothing lifts it.");
        return phrase("Open at {} and closed at {} are too near each other for thresholds that noise does not reach.",
                      volts(l.open_v), volts(l.closed_v));
    }
    std::string out =
        phrase("{}: below {} is {}, above {} is {}, between them it stays as it was.",
               l.closedIsLow ? phrase("Closed pulls it low") : phrase("Closed lifts it high"), volts(l.low_v),
               (l.closedIsLow ? "closed" : "open"), volts(l.high_v), (l.closedIsLow ? "open" : "closed"));
    if (l.leak_ohm > kDampPlug_ohm)
        out += phrase(" A damp plug looks closed ({}): give the input a stronger {}", units::formatOhms(l.leak_ohm),
                      (l.closedIsLow ? "pull-up." : "pull-down."));
    if (l.contact_ohm < kTiredContact_ohm)
        out += phrase(" A tired contact looks open ({}): give the input a weaker {}", units::formatOhms(l.contact_ohm),
                      (l.closedIsLow ? "pull-up." : "pull-down."));
    return out;
}

} // namespace

Result<SwitchLevels> switchLevels(const job::Job& job, const job::Circuit& circuit)
{
    const parts::Part* sensor = job::sensorOf(job, circuit);
    const parts::EcuInput* input = job::findInput(job, circuit.input);
    if (sensor == nullptr || input == nullptr || !parts::contactOhm(*sensor))
        return fail(ErrorCode::Reference, phrase("{} is no switch on an ECU input", circuit.name));
    const auto open = inputWith(job, circuit, {});
    const auto closed = inputWith(job, circuit, *parts::contactOhm(*sensor));
    const auto probed = inputWith(job, circuit, kProbe_ohm);
    for (const auto* r : {&open, &closed, &probed})
        if (!*r)
            return tl::make_unexpected(r->error());
    SwitchLevels out{.open_v = open->value,
                     .closed_v = closed->value,
                     .openWithin_v = {open->low, open->high},
                     .closedWithin_v = {closed->low, closed->high},
                     .low_v = 0,
                     .high_v = 0,
                     .contact_ohm = 0,
                     .leak_ohm = 0,
                     .apart = false,
                     .closedIsLow = closed->value < open->value,
                     .sentence = {}};
    const auto& [low, high] = out.closedIsLow ? std::pair(*closed, *open) : std::pair(*open, *closed);
    const double most = low.high, least = high.low;
    out.low_v = std::lerp(most, least, 1 / 3.0);
    out.high_v = std::lerp(most, least, 2 / 3.0);
    out.apart = out.high_v - out.low_v >= kLeastGap_v;
    if (out.apart && std::abs(probed->value - out.closed_v) > 1e-9) {
        const auto divider = Divider::through(out, *parts::contactOhm(*sensor), probed->value, kProbe_ohm);
        // It must come under the lower threshold to change when it pulls low, and over the upper one to change back.
        out.contact_ohm = divider.ohmAt(out.closedIsLow ? out.low_v : out.high_v);
        out.leak_ohm = divider.ohmAt(out.closedIsLow ? out.high_v : out.low_v);
    }
    out.sentence = sentenceOf(out, *input);
    return out;
}

} // namespace vicegrip::switches
