#include "core/scaling/captured.h"

#include "core/electrics/sensor_model.h"
#include "core/harness/edits.h"
#include "core/scaling/as_measured.h"
#include "core/scaling/budget.h"
#include "core/scaling/pairs.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

namespace vicegrip::scaling {
namespace {

using testing::HasSubstr;

/// Readings that a sensor with this error would give on Petrel, at four values.
struct Taken
{
    job::Job job = test::petrelInputs();
    job::Circuit* circuit = nullptr;
    analysis::Analysis a = test::analysed(job);

    Taken(const char* id, const std::vector<double>& values, double off, std::optional<size_t> slip = {},
          double within = 0)
        : circuit(job::find(job, job::CircuitId{id}))
    {
        const auto car = electrics::build(job, {.surroundings = job.surroundings});
        const auto transfer = Transfer::of(job, *car, *circuit);
        for (size_t i = 0; i < values.size(); ++i)
            circuit->captured.push_back({.value = values[i],
                                         .volts = transfer->reading(values[i] + off + (slip == i ? 40 : 0)),
                                         .when = {},
                                         .setAside = false,
                                         .within = within,
                                         .extra = nlohmann::json::object()});
    }
    [[nodiscard]] CapturedVerdict verdict() const
    {
        auto v = compareCaptured(job, *circuit, *analysis::find(a, circuit->id)->table);
        EXPECT_TRUE(v) << v.error().text();
        return v.value_or(CapturedVerdict{});
    }
};

TEST(Captured, AGoodSensorAgreesWithItsSheet)
{
    const auto v = Taken("clt", {283.15, 313.15, 343.15, 363.15}, 0.2).verdict();
    EXPECT_TRUE(v.agrees);
    EXPECT_THAT(v.sentence, HasSubstr("within tolerance at all 4 readings"));
    EXPECT_NEAR(v.pairs[1].off, 0.2, 0.01);
    ASSERT_TRUE(v.thermistor);
    EXPECT_LT(v.thermistor->worst_k, 0.1);
    const Taken pressure("map", {20e3, 98e3, 200e3}, 100);
    const auto line = pressure.verdict();
    ASSERT_TRUE(line.line);
    EXPECT_NEAR(line.line->slope, 75e3, 400) << "300 kPa over 4 V";
}

/// A curve is known no better than the thermometer beside it, and a thousand readings take no thousand networks.
TEST(Captured, TheOtherInstrumentsErrorIsInTheCurvesTolerance)
{
    const std::vector<double> values = {283.15, 313.15, 343.15, 363.15};
    const auto toleranceWith = [&](double within) {
        const Taken taken("clt", values, 3, {}, within);
        const auto part = asMeasured(*taken.circuit, *job::sensorOf(taken.job, *taken.circuit), taken.verdict());
        EXPECT_TRUE(part);
        return std::get<parts::Thermistor>(part->model).tolerance;
    };
    // one kelvin is about 3 % of a thermistor's resistance (its beta over the square of the temperature)
    EXPECT_GT(toleranceWith(1.0), 0.025);
    EXPECT_GT(toleranceWith(1.0), toleranceWith(0.2));
}

TEST(Captured, BetweenManyReadingsWhatIsAllowedIsNoLess)
{
    std::vector<double> many;
    for (int i = 0; i < 400; ++i)
        many.push_back(std::lerp(253.0, 390.0, i / 399.0));
    const Taken all("clt", many, 0.2);
    const auto verdict = all.verdict();
    ASSERT_EQ(verdict.pairs.size(), many.size());
    for (const size_t i : {0U, 57U, 200U, 333U, 399U}) {
        const auto budget = budgetAt(all.job, *all.circuit, *analysis::find(all.a, all.circuit->id)->table, many[i]);
        ASSERT_TRUE(budget);
        EXPECT_GE(verdict.pairs[i].allowed, budget->ahead * 0.98) << many[i];
        EXPECT_LE(verdict.pairs[i].allowed, budget->ahead * 1.35) << many[i];
    }
}

TEST(Captured, ACurveThatIsMadeASecondTimeIsTaken)
{
    Taken first("clt", {283.15, 313.15, 343.15, 363.15}, 3);
    const auto once = asMeasured(*first.circuit, *job::sensorOf(first.job, *first.circuit), first.verdict());
    ASSERT_TRUE(once) << once.error().text();
    EXPECT_TRUE(harness::setSensor(first.job, first.circuit->id, *once));
    EXPECT_EQ(*job::sensorOf(first.job, *first.circuit), *once);
    parts::Part twice = *once;
    std::get<parts::Thermistor>(twice.model).tolerance = 0.034;
    EXPECT_TRUE(harness::setSensor(first.job, first.circuit->id, twice));
    EXPECT_EQ(*job::sensorOf(first.job, *first.circuit), twice) << "the same part, measured anew";
}

TEST(Captured, AThermometersOwnErrorIsAllowedAndWeighs)
{
    const std::vector<double> bath = {273.15, 293.15, 313.15, 333.15, 353.15};
    const auto off = [&](double within) { return Taken("clt", bath, 3.5, {}, within).verdict(); };
    EXPECT_FALSE(off(0).agrees);
    EXPECT_TRUE(off(3).agrees) << "nobody can call it wrong with such a thermometer";
    EXPECT_FALSE(off(0).weighed);
    const auto fine = off(0.5), coarse = off(3);
    ASSERT_TRUE(fine.weighed && fine.thermistor && coarse.thermistor);
    const double ohm = 2000;
    EXPECT_GT(fine.thermistor->sigmaAt(ohm), 0);
    EXPECT_NEAR(coarse.thermistor->sigmaAt(ohm) / fine.thermistor->sigmaAt(ohm), 6, 1e-3) << "as the thermometers";
    const auto line = Taken("map", {20e3, 98e3, 200e3}, 100, {}, 500).verdict();
    ASSERT_TRUE(line.line);
    // sigma of a value over the root of the readings' squares about their mean, 2.897 V² (York 1966; no error in V)
    EXPECT_NEAR(line.line->sigmaSlope, 500 / std::sqrt(3.0) / std::sqrt(2.897), 1.5);
}

TEST(Captured, AConstantIsSaidToBeOne)
{
    const auto v = Taken("map", {60e3, 120e3, 200e3}, 9e3).verdict();
    EXPECT_FALSE(v.agrees);
    EXPECT_THAT(v.sentence, HasSubstr("All readings are +9.00 kPa off"));
    EXPECT_THAT(v.sentence, HasSubstr("by as much everywhere"));
}

TEST(Captured, OneBadReadingIsNamedAndNeverTakenAwaySilently)
{
    Taken t("clt", {283.15, 303.15, 323.15, 343.15, 363.15}, 0, 2);
    auto v = t.verdict();
    ASSERT_EQ(v.suspect, 2U);
    EXPECT_FALSE(v.agrees) << "it still counts";
    EXPECT_THAT(v.sentence, HasSubstr("The reading at 50.0 °C is +40.0 °C off"));
    t.circuit->captured[2].setAside = true;
    v = t.verdict();
    EXPECT_FALSE(v.suspect);
    EXPECT_TRUE(v.agrees);
}

TEST(Captured, AnotherSensorDoesNotFollowTheSheet)
{
    Taken t("clt", {283.15, 313.15, 343.15, 363.15}, 0);
    for (size_t i = 0; i < t.circuit->captured.size(); ++i) // farther off the hotter it gets
        t.circuit->captured[i].value -= 4 * static_cast<double>(i);
    EXPECT_THAT(t.verdict().sentence, HasSubstr("does not follow its sheet"));
}

TEST(Captured, OneReadingIsNoVerdict)
{
    const auto v = Taken("clt", {300}, 0).verdict();
    EXPECT_FALSE(v.enough);
    EXPECT_THAT(v.sentence, HasSubstr("Two readings or more"));
    const job::Job job = test::petrel();
    EXPECT_FALSE(compareCaptured(job, *job::find(job, job::CircuitId{"crank"}), {}));
}

TEST(Captured, KeptInTheFileInThePartsUnit)
{
    const Taken t("clt", {283.15, 313.15}, 0);
    const auto json = nlohmann::json::parse(job::write(t.job));
    for (const auto& c : json["circuits"])
        if (c["id"] == "clt") {
            EXPECT_NEAR(c["captured"][0]["value"].get<double>(), 10, 1e-9);
        }
    const auto back = job::read(json.dump());
    ASSERT_TRUE(back) << back.error().text();
    EXPECT_NEAR(job::find(*back, job::CircuitId{"clt"})->captured[1].value, 313.15, 1e-9);
}

TEST(Captured, AGroundUnderAWidebandIsSaidInLambda)
{
    const auto v = Taken("wb", {0.75, 1.25}, 0.04).verdict();
    EXPECT_FALSE(v.agrees);
    EXPECT_THAT(v.sentence, HasSubstr("by as much everywhere"));
    EXPECT_THAT(v.sentence, HasSubstr("Where it shows λ 1.000 the mixture is λ 0.960"));
}

TEST(Captured, AnotherSpanIsToldFromAConstant)
{
    Taken taken("wb", {0.70, 1.30}, 0);
    // A controller that is set to 0.68-1.47 in place of 0.68-1.36 puts out less for the same.
    const auto car = electrics::build(taken.job, {.surroundings = taken.job.surroundings});
    const auto transfer = Transfer::of(taken.job, *car, *taken.circuit);
    for (job::Captured& c : taken.circuit->captured)
        c.volts = transfer->reading(0.68 + (c.value - 0.68) * 0.68 / 0.79);
    const auto v = taken.verdict();
    EXPECT_FALSE(v.agrees);
    EXPECT_THAT(v.sentence, HasSubstr("The error grows along the range"));
    EXPECT_THAT(v.sentence, HasSubstr("at 1.360 λ"));
}

TEST(Captured, AReadingBeyondTheRangeIsNotHeldAtItsEnd)
{
    Taken taken("map", {290e3, 299e3}, 9e3);
    const auto v = taken.verdict();
    EXPECT_NEAR(v.pairs[1].off, 9e3, 100);
    EXPECT_THAT(v.sentence, HasSubstr("by as much everywhere"));
}

TEST(AsMeasured, ATransducerTakesTheLineOfItsReadings)
{
    Taken taken("map", {60e3, 120e3, 200e3, 260e3}, 6e3);
    const parts::Part& sheet = *job::sensorOf(taken.job, *taken.circuit);
    const auto measured = asMeasured(*taken.circuit, sheet, taken.verdict());
    ASSERT_TRUE(measured) << measured.error().text();
    // 300 kPa over 4 V: 6 kPa are 80 mV, at both ends.
    const auto& r = std::get<parts::RatiometricTransducer>(measured->model);
    EXPECT_NEAR(r.low_v, 0.58, 0.003);
    EXPECT_NEAR(r.high_v, 4.58, 0.003);
    EXPECT_THAT(measured->name, testing::EndsWith("as measured"));
    EXPECT_TRUE(harness::setSensor(taken.job, taken.circuit->id, *measured));
    taken.circuit = job::find(taken.job, job::CircuitId{"map"});
    taken.a = test::analysed(taken.job);
    const auto again = taken.verdict();
    EXPECT_TRUE(again.agrees) << again.sentence;
    EXPECT_EQ(asMeasured(*taken.circuit, *measured, again)->name, measured->name) << "said once";
}

TEST(AsMeasured, AThermistorTakesSteinhartHart)
{
    Taken taken("clt", {273.15, 313.15, 343.15, 373.15}, 4);
    const parts::Part& sheet = *job::sensorOf(taken.job, *taken.circuit);
    const auto verdict = taken.verdict();
    const auto measured = asMeasured(*taken.circuit, sheet, verdict);
    ASSERT_TRUE(measured) << measured.error().text();
    const auto& was = std::get<parts::Thermistor>(sheet.model).curve;
    const auto& is = std::get<parts::Thermistor>(measured->model).curve;
    EXPECT_NEAR(parts::ohms(is, 330), parts::ohms(was, 334), 0.01 * parts::ohms(was, 334)) << "4 K warmer throughout";
    const auto car = electrics::build(taken.job, {.surroundings = taken.job.surroundings});
    const auto along = fitAlong(verdict, *Transfer::of(taken.job, *car, *taken.circuit), sheet, taken.circuit->scaling);
    ASSERT_FALSE(along.empty());
    EXPECT_NEAR(along[along.size() / 2].off, -4, 0.5) << "where the sheet says so much, it is 4 K colder";
}

TEST(AsMeasured, WhatMakesNoCurveIsRefused)
{
    const Taken two("map", {60e3, 120e3}, 0);
    EXPECT_THAT(asMeasured(*two.circuit, *job::sensorOf(two.job, *two.circuit), two.verdict()).error().sentence,
                HasSubstr("three readings"));
    const Taken slip("clt", {283.15, 303.15, 323.15, 343.15, 363.15}, 0.2, 2);
    EXPECT_THAT(asMeasured(*slip.circuit, *job::sensorOf(slip.job, *slip.circuit), slip.verdict()).error().sentence,
                HasSubstr("contradicted"));
    const Taken throttle("tps", {0.1, 0.5, 0.9}, 0);
    EXPECT_THAT(asMeasured(*throttle.circuit, *job::sensorOf(throttle.job, *throttle.circuit), throttle.verdict())
                    .error()
                    .sentence,
                HasSubstr("limits are calibrated"));
}

// A tank that is narrower below: filled in steps of a quarter, ohms as they were read. Common practice, no source: a
// level sender is read at each fill because no sheet knows the tank.
TEST(AsMeasured, ALevelSenderLearnsItsTank)
{
    parts::Part sender = test::sensor("level-10-180");
    job::Circuit circuit;
    circuit.id = job::CircuitId{"level"};
    CapturedVerdict verdict;
    for (const auto& [share, said] : {std::pair(0.0, 0.02), {0.25, 0.40}, {0.5, 0.62}, {0.75, 0.81}, {1.0, 0.98}}) {
        job::Captured c;
        c.value = share;
        circuit.captured.push_back(c);
        verdict.pairs.push_back({.expected_v = 0, .said = said, .off = said - share, .allowed = 0.02, .agrees = false});
    }
    const auto measured = asMeasured(circuit, sender, verdict);
    ASSERT_TRUE(measured) << measured.error().text();
    const auto& points = std::get<parts::Resistive>(measured->model).points;
    EXPECT_EQ(points.size(), 17U);
    for (size_t i = 1; i < points.size(); ++i)
        EXPECT_GT(points[i].ohm, points[i - 1].ohm) << "never turns back";
    EXPECT_NEAR(parts::elementValues(*measured, 0.25).front(), parts::elementValues(sender, 0.40).front(), 1e-9);
    std::swap(verdict.pairs[1], verdict.pairs[2]);
    EXPECT_THAT(asMeasured(circuit, sender, verdict).error().sentence, HasSubstr("turn back"));
}

TEST(Pairs, WhatWasWrittenDownIsReadLineByLine)
{
    const parts::Part sensor = test::sensor("ntc-2k2");
    const auto lines =
        readPairs("\xEF\xBB\xBFtemp;volts\n20 °C; 2,51 V\n68F\t2500 mV\n# later\n\n40 1.8\n60, 1.2\n80.5,0.8\n"
                  "warm; 2\n90\n90; 500\n",
                  sensor, "2026-01-01T00:00:00Z");
    ASSERT_EQ(lines.size(), 8U);
    const std::vector<std::pair<double, double>> expected = {{20, 2.51}, {20, 2.5}, {40, 1.8}, {60, 1.2}, {80.5, 0.8}};
    for (size_t i = 0; i < expected.size(); ++i) {
        ASSERT_TRUE(lines[i].pair) << lines[i].line << ' ' << lines[i].sentence;
        EXPECT_NEAR(lines[i].pair->value - 273.15, expected[i].first, 1e-6);
        EXPECT_NEAR(lines[i].pair->volts, expected[i].second, 1e-9);
    }
    EXPECT_EQ(lines[2].line, 6);
    for (size_t i = 5; i < 8; ++i) {
        EXPECT_FALSE(lines[i].pair);
        EXPECT_FALSE(lines[i].sentence.empty());
    }
    EXPECT_TRUE(readPairs("", sensor, {}).empty());
    std::string many;
    for (int i = 0; i < 3000; ++i)
        many += "20;2\n";
    EXPECT_EQ(readPairs(many, sensor, {}).size(), 1001U);
}

} // namespace
} // namespace vicegrip::scaling
