#include "core/electrics/electrics.h"
#include "core/electrics/sensor_model.h"
#include "core/seating/ways_out.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"
#include "tests/support/within_tolerance.h"

#include <algorithm>
#include <gtest/gtest.h>
#include <map>
#include <random>

/// The promise itself: a car whose every part lies within its tolerance must read within the bounds, wherever the probe
/// goes. Each run builds another such car, parts at their limits as often as inside them.
namespace vicegrip::electrics {
namespace {

using job::Condition;
using test::WithinTolerance;

/// What is shown at a station of a car as it was built: by the meter, or by the ECU with the table it was given. The
/// ECU knows the nominal supply alone, which is the job's as drawn.
std::optional<double> shown(const job::Job& drawn, const Electrics& car, Condition condition, const job::Circuit& c,
                            const proof::Expectation& e, const scaling::Table* table)
{
    if (e.station.kind == proof::StationKind::Probe) {
        const auto reading = job::isLive(condition) ? car.voltmeter(e.station.point, e.blackPoint, drawn.meter)
                                                    : car.ohmmeter(e.station.point, e.blackPoint);
        EXPECT_TRUE(reading);
        const double ohms = reading->value + drawn.meter.lead_ohm;
        return job::isLive(condition)   ? reading->value
               : ohms >= job::kMost_ohm ? std::numeric_limits<double>::infinity() // the meter shows open
                                        : ohms;
    }
    const auto seen = car.inputVolts(drawn, c);
    if (!seen || parts::signalOf(*job::sensorOf(drawn, c)) != parts::SignalKind::Voltage)
        return std::nullopt;
    const parts::EcuInput& input = *job::findInput(drawn, c.input);
    const double volts = std::clamp(seen->value, 0.0, fullScaleVolts(drawn, input));
    if (e.station.kind == proof::StationKind::Input)
        return volts;
    if (e.station.kind == proof::StationKind::Counts)
        return volts / countVolts(drawn, input);
    return table == nullptr ? std::nullopt : std::optional(scaling::lookUp(*table, volts));
}

/// Cars within tolerance, so many, against every promise of the job as drawn; how many were looked at.
int expectPromisesHold(const job::Job& drawn, unsigned cars, const std::string& what)
{
    constexpr double kSame = 1e-9; // of the bounds' width: they are no estimate
    int checked = 0;
    const auto promised = test::analysed(drawn);
    std::map<std::pair<Condition, job::CircuitId>, std::vector<proof::Judged>> all;
    for (const auto& [condition, name] : fields::EnumNames<Condition>::kNames)
        for (const auto& view : promised.circuits)
            all[{condition, view.id}] = analysis::promised(promised, view.id, condition);
    for (unsigned seed = 1; seed <= cars; ++seed) {
        for (const auto& [condition, name] : fields::EnumNames<Condition>::kNames) {
            WithinTolerance within(seed);
            job::Job built = within.car(drawn);
            const auto situation = within.moment(built, condition);
            const auto car = build(built, situation);
            EXPECT_TRUE(car);
            for (const auto& view : promised.circuits) {
                const job::Circuit& c = *job::find(drawn, view.id);
                for (const proof::Judged& j : all.at({condition, view.id})) {
                    const proof::Expectation& e = j.expectation;
                    if (!car || !e.promises())
                        continue;
                    const auto value = shown(drawn, *car, condition, c, e, view.table ? &*view.table : nullptr);
                    if (!value)
                        continue;
                    ++checked;
                    const double room = std::isinf(e.high) ? 0 : kSame * (e.high - e.low);
                    const std::string where =
                        what + ", " + std::string(name) + ", " + view.id.value + " " + e.station.label;
                    EXPECT_GE(*value, e.low - room) << where << " seed " << seed;
                    EXPECT_LE(*value, e.high + room) << where << " seed " << seed;
                }
            }
        }
    }
    return checked;
}

TEST(Promise, HoldsForEveryCarWithinTolerance)
{
    EXPECT_GT(expectPromisesHold(test::petrel(), 12, "Petrel"), 10000);
}

TEST(Promise, HoldsForEverySensorOfTheLibraryOnEveryUnit)
{
    int checked = 0;
    for (const parts::Part& sensor : test::sensors()) {
        for (const parts::EcuProfile& unit : test::library().ecus) {
            job::Job drawn = harness::startJob("Promise", unit);
            harness::addCircuit(drawn, {"map"}, "Circuit", job::Want::Required, sensor);
            EXPECT_TRUE(seating::take(drawn, seating::bestPlan(drawn)));
            if (!unit.ecu.expander && !drawn.circuits.front().input.empty())
                checked += expectPromisesHold(drawn, 2, sensor.id.value + " on " + unit.id.value);
        }
    }
    EXPECT_GT(checked, 10000);
}

TEST(Promise, IsNotSoWideThatItSaysNothing)
{
    const auto a = test::analysed(test::petrel());
    for (const auto& [circuit, station, widest] : {std::tuple("map", "A.5", 0.2),
                                                   {"clt", "A.7", 0.4},
                                                   {"tps", "A.6", 0.2},
                                                   {"fp", "A.11", 0.2},
                                                   {"gt", "A.13", 0.15}}) {
        const proof::Expectation& e = test::at(a, circuit, station).expectation;
        EXPECT_LT(e.high - e.low, widest) << circuit;
        EXPECT_GT(e.sigma, 0);
        EXPECT_LT(e.sigma, (e.high - e.low) / 2) << "the root of squares is below the worst case";
    }
}

/// Contacts, crimps, wires, everything of the network at one of its ends, solved anew: the reading of no corner lies
/// beyond the promise. Half of the corners are those that the nominal sensitivities of some reading point to.
TEST(Promise, HoldsAtTheCornersOfEverything)
{
    const job::Job drawn = test::petrel();
    const auto promised = test::analysed(drawn);
    int checked = 0;
    for (const auto& [condition, name] : fields::EnumNames<Condition>::kNames) {
        const bool volts = job::isLive(condition);
        const auto car = build(drawn, {.condition = condition, .surroundings = drawn.surroundings});
        ASSERT_TRUE(car);
        struct Place
        {
            circuit::Probes probes;
            const proof::Expectation* promise = nullptr;
        };
        std::vector<Place> places;
        for (const auto& view : promised.circuits)
            for (const proof::Expectation& e : analysis::promises(promised, view.id, condition))
                if (e.station.kind == proof::StationKind::Probe && e.promises() && e.due.quantity())
                    places.push_back({{*car->node(e.station.point), *car->node(e.blackPoint)}, &e});
        std::mt19937 random(2); // NOLINT(bugprone-random-generator-seed)
        for (int run = 0; run < 120; ++run) {
            circuit::Network net = car->solution.network();
            const circuit::Probes aim = places[random() % places.size()].probes;
            const circuit::Reading nominal = volts ? car->solution.voltmeter(aim.red, aim.black, drawn.meter.input_ohm)
                                                   : car->solution.ohmmeter(aim.red, aim.black);
            for (size_t i = 0; i < net.elements().size(); ++i) {
                const circuit::Element& e = net.elements()[i];
                const bool most = run % 4 == 0   ? nominal.sensitivity[i] > 0
                                  : run % 4 == 1 ? nominal.sensitivity[i] < 0
                                                 : random() % 2 == 0;
                net.setValue(static_cast<circuit::ElementIndex>(i), most ? e.most : e.least);
            }
            for (const circuit::Together& t : car->solution.network().together()) {
                const auto& setting = t.settings[random() % t.settings.size()];
                for (size_t k = 0; k < t.elements.size(); ++k)
                    net.setValue(t.elements[k], setting[k]);
            }
            const auto corner = circuit::solve(std::move(net));
            ASSERT_TRUE(corner);
            for (const Place& p : places) {
                const auto& [red, black] = p.probes;
                const double shown = volts ? corner->voltmeter(red, black, drawn.meter.input_ohm).value
                                           : corner->ohmmeter(red, black).value + drawn.meter.lead_ohm;
                ++checked;
                EXPECT_TRUE(p.promise->allows(job::Reading::of(shown, p.promise->due.dimension(), condition)))
                    << p.promise->station.label << ": " << shown << " of " << p.promise->low << " to "
                    << p.promise->high;
            }
        }
    }
    EXPECT_GT(checked, 10000);
}

TEST(SensorModel, OutputsStayWithinWhatThePartCanDo)
{
    const job::Job job = test::petrel();
    for (const parts::Part& s : job.parts) {
        const double span = s.high - s.low;
        for (const double x : {s.low - 10 * span, s.low, s.high, s.high + 10 * span}) {
            const auto values = parts::elementValues(s, x);
            EXPECT_TRUE(std::isfinite(values[0])) << s.id.value;
            EXPECT_GE(values[0], 0) << s.id.value;
            if (std::holds_alternative<parts::RatiometricTransducer>(s.model)) {
                EXPECT_LT(values[0], 1);
            }
            if (const auto* p = std::get_if<parts::Potentiometer>(&s.model)) {
                EXPECT_NEAR(values[0] + values[1], p->track_ohm, 1e-9);
            }
        }
    }
}

TEST(Rest, IsWhatTheSensorFeels)
{
    const job::Job job = test::petrel();
    const auto rest = [&](const char* id) { return atRest(*job::find(job, job::CircuitId{id}), job.surroundings); };
    EXPECT_DOUBLE_EQ(rest("clt").value, job.surroundings.ambient_k);
    EXPECT_DOUBLE_EQ(rest("map").value, job.surroundings.barometer_pa);
    EXPECT_NEAR(rest("tps").value, 0.02, 1e-12);
    EXPECT_NEAR(rest("tps").tolerance(), 0.015, 1e-12);
    EXPECT_NEAR(rest("fp").tolerance(), 5000, 1e-6) << "0.05 bar, and no offset in it";
}

} // namespace
} // namespace vicegrip::electrics
