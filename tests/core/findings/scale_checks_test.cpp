#include "core/findings/scale_checks.h"
#include "core/throttle/limits.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <algorithm>
#include <cmath>
#include <gmock/gmock.h>

namespace vicegrip::findings {
namespace {

using testing::HasSubstr;

/// Petrel after the ECU returned this value for a circuit, in the part's unit.
std::vector<Finding> after(const char* circuit, double shown)
{
    job::Job job = test::petrel();
    std::erase_if(job.proofs, [&](const job::Proof& p) { return p.circuit.value == circuit; });
    const parts::Part& s = *job::sensorOf(job, *job::find(job, job::CircuitId{circuit}));
    test::prove(job, circuit, "value", units::fromUnit(shown, s.measures, s.unit));
    return test::of(job, "value-mix-up");
}

// Common practice, no source: key on, engine off, a manifold pressure sensor reads the barometer (98.4 kPa on Petrel).
TEST(ScaleFindings, GaugeForAbsoluteIsNamed)
{
    const auto gauge = after("map", 0.2);
    ASSERT_EQ(gauge.size(), 1U);
    EXPECT_EQ(gauge[0].severity, Severity::Stop);
    EXPECT_THAT(gauge[0].what,
                HasSubstr("reads 0.2 kPa abs where 98.4 kPa abs is due: the barometer (98.4 kPa abs) is missing"));
    const auto twice = after("map", 196.5);
    ASSERT_EQ(twice.size(), 1U);
    EXPECT_THAT(twice[0].what, HasSubstr("too much"));
    const auto fuel = after("fp", 0.99);
    ASSERT_EQ(fuel.size(), 1U) << "a gauge sensor that shows the barometer at rest";
    EXPECT_THAT(fuel[0].what, HasSubstr("too much"));
}

// NIST SP 811: 98.4 kPa are 14.27 psi, 0.984 bar, 29.06 inHg; 22 °C are 71.6 °F, 295.15 K.
TEST(ScaleFindings, AnotherUnitIsNamed)
{
    for (const auto& [circuit, shown, unit] : {std::tuple("map", 14.27, "psi"),
                                               {"map", 0.984, "bar"},
                                               {"map", 29.06, "inHg"},
                                               {"clt", 71.6, "°F"},
                                               {"clt", 295.15, "K"}}) {
        const auto found = after(circuit, shown);
        ASSERT_EQ(found.size(), 1U) << circuit << shown;
        EXPECT_THAT(found[0].todo, HasSubstr(std::string("Set the ECU's unit for this input to ") + unit));
    }
}

// Worked by hand: at 98.4 kPa a 300 kPa part puts out 0.5 + 4 * 98.4 / 300 = 1.812 V; the line of one with the same
// volts for 20 to 400 kPa makes 20 + 380 * 1.312 / 4 = 144.6 kPa of that.
TEST(ScaleFindings, TheOldSensorsLineIsNamed)
{
    job::Job job = test::petrel();
    const job::Circuit& map = *job::find(job, job::CircuitId{"map"});
    const parts::Part fitted = *job::sensorOf(job, map);
    parts::Part before = fitted;
    before.id = parts::PartId{"before"};
    before.name = "Four bar from before";
    before.low = 20e3;
    before.high = 400e3;
    std::get<parts::RatiometricTransducer>(before.model).tolerance = 0.02; // another part, not the same again
    EXPECT_NEAR(*takenFor(before, fitted, 98.4e3), 144.64e3, 50);
    job.parts.push_back(before);
    std::erase_if(job.proofs, [&](const job::Proof& p) { return p.circuit.value == "map"; });
    test::prove(job, "map", "value", 144.6e3);
    const auto found = test::of(job, "value-mix-up");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_THAT(found[0].what, HasSubstr("with the line of \"Four bar from before\""));
    EXPECT_THAT(found[0].todo, HasSubstr("still be in the ECU"));
    const parts::Part& ntc = test::sensor("ntc-2k2");
    EXPECT_NEAR(*takenFor(test::sensor("ntc-10k"), ntc, 298.15),
                parts::kelvin(std::get<parts::Thermistor>(test::sensor("ntc-10k").model).curve,
                              parts::ohms(std::get<parts::Thermistor>(ntc.model).curve, 298.15)),
                1e-9);
    EXPECT_FALSE(takenFor(ntc, fitted, 98.4e3)) << "no kin";
    EXPECT_FALSE(takenFor(fitted, fitted, 98.4e3)) << "its own line is no mistake";
}

TEST(ScaleFindings, ASupplyThatIsLowSaysWhatItDoes)
{
    job::Job job = test::petrel();
    const job::Circuit& map = *job::find(job, job::CircuitId{"map"});
    const job::PointRef pin{job::find(job, map.device)->connector,
                            parts::cavityOf(*job::sensorOf(job, map), parts::PinRole::Supply)};
    const auto measured = [&](double volts) {
        job::Job copy = job;
        const auto a = test::analysed(copy);
        for (const proof::Judged& j : analysis::promised(a, {"map"}, job::Condition::KeyOn))
            if (j.expectation.station.point == pin)
                copy.proofs.push_back(
                    proof::record(a.facts, {"map"}, j.expectation,
                                  job::Reading::of(volts, units::Dimension::Voltage, job::Condition::KeyOn),
                                  job::ReadingSource::Typed, "2026-01-02T03:04:05Z"));
        return test::of(copy, "supply-off");
    };
    EXPECT_TRUE(measured(5.0).empty());
    const auto low = measured(4.5);
    ASSERT_EQ(low.size(), 1U);
    EXPECT_THAT(low[0].what, HasSubstr("its supply is 4.50 V where 5.0"));
    EXPECT_THAT(low[0].why, testing::AnyOf(HasSubstr("forgives"), HasSubstr("does not")));
    job::findInput(job, map.input)->reference = parts::Reference::Absolute;
    EXPECT_THAT(measured(4.5)[0].why, HasSubstr("this input does not: its volts are -10"));
}

TEST(ScaleFindings, ARightValueAndAPlainFaultAreNoMixUp)
{
    EXPECT_TRUE(after("map", 98.4).empty());
    EXPECT_TRUE(after("map", 60).empty());
    EXPECT_TRUE(after("clt", 40).empty());
}

TEST(ScaleFindings, LimitsAreAskedForAndGoStale)
{
    job::Job job = test::petrel();
    ASSERT_EQ(test::of(job, "limits-not-calibrated").size(), 1U);
    job::Circuit& tps = *job::find(job, job::CircuitId{"tps"});
    job::ThrottleLimits stops;
    stops.closed_v = 0.4;
    stops.open_v = 4.5;
    tps.limits = throttle::calibrated(stops, job::facts(job), tps, electrics::Wiring(job).paths(tps));
    EXPECT_TRUE(test::of(job, "limits-not-calibrated").empty());
    EXPECT_TRUE(test::of(job, "limits-stale").empty());
    for (job::Wire& w : job.wires) // longer or thinner wires move what the input reads
        w.length_m += 0.1;
    const auto stale = test::of(job, "limits-stale");
    ASSERT_EQ(stale.size(), 1U);
    EXPECT_THAT(stale[0].what, HasSubstr("wire"));
}

TEST(ScaleFindings, ReadingsThatTheSheetDoesNotExplainAreAFinding)
{
    job::Job job = test::petrel();
    job::Circuit& map = *job::find(job, job::CircuitId{"map"});
    const auto car = electrics::build(job, {.surroundings = job.surroundings});
    const auto transfer = scaling::Transfer::of(job, *car, map);
    const auto read = [&](double off) {
        map.captured.clear();
        for (const double pa : {60e3, 120e3, 240e3}) {
            job::Captured c;
            c.value = pa;
            c.volts = transfer->reading(pa + off);
            map.captured.push_back(c);
        }
        return test::of(job, "readings-disagree");
    };
    EXPECT_TRUE(read(100).empty());
    const auto constant = read(9e3);
    ASSERT_EQ(constant.size(), 1U);
    EXPECT_THAT(constant[0].what, HasSubstr("All readings are +9.00 kPa off, by as much everywhere"));
    map.captured[2].setAside = map.captured[1].setAside = true;
    EXPECT_TRUE(test::of(job, "readings-disagree").empty()) << "one reading tells nothing";
}

// Worked by hand: shut at 0.42 V with 8 mV of margin; the screw lifts it by 30 mV, so the limit goes with it.
TEST(ThrottleLimits, AfterTheScrewTheShutLimitMovesWithIt)
{
    job::ThrottleLimits stops;
    stops.closedRest_v = 0.42;
    stops.closed_v = 0.428;
    stops.openRest_v = 4.48;
    stops.open_v = 4.47;
    stops.screwMoved = "2026-01-02T03:04:05Z";
    const auto again = throttle::zeroed(stops, 0.45, "2026-01-02T03:05:05Z");
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_NEAR(again->closed_v, 0.458, 1e-12);
    EXPECT_NEAR(again->closedRest_v, 0.45, 1e-12);
    EXPECT_EQ(again->open_v, 4.47);
    EXPECT_TRUE(again->screwMoved.empty());
    EXPECT_FALSE(throttle::staleLimits({}, *again));
    EXPECT_THAT(throttle::zeroed(stops, 2.0, "").error().sentence, HasSubstr("is it shut?"));
    EXPECT_FALSE(throttle::zeroed(stops, std::nan(""), ""));
    job::ThrottleLimits falling = stops; // one that reads less when open
    std::swap(falling.closedRest_v, falling.openRest_v);
    falling.closed_v = 4.47;
    EXPECT_NEAR(throttle::zeroed(falling, 4.45, "")->closed_v, 4.44, 1e-12);
}

TEST(ScaleFindings, WhatTheInputCannotReadIsSaidOnce)
{
    const job::Job job = test::petrel();
    const auto of = [](const std::vector<Finding>& all, const char* circuit) {
        return std::ranges::count(all, job::CircuitId{circuit}, &Finding::circuit);
    };
    EXPECT_EQ(of(test::of(job, "range-clipped"), "wb"), 1);
    EXPECT_EQ(of(test::of(job, "table-coarse"), "wb"), 0) << "the same end of the range";
    EXPECT_EQ(of(test::of(job, "table-coarse"), "clt"), 1);
}

TEST(ScaleFindings, AFormulaThatDoesNotFollowHasItsOwnCure)
{
    job::Job job = test::petrel();
    job::ScalingSpec& spec = job::find(job, job::CircuitId{"clt"})->scaling;
    spec.takes = job::Takes::Polynomial;
    spec.degree = 2;
    const auto coarse = test::of(job, "table-coarse");
    const auto clt = std::ranges::find(coarse, job::CircuitId{"clt"}, &Finding::circuit);
    ASSERT_NE(clt, coarse.end());
    EXPECT_THAT(clt->what, HasSubstr("the formula is "));
    EXPECT_THAT(clt->todo, HasSubstr("higher degree"));
    spec.takes = job::Takes::SteinhartHart;
    for (const Finding& f : test::of(job, "table-coarse"))
        EXPECT_NE(f.circuit.value, "clt") << "a thermistor's own formula follows it";
}

} // namespace
} // namespace vicegrip::findings
