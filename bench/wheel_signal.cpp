#include "bench/wheel_signal.h"

#include "bench/turned.h"

#include "core/electrics/readings.h"
#include "core/trigger/sensed.h"

#include <algorithm>
#include <cmath>
#include <random>

namespace vicegrip::bench {
namespace {

constexpr double kScope_ohm = 1e6, kScope_v = 5e-3; // its load, and its own noise (typical)

/// What one wheel's sensor makes of two places.
struct Moves
{
    const job::Circuit* circuit = nullptr;
    double swing_v = 0;
    electrics::PulseLevels levels; ///< of one that switches
    double share = 0; ///< of a coil's own volts, with its sign; 0: it is none
    double settles_s = 0; ///< of a coil into its load: inductance over the ohms round it
};

std::optional<circuit::Node> pinOf(const TurningCar& car, const job::Circuit& circuit, parts::PinRole role)
{
    const job::Device* device = job::find(car.job, circuit.device);
    const parts::Part* sensor = job::sensorOf(car.job, circuit);
    for (const auto& [pin, does] : sensor->pins)
        if (does == role)
            return car.electrics.node({device->connector, pin});
    return std::nullopt;
}

/// Of one volt in the coil: the transfer resistance between its pins and the two places, by four resistances between
/// them with all sources dead (the network is reciprocal), over its own ohms.
void moveByCoil(const TurningCar& car, const parts::VariableReluctance& coil, circuit::Node red, circuit::Node black,
                Moves& out)
{
    const auto plus = pinOf(car, *out.circuit, parts::PinRole::Signal),
               minus = pinOf(car, *out.circuit, parts::PinRole::Ground);
    if (!plus || !minus || coil.coil_ohm <= 0)
        return;
    const auto ohms = car.electrics.solution.ohmmeters(
        {{*plus, black}, {*minus, red}, {*plus, red}, {*minus, black}, {*plus, *minus}});
    const double transfer_ohm = (ohms[0].value + ohms[1].value - ohms[2].value - ohms[3].value) / 2;
    out.share = transfer_ohm / coil.coil_ohm;
    const double both_ohm = ohms[4].value, load_ohm = both_ohm < coil.coil_ohm
                                                          ? both_ohm * coil.coil_ohm / (coil.coil_ohm - both_ohm)
                                                          : kScope_ohm;
    out.settles_s = coil.coil_h / (coil.coil_ohm + load_ohm);
    out.swing_v = std::abs(out.share) * coil.peak_v;
}

Moves strongest(const TurningCar& car, const job::PointRef& red, const job::PointRef& black)
{
    Moves best;
    for (const job::Circuit& c : car.job.circuits) {
        if (!job::readsWheel(car.job, c) || !c.trigger || !trigger::readWheel(c.trigger->wheel))
            continue;
        Moves one;
        one.circuit = &c;
        const parts::Part& sensor = *job::sensorOf(car.job, c);
        if (const auto* coil = std::get_if<parts::VariableReluctance>(&sensor.model)) {
            moveByCoil(car, *coil, *car.electrics.node(red), *car.electrics.node(black), one);
        } else if (const auto output = parts::pulsesOf(sensor)) {
            if (const auto levels = electrics::pulseLevels(car.electrics, c, *output, red, black)) {
                one.levels = *levels;
                one.swing_v = std::abs(levels->high_v - levels->low_v);
            }
        }
        if (one.swing_v > best.swing_v)
            best = one;
    }
    return best;
}

trigger::Disturbance disturbanceOf(const TurningCar& car, const job::Circuit& circuit, const faults::WheelOff& stands)
{
    trigger::Disturbance out;
    out.seed = car.seed;
    for (const int tooth : stands.chipped)
        out.missing.push_back(tooth - 1);
    for (const faults::Fault& fault : car.faults) {
        if (const auto* noisy = std::get_if<faults::NoisySignal>(&fault); noisy && noisy->circuit == circuit.id) {
            out.noise_v = noisy->noise_v;
            out.burst_v = noisy->burst_v;
            out.dropOuts_hz = noisy->dropOuts_hz;
        }
        if (const auto* belt = std::get_if<faults::SlackBelt>(&fault); belt && belt->circuit == circuit.id) {
            out.belt.stretch_deg = belt->stretch_deg;
            out.belt.swing_deg = belt->swing_deg;
        }
    }
    return out;
}

/// A coil whose volts at the usual gap are what its part promises at the top of its range.
trigger::ReluctanceSensor reluctanceOf(const parts::Part& sensor, const trigger::Wheel& wheel)
{
    constexpr double kUsualGap_m = 1.2e-3, kUsual_v = 8;
    trigger::ReluctanceSensor out;
    out.volts = kUsual_v;
    const auto& coil = std::get<parts::VariableReluctance>(sensor.model);
    const std::vector<double> steps = trigger::stepsOf(wheel, false);
    const double step_deg = *std::ranges::min_element(steps);
    if (coil.peak_v > 0 && sensor.high > 0)
        out.volts =
            coil.peak_v * trigger::kCrankTurn_deg / (sensor.high * step_deg) * std::exp(kUsualGap_m / out.decay_m);
    return out;
}

std::vector<float> moved(const TurningCar& car, const Moves& by, double step_s, std::size_t samples)
{
    if (by.circuit == nullptr || !car.turning)
        return {};
    const job::Circuit& circuit = *by.circuit;
    const trigger::Wheel wheel = *trigger::readWheel(circuit.trigger->wheel);
    const parts::Part& sensor = *job::sensorOf(car.job, circuit);
    const faults::WheelOff stands = standsBefore(circuit, car.faults);
    const trigger::Clearance clearance{stands.gap_m, stands.runOut_m, 0};
    const trigger::Disturbance disturbance = disturbanceOf(car, circuit, stands);
    const double seconds = (static_cast<double>(samples) + 0.5) * step_s; // half a sample for what is rounded
    if (by.share == 0) {
        trigger::HallSensor hall;
        hall.low_v = by.levels.low_v;
        hall.high_v = by.levels.high_v;
        return trigger::senseHall(wheel, *car.turning, hall, clearance, disturbance, seconds, 1 / step_s).volts;
    }
    trigger::Disturbance own = disturbance; // of the wheel; what the wire picks up is not divided
    own.noise_v = 0;
    auto out =
        trigger::senseReluctance(wheel, *car.turning, reluctanceOf(sensor, wheel), clearance, own, seconds, 1 / step_s)
            .volts;
    const double keeps = by.settles_s > 0 ? std::exp(-step_s / by.settles_s) : 0;
    double now = 0;
    std::mt19937 chance(car.seed);
    std::normal_distribution<double> noise(0, 1);
    for (float& v : out) {
        now = keeps * now + (1 - keeps) * by.share * static_cast<double>(v);
        v = static_cast<float>(now + disturbance.noise_v * noise(chance));
    }
    return out;
}

} // namespace

std::vector<float> signalBetween(const TurningCar& car, const job::PointRef& red, const job::PointRef& black,
                                 double step_s, std::size_t samples)
{
    const auto plus = car.electrics.node(red), minus = car.electrics.node(black);
    if (!plus || !minus)
        return {};
    const Moves by = car.turning ? strongest(car, red, black) : Moves();
    constexpr double kSeen_v = 1e-3;
    std::vector<float> out(samples, 0);
    if (by.swing_v > kSeen_v) {
        out = moved(car, by, step_s, samples);
        out.resize(samples, out.empty() ? 0 : out.back());
    }
    const bool standing = by.swing_v <= kSeen_v || by.share != 0; // levels are between the places already
    const double there_v = standing ? car.electrics.solution.voltmeter(*plus, *minus, kScope_ohm).value : 0;
    std::mt19937 chance(car.seed);
    std::normal_distribution<double> own(0, kScope_v);
    for (float& v : out)
        v += static_cast<float>(there_v + own(chance));
    return out;
}

} // namespace vicegrip::bench
