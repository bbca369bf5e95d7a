#include "core/hand_test/due.h"

#include "core/base/phrase.h"
#include "core/electrics/readings.h"
#include "core/electrics/wiring.h"
#include "core/units/units.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace vicegrip::hand_test {
namespace {

std::string voltsSaid(double v)
{
    return units::format(v, units::Dimension::Voltage, "V", 2);
}

double errorOf(const job::Meter& meter, double shown_v)
{
    return meter.voltsShare * std::abs(shown_v) + meter.volts_v;
}

/// The lower of two levels must be told from the upper one by eye.
Result<Due> parted(Due due)
{
    if (due.toothMost_v < due.gapLeast_v)
        return due;
    return fail(ErrorCode::Range,
                phrase("a tooth may read {} and a gap {}: no pull-up parts them. Give the input its pull-up, or the "
                       "harness one",
                       voltsSaid(due.toothMost_v), voltsSaid(due.gapLeast_v)));
}

Result<electrics::Bounded> read(const job::Job& job, const job::Circuit& circuit, const electrics::Leads& leads,
                                bool onTooth)
{
    electrics::Situation situation{.condition = job::Condition::KeyOn, .surroundings = job.surroundings};
    if (onTooth)
        situation.pulling.insert(circuit.id);
    const auto car = electrics::build(job, situation);
    if (!car)
        return tl::make_unexpected(car.error());
    const auto elements = car->circuits.find(circuit.id);
    if (elements == car->circuits.end() || !elements->second.powered)
        return fail(ErrorCode::Range, phrase("its sensor has no supply, as drawn"));
    const auto reading = electrics::Readings(*car).voltmeters({leads}, job.meter).front();
    if (!reading)
        return fail(ErrorCode::Range, phrase("this place is not in the network"));
    return *reading;
}

Result<void> canBe(const job::Job& job, const job::Circuit& circuit)
{
    if (!job::readsWheel(job, circuit))
        return fail(ErrorCode::Range, phrase("it reads no wheel"));
    if (!switchesByHand(job, circuit))
        return fail(
            ErrorCode::Range,
            phrase("a coil makes volts only while teeth pass it fast: it is proved by a capture while cranking"));
    return {};
}

} // namespace

bool switchesByHand(const job::Job& job, const job::Circuit& circuit)
{
    const parts::Part* sensor = job::sensorOf(job, circuit);
    return job::readsWheel(job, circuit) && parts::pulsesOf(*sensor).has_value() && !sensor->conditioned;
}

Result<Due> due(const job::Job& job, const job::Circuit& circuit)
{
    if (auto can = canBe(job, circuit); !can)
        return tl::make_unexpected(can.error());
    Due out;
    std::set<std::string> subjects;
    for (const electrics::Path& path : electrics::Wiring(job).paths(circuit)) {
        if (!path.complete)
            return fail(ErrorCode::Range,
                        phrase("the {} leads nowhere", parts::roleWords(*job::sensorOf(job, circuit), path.role)));
        if (path.role == parts::PinRole::Signal)
            out.red = path.points.front();
        subjects.insert(path.subjects.begin(), path.subjects.end());
    }
    out.black = job::negativePost(job);
    const auto tooth = read(job, circuit, {out.red, out.black}, true);
    const auto gap = read(job, circuit, {out.red, out.black}, false);
    if (!tooth || !gap)
        return tl::make_unexpected(!tooth ? tooth.error() : gap.error());
    out.tooth_v = tooth->value;
    out.toothMost_v = tooth->high + errorOf(job.meter, tooth->high);
    out.gap_v = gap->value;
    out.gapLeast_v = gap->low - errorOf(job.meter, gap->low);
    out.gapMost_v = gap->high + errorOf(job.meter, gap->high);
    for (const auto* reading : {&*tooth, &*gap})
        subjects.insert(reading->subjects.begin(), reading->subjects.end());
    out.subjects.assign(subjects.begin(), subjects.end());
    return parted(std::move(out));
}

Loose looseFor(const job::Job& job, const job::Circuit& circuit)
{
    Loose out{.feed_v = job.battery.volts, .feedWithin_v = job.battery.tolerance_v};
    const parts::Part* sensor = job::sensorOf(job, circuit);
    if (sensor != nullptr && sensor->feed == parts::Feed::SensorSupply) {
        out.feed_v = job.ecu.supply.volts;
        out.feedWithin_v = std::max(job.ecu.supply.tolerance_v, 0.1);
    }
    return out;
}

/// Two resistors and the meter's own: small enough for a formula.
Result<Due> dueLoose(const job::Job& job, const job::Circuit& circuit, const Loose& loose)
{
    if (auto can = canBe(job, circuit); !can)
        return tl::make_unexpected(can.error());
    if (!(loose.pullUp_ohm > 0) || !(loose.feed_v > loose.feedWithin_v))
        return fail(ErrorCode::Range, phrase("a feed and a pull-up above nothing are wanted"));
    const parts::PulseOutput output = *parts::pulsesOf(*job::sensorOf(job, circuit));
    constexpr double kOnWithin = 0.5; // of a transistor's ohms (typical)
    const auto reads = [&](double feed, double pullUp, double pulls) {
        const double down = 1 / (1 / pulls + 1 / job.meter.input_ohm);
        return feed * down / (pullUp + down);
    };
    const double least = loose.pullUp_ohm * (1 - loose.pullUpWithin),
                 most = loose.pullUp_ohm * (1 + loose.pullUpWithin);
    const double weak = loose.feed_v - loose.feedWithin_v, strong = loose.feed_v + loose.feedWithin_v;
    Due out;
    out.tooth_v = reads(loose.feed_v, loose.pullUp_ohm, output.on_ohm);
    out.toothMost_v = reads(strong, least, output.on_ohm * (1 + kOnWithin));
    out.toothMost_v += errorOf(job.meter, out.toothMost_v);
    out.gap_v = reads(loose.feed_v, loose.pullUp_ohm, output.off_ohm);
    out.gapLeast_v = reads(weak, most, output.off_ohm);
    out.gapLeast_v -= errorOf(job.meter, out.gapLeast_v);
    out.gapMost_v = strong + errorOf(job.meter, strong);
    out.subjects = {"sensor " + circuit.device.value};
    return parted(std::move(out));
}

Shown shownBy(const Due& due, double volts)
{
    const double under = due.gapMost_v - due.gapLeast_v; // a meter's zero and a little more
    if (volts <= due.toothMost_v)
        return volts >= -std::max(0.05, under / 10) ? Shown::Tooth : Shown::Neither;
    return volts >= due.gapLeast_v && volts <= due.gapMost_v ? Shown::Gap : Shown::Neither;
}

std::string whyNeither(const Due& due, double read)
{
    if (read < 0)
        return phrase("{} is below nothing: exchange the meter's leads.", voltsSaid(read));
    if (read > due.gapMost_v)
        return phrase("{} is more than the {} of a gap: its signal is pulled up to another supply, or lies on one. Do "
                      "not plug it into the ECU.",
                      voltsSaid(read), voltsSaid(due.gapMost_v));
    if (read - due.toothMost_v < (due.gapLeast_v - due.toothMost_v) / 2)
        return phrase(
            "{} is too much for a tooth ({} at most): its ground is off, or its output is worn. Read from its "
            "ground pin to the battery's negative post.",
            voltsSaid(read), voltsSaid(due.toothMost_v));
    return phrase("{} is too little for a gap ({} at least): another pull-up than drawn, a supply that is low, or a "
                  "tooth half before the sensor. Turn on a little and look again.",
                  voltsSaid(read), voltsSaid(due.gapLeast_v));
}

} // namespace vicegrip::hand_test
