#include "core/scaling/budget.h"
#include "core/seating/ways_out.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"
#include "tests/support/within_tolerance.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <gmock/gmock.h>
#include <random>

namespace vicegrip::scaling {
namespace {

using testing::HasSubstr;

struct Subject
{
    job::Job job = test::petrelInputs();
    analysis::Analysis a = test::analysed(job);

    [[nodiscard]] const job::Circuit& circuit(const char* id) const { return *job::find(job, job::CircuitId{id}); }
    [[nodiscard]] Result<Budget> at(const char* id, double value) const
    {
        return budgetAt(job, circuit(id), *analysis::find(a, {id})->table, value);
    }
};

const BudgetLine& line(const Budget& b, BudgetPart part)
{
    return b.lines[static_cast<size_t>(part)];
}

/// What the ECU shows with some elements of the solved car at other values, solved anew: nothing of the bounds' search
/// is in it. `at` tells of each element of a part whether it goes to its most.
double shownWith(const Subject& s, const char* id, double value, bool running,
                 const std::function<std::optional<bool>(const circuit::Element&)>& at)
{
    const job::Circuit& c = s.circuit(id);
    const auto car = electrics::build(s.job, {.condition = running ? job::Condition::Running : job::Condition::KeyOn,
                                              .surroundings = s.job.surroundings,
                                              .measurands = {{c.id, value}},
                                              .battery_v = s.job.battery.volts});
    circuit::Network net = car->solution.network();
    for (size_t i = 0; i < net.elements().size(); ++i) {
        const circuit::Element& e = net.elements()[i];
        if (const auto most = at(e))
            net.setValue(static_cast<circuit::ElementIndex>(i), *most ? e.most : e.least);
    }
    const auto solution = circuit::solve(net);
    const auto& nodes = car->circuits.at(c.id);
    const auto& unit = car->units[nodes.input->unit];
    const double volts = solution->volts(nodes.input->converter, unit.ground);
    const parts::EcuInput& input = *job::findInput(s.job, c.input);
    const double full = electrics::fullScaleVolts(s.job, input);
    const double seen = input.reference == parts::Reference::Ratiometric
                            ? volts * full / solution->volts(unit.supply, unit.ground)
                            : volts;
    return lookUp(*analysis::find(s.a, {id})->table, seen);
}

TEST(Budget, NoCarIsFartherOffAndSomeCarIsNearlyAsFar)
{
    const Subject s;
    for (const auto& [id, value] :
         {std::pair("clt", 353.15), {"map", 100e3}, {"gt", 378.15}, {"wb", 0.9}, {"fp", 4e5}, {"ot", 380.0}}) {
        const auto b = s.at(id, value);
        ASSERT_TRUE(b) << id << b.error().text();
        std::mt19937 random(5); // NOLINT(bugprone-random-generator-seed)
        double farthest = 0;
        for (int car = 0; car < 300; ++car) {
            // every element at an end; in half of the cars all of one kind lean the same way
            const bool leans = car % 2 == 0;
            std::map<std::string, bool> lean;
            const double shown = shownWith(s, id, value, car % 4 != 3, [&](const circuit::Element& e) {
                const bool end = random() % 2 == 0;
                return std::optional(leans ? lean.try_emplace(e.label.substr(0, e.label.find(' ')), end).first->second
                                           : end);
            });
            farthest = std::max(farthest, std::abs(shown - value));
        }
        EXPECT_LE(farthest, b->worst) << id;
        EXPECT_GT(farthest, 0.5 * b->worst) << id << ": and the worst case is no exaggeration";
    }
}

// 20,000 cars within tolerance with the consumer on reach 12.5 °C at the gearbox's 105 °C and 0.0175 at λ 0.918, with
// all parts at their worst 14.5 to 18.5 °C and 0.028: worked out elsewhere, with a model of its own, the other sensors
// being where the engine at rest has them. Running, they may be anywhere: their currents on the shared ground add 1 °C,
// and an alternator that holds its volts under what they draw 0.001 more.
TEST(Budget, WhatAConsumerOnTheGroundDoesIsInTheWorst)
{
    const Subject s;
    const auto gt = s.at("gt", 378.15), wb = s.at("wb", 0.918);
    ASSERT_TRUE(gt && wb);
    EXPECT_GT(gt->worst, 14.5);
    EXPECT_LT(gt->worst, 20.5);
    EXPECT_GT(wb->worst, 0.0175);
    EXPECT_LT(wb->worst, 0.031);
}

TEST(Budget, EveryLineIsThatPartAloneAtItsWorst)
{
    const Subject s;
    for (const auto& [id, value] : {std::pair("clt", 353.15), {"map", 100e3}, {"gt", 353.15}}) {
        const auto b = s.at(id, value);
        ASSERT_TRUE(b);
        const auto alone = [&](const std::string& label) {
            double off = 0;
            for (const bool most : {false, true})
                off = std::max(off, std::abs(shownWith(s, id, value, false,
                                                       [&](const circuit::Element& e) {
                                                           return e.label == label ? std::optional(most) : std::nullopt;
                                                       }) -
                                             b->shown));
            return off;
        };
        const double sensor = alone("sensor " + s.circuit(id).device.value);
        EXPECT_GE(line(*b, BudgetPart::Sensor).worst, sensor * (1 - 1e-9)) << id;
        EXPECT_LE(line(*b, BudgetPart::Sensor).worst, sensor * 1.1) << id << ": its own resistances may lean apart";
        for (const BudgetLine& l : b->lines)
            EXPECT_LE(l.sigma, l.worst * 1.2 + 1e-12) << id << ", " << partName(l.part);
    }
}

// A thermistor of R against a pull-up of P: v = 5 R / (R + P). One percent of P moves v as one percent of R does, the
// other way; in degrees both are (dR/R) / (d ln R / dT).
TEST(Budget, ThermistorAndPullUpByHand)
{
    Subject s;
    job::ScalingSpec& spec = job::find(s.job, job::CircuitId{"clt"})->scaling; // a table as fine as the curve
    spec.points = 200;
    spec.breakpoints = job::Breakpoints::Best;
    spec.inputStep = 1e-4;
    spec.outputStep = 1e-4;
    s.a = test::analysed(s.job);
    const double kelvin = 353.15, step = 0.01;
    const auto& thermistor = std::get<parts::Thermistor>(job::sensorOf(s.job, s.circuit("clt"))->model);
    const double perKelvin =
        std::log(parts::ohms(thermistor.curve, kelvin - step) / parts::ohms(thermistor.curve, kelvin + step)) /
        (2 * step);
    const auto b = s.at("clt", kelvin);
    ASSERT_TRUE(b);
    EXPECT_NEAR(line(*b, BudgetPart::Sensor).worst, thermistor.tolerance / perKelvin,
                0.02 * thermistor.tolerance / perKelvin);
    const double pullUp = job::findInput(s.job, s.circuit("clt").input)->pull_up_tolerance;
    EXPECT_NEAR(line(*b, BudgetPart::PullUp).worst, pullUp / perKelvin, 0.03 * pullUp / perKelvin);
    EXPECT_EQ(line(*b, BudgetPart::PullUp).most, "input AN3");
    EXPECT_LT(line(*b, BudgetPart::Supply).worst, 0.01) << "a ratiometric input divides its supply out";
}

// A ratiometric sensor's one percent of span is one percent of its range; manifold pressure goes into the fuel as dp/p.
TEST(Budget, PressureCostsItsShareOfTheMixture)
{
    const Subject s;
    const auto low = s.at("map", 40e3), high = s.at("map", 200e3);
    ASSERT_TRUE(low && high);
    EXPECT_NEAR(line(*low, BudgetPart::Sensor).worst, 3e3, 60);
    ASSERT_TRUE(low->mixture && high->mixture);
    EXPECT_NEAR(low->mixture->worst, low->worst / 40e3, 1e-12);
    EXPECT_GT(low->mixture->worst, 4 * high->mixture->worst) << "the same error weighs more at light load";
    EXPECT_NEAR(low->mixture->richest() * (1 + low->mixture->worst), 1, 1e-12);
    EXPECT_FALSE(s.at("clt", 350)->mixture) << "coolant is no part of the air";
    job::Job other = s.job;
    other.brief->airMethod = job::AirMethod::MassAir;
    EXPECT_FALSE(budgetAt(other, s.circuit("map"), *analysis::find(s.a, {"map"})->table, 40e3)->mixture);
}

TEST(Budget, AHeaterOnTheGroundIsTheWiringsPart)
{
    const Subject s;
    const auto shared = s.at("gt", 353.15);
    ASSERT_TRUE(shared);
    EXPECT_EQ(line(*shared, BudgetPart::Wiring).most, "running consumers");
    EXPECT_GT(line(*shared, BudgetPart::Wiring).worst, line(*shared, BudgetPart::Sensor).worst);
}

TEST(Budget, FinerConverterFewerCounts)
{
    Subject s;
    const double twelve = line(*s.at("map", 100e3), BudgetPart::Counts).worst;
    job::findInput(s.job, s.circuit("map").input)->bits = 10;
    EXPECT_NEAR(line(*s.at("map", 100e3), BudgetPart::Counts).worst / twelve, 4095.0 / 1023, 0.01);
}

TEST(Budget, SaysWhyThereIsNone)
{
    const Subject s;
    EXPECT_THAT(s.at("map", 500e3).error().sentence, HasSubstr("outside the table's range, 0.0 to 300.0 kPa abs"));
    EXPECT_THAT(budgetAt(s.job, s.circuit("crank"), {}, 100).error().sentence,
                HasSubstr("no reading stands for a value"));
    job::Job unseated = s.job;
    job::find(unseated, job::CircuitId{"map"})->input = {};
    EXPECT_THAT(budgetAt(unseated, *job::find(unseated, job::CircuitId{"map"}), {}, 1e5).error().sentence,
                HasSubstr("no sensor on an ECU input"));
}

TEST(Budget, OverTheRange)
{
    const Subject s;
    const auto all = budgetOver(s.job, s.circuit("clt"), *analysis::find(s.a, {"clt"})->table, 8);
    ASSERT_EQ(all.size(), 8U);
    EXPECT_GT(all.back().value, all.front().value);
}

// Forty cars, every part somewhere within its tolerance: none shows a value farther off than the worst case.
TEST(Budget, CarsWithinToleranceStayWithinTheWorstCase)
{
    const Subject s;
    const double kelvin = 340;
    const auto& table = *analysis::find(s.a, {"clt"})->table;
    const auto b = s.at("clt", kelvin);
    ASSERT_TRUE(b);
    std::mt19937 random(9);
    std::uniform_real_distribution<double> within(-1, 1);
    double farthest = 0;
    for (int car = 0; car < 40; ++car) {
        job::Job fitted = s.job;
        auto& input = *job::findInput(fitted, s.circuit("clt").input);
        *input.pull_up_ohm *= 1 + within(random) * input.pull_up_tolerance;
        fitted.ecu.supply.volts += within(random) * fitted.ecu.supply.tolerance_v;
        fitted.battery.volts += within(random) * fitted.battery.tolerance_v;
        // A sensor off by its tolerance feels like another temperature.
        const auto& t = std::get<parts::Thermistor>(job::sensorOf(s.job, s.circuit("clt"))->model);
        const double ohms = parts::ohms(t.curve, kelvin) * (1 + within(random) * t.tolerance);
        double shown = kelvin;
        for (int i = 0; i < 60; ++i)
            shown += (parts::ohms(t.curve, shown) - ohms) / ohms * 20;
        const auto built =
            electrics::build(fitted, {.surroundings = fitted.surroundings, .measurands = {{{"clt"}, shown}}});
        ASSERT_TRUE(built);
        // The ECU divides by its own supply and reckons with the nominal one.
        const double volts =
            built->inputVolts(fitted, s.circuit("clt"))->value * s.job.ecu.supply.volts / fitted.ecu.supply.volts;
        farthest = std::max(farthest, std::abs(lookUp(table, volts) - kelvin));
    }
    EXPECT_LE(farthest, b->worst);
    EXPECT_GT(farthest, 0.3 * b->worst) << "and the worst case is no exaggeration";
}

/// The same of every sensor in the library on every unit, at three places of its range.
TEST(Budget, HoldsForEverySensorOfTheLibraryOnEveryUnit)
{
    int checked = 0;
    for (const parts::Part& sensor : test::sensors()) {
        if (parts::signalOf(sensor) != parts::SignalKind::Voltage)
            continue;
        for (const parts::EcuProfile& unit : test::library().ecus) {
            job::Job drawn = harness::startJob("Budget", unit);
            harness::addCircuit(drawn, {"map"}, "Circuit", job::Want::Required, sensor);
            EXPECT_TRUE(seating::take(drawn, seating::bestPlan(drawn)));
            const job::Circuit& c = drawn.circuits.front();
            const auto analysis = test::analysed(drawn);
            const auto& table = analysis.circuits.front().table;
            if (unit.ecu.expander || c.input.empty() || !table)
                continue;
            for (const double share : {0.15, 0.5, 0.85}) {
                const double value = std::lerp(c.scaling.low, c.scaling.high, share);
                const auto b = budgetAt(drawn, c, *table, value);
                for (unsigned seed = 1; b && seed <= 4; ++seed) {
                    const job::Job built = test::WithinTolerance(seed).car(drawn);
                    const auto car =
                        electrics::build(built, {.surroundings = built.surroundings, .measurands = {{c.id, value}}});
                    ASSERT_TRUE(car);
                    ++checked;
                    // the ECU reckons with the nominal supply: with the job as drawn
                    const double volts = std::clamp(car->inputVolts(drawn, c)->value, 0.0,
                                                    electrics::fullScaleVolts(drawn, *job::findInput(drawn, c.input)));
                    EXPECT_LE(std::abs(lookUp(*table, volts) - value), b->worst * (1 + 1e-9))
                        << sensor.id.value << " on " << unit.id.value << " at " << share << " seed " << seed;
                }
            }
        }
    }
    EXPECT_GT(checked, 500);
}

} // namespace
} // namespace vicegrip::scaling
