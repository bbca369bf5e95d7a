#include "core/electrics/netlist.h"
#include "core/seating/plan.h"
#include "tests/support/library.h"
#include "tests/support/ngspice.h"
#include "tests/support/petrel.h"

#include <cmath>
#include <gtest/gtest.h>
#include <random>

/// Reference: ngspice solves whole jobs, from a deck that shares no code with the network all promises come from. Bench
/// and promise share one builder: that those two agree proves nothing, this does.
namespace vicegrip::electrics {
namespace {

using namespace faults;

job::Job demo(const char* name)
{
    return *job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/" + name);
}

constexpr const char* kExact = ".options reltol=1e-10 abstol=1e-16 vntol=1e-13 gmin=1e-18\n";

/// Every place, and every input, with the key on: volts against the battery's negative post. How many were compared.
/// What a meter of 10 MOhm pulls down is read with one: behind an open contact of 10 GOhm, beside wires of 5 mOhm, a
/// double holds the volts to five digits only.
int compareVolts(const job::Job& job, const Situation& situation, const std::string& what)
{
    const auto ours = build(job, situation);
    EXPECT_TRUE(ours) << what;
    const Netlist deck = netlist(job, situation);
    std::string meters, text = "op\n";
    std::vector<double> expected;
    const auto ask = [&](const std::string& node, double volts) {
        text += "print v(" + node + ")\n";
        expected.push_back(volts);
    };
    for (const auto& [place, node] : deck.places)
        if (const circuit::Node at = *ours->node(place); node != "0") {
            const double open = ours->solution.volts(at);
            const double read = ours->solution.voltmeter(at, circuit::kReference, 1e7).value;
            if (std::abs(read) > 0.5 * std::abs(open)) {
                ask(node, open);
                continue;
            }
            const std::string meter = "rmeter" + std::to_string(expected.size());
            meters += meter + " " + node + " 0 1e18\n";
            text += "alter " + meter + " = 1e7\nop\n";
            ask(node, read);
            text += "alter " + meter + " = 1e18\nop\n";
        }
    for (const auto& [id, input] : deck.inputs) {
        const InputNodes& nodes = ours->inputs.at(id);
        ask(input.converter, ours->solution.volts(nodes.converter));
        ask(input.supply, ours->solution.volts(ours->units[nodes.unit].supply));
    }
    const auto answers = test::askNgspice("* " + what + "\n" + kExact + deck.elements + meters +
                                          ".control\nset numdgt=15\n" + text + "quit\n.endc\n.end\n");
    EXPECT_EQ(answers.size(), expected.size()) << what;
    for (size_t i = 0; i < std::min(answers.size(), expected.size()); ++i)
        EXPECT_NEAR(answers[i], expected[i], 2e-6 + 1e-6 * std::abs(expected[i])) << what << ", number " << i;
    return static_cast<int>(answers.size());
}

constexpr job::Condition kLive[] = {job::Condition::KeyOn, job::Condition::Cranking, job::Condition::Running};

/// Ohm between the leads of every promise with the battery off: a test current of 1 A, switched on pair by pair.
int compareOhms(const job::Job& job, const FaultList& faults, const std::string& what)
{
    const Situation situation{
        .condition = job::Condition::BatteryOff, .surroundings = job.surroundings, .faults = faults};
    const auto ours = build(job, situation);
    EXPECT_TRUE(ours) << what;
    const Netlist deck = netlist(job, situation);
    std::string sources, control;
    std::vector<double> expected;
    const auto analysis = test::analysed(job);
    for (const auto& view : analysis.circuits)
        for (const proof::Judged& j : analysis::promised(analysis, view.id, job::Condition::BatteryOff)) {
            const auto& e = j.expectation;
            const auto red = deck.places.find(e.station.point), black = deck.places.find(e.blackPoint);
            if (e.station.kind != proof::StationKind::Probe || !e.promises() || red == deck.places.end() ||
                black == deck.places.end() || red->second == black->second)
                continue;
            const auto ohms = ours->ohmmeter(e.station.point, e.blackPoint);
            if (!ohms || ohms->value > 1e6)
                continue; // open: what is shown then is a leak
            const std::string source = "itest" + std::to_string(expected.size());
            sources += source + " " + black->second + " " + red->second + " DC 0\n";
            control += "alter " + source + " = 1\nop\nprint v(" + red->second +
                       (black->second == "0" ? ")" : ")-v(" + black->second + ")") + "\nalter " + source + " = 0\n";
            expected.push_back(ohms->value);
        }
    const auto answers = test::askNgspice("* " + what + "\n" + kExact + deck.elements + sources +
                                          ".control\nset numdgt=15\n" + control + "quit\n.endc\n.end\n");
    EXPECT_EQ(answers.size(), expected.size()) << what;
    for (size_t i = 0; i < std::min(answers.size(), expected.size()); ++i)
        EXPECT_NEAR(answers[i], expected[i], 1e-6 + 1e-6 * expected[i]) << what << ", number " << i;
    return static_cast<int>(answers.size());
}

TEST(NgspiceOnJobs, AgreesOnBothDemoJobs)
{
    int compared = 0;
    for (const char* name : {"petrel.vicegrip", "curlew.vicegrip"}) {
        const job::Job job = demo(name);
        for (const job::Condition condition : kLive)
            compared += compareVolts(job, {.condition = condition, .surroundings = job.surroundings},
                                     std::string(name) + ", " + job::conditionWords(condition));
        compared +=
            compareVolts(job, {.surroundings = job.surroundings, .keyOff = true}, std::string(name) + ", key off");
        // Every other driven circuit rests though the engine turns, a fan among them.
        Situation resting{.condition = job::Condition::Running, .surroundings = job.surroundings};
        for (const job::Circuit& c : job.circuits)
            if (!c.output.empty() && (c.function.value == "fan" || resting.off.size() % 2 == 0))
                resting.off.insert(c.id);
        compared += compareVolts(job, resting, std::string(name) + ", some rest");
        compared += compareOhms(job, {}, name);
    }
    EXPECT_GT(compared, 1000);
}

TEST(NgspiceOnJobs, AgreesOnEverySensorOfTheLibrary)
{
    int compared = 0;
    for (const parts::Part& sensor : test::sensors()) {
        for (const parts::EcuProfile& unit : test::library().ecus) {
            job::Job drawn = harness::startJob("Deck", unit);
            harness::addCircuit(drawn, {"map"}, "Circuit", job::Want::Required, sensor);
            EXPECT_TRUE(seating::take(drawn, seating::bestPlan(drawn)));
            if (unit.ecu.expander || drawn.circuits.front().input.empty())
                continue;
            for (const double share : {0.0, 0.37, 1.0})
                compared += compareVolts(
                    drawn,
                    {.surroundings = drawn.surroundings,
                     .measurands = {{drawn.circuits.front().id, std::lerp(sensor.low, sensor.high, share)}}},
                    sensor.id.value + " on " + unit.id.value);
            break;
        }
    }
    EXPECT_GT(compared, 2000);
}

/// Every actuator on an output that takes it: idle, at work, and its winding with the battery off.
TEST(NgspiceOnJobs, AgreesOnEveryActuatorOfTheLibrary)
{
    int compared = 0, seated = 0;
    for (const parts::Part& part : test::library().parts) {
        if (!parts::isDriven(part))
            continue;
        for (const parts::EcuProfile& unit : test::library().ecus) {
            if (unit.ecu.expander)
                continue;
            job::Job drawn = harness::startJob("Deck", unit);
            harness::addCircuit(drawn, {"driven"}, "Circuit", job::Want::Required, part);
            EXPECT_TRUE(seating::take(drawn, seating::bestPlan(drawn)));
            if (drawn.circuits.front().output.empty())
                continue;
            ++seated;
            const std::string what = part.id.value + " on " + unit.id.value;
            for (const job::Condition condition : kLive)
                compared += compareVolts(drawn, {.condition = condition, .surroundings = drawn.surroundings}, what);
            compared += compareVolts(
                drawn, {.surroundings = drawn.surroundings, .clicked = drawn.circuits.front().output}, what);
            compared += compareOhms(drawn, {}, what);
        }
    }
    EXPECT_GT(seated, 60);
    EXPECT_GT(compared, 5000);
}

/// Several sensors on a unit, lengths of any size, and something wrong with it.
TEST(NgspiceOnJobs, AgreesOnRandomJobsWithFaults)
{
    const auto& library = test::library();
    int compared = 0, exchanged = 0;
    for (unsigned seed = 1; seed <= 100; ++seed) {
        std::mt19937 random(seed);
        const parts::EcuProfile& unit = library.ecus[random() % library.ecus.size()];
        if (unit.ecu.expander)
            continue;
        job::Job drawn = harness::startJob("Deck", unit);
        for (int i = 0; i < 5; ++i)
            harness::addCircuit(drawn, {"map"}, "Circuit " + std::to_string(i), job::Want::Wanted,
                                test::sensors()[random() % test::sensors().size()]);
        EXPECT_TRUE(seating::take(drawn, seating::bestPlan(drawn)));
        for (job::Wire& w : drawn.wires)
            w.length_m = 0.2 + static_cast<double>(random() % 80) / 10;
        FaultList faults;
        const auto wire = [&]() -> const job::Wire& { return drawn.wires[random() % drawn.wires.size()]; };
        if (seed % 3 == 0)
            faults.emplace_back(AddedResistance{wire().id, static_cast<double>(1 + random() % 1000)});
        if (seed % 3 == 1)
            faults.emplace_back(OpenWire{wire().id});
        if (seed % 4 == 0)
            faults.emplace_back(Short{wire().from, wire().to, 0.1});
        const job::Circuit& circuit = drawn.circuits[random() % drawn.circuits.size()];
        const job::Device& device = *job::find(drawn, circuit.device);
        if (const auto seat = job::seatCavities(drawn, circuit); seat.size() == 1 && seed % 5 == 0)
            faults.emplace_back(BadContact{seat.front(), seed % 2 == 0 ? std::nullopt : std::optional(20.0)});
        if (seed % 5 == 1)
            faults.emplace_back(BadStud{"G1", 3});
        if (seed % 5 == 2)
            faults.emplace_back(Miscounted{device.connector, static_cast<Count>(random() % 3)});
        if (const job::Wire& w = wire(); seed % 5 == 3 && w.from != job::PointRef{"G2", {}})
            faults.emplace_back(MovedEnd{w.id, w.to, {"G2", {}}});
        if (seed % 5 == 4)
            faults.emplace_back(Drift{circuit.id, 0.07});
        if (seed % 7 == 0 && !circuit.input.empty())
            faults.emplace_back(InputSetting{circuit.input, 1500});
        for (const job::Circuit& c : drawn.circuits) { // the first other plug that goes there
            const job::Device& other = *job::find(drawn, c.device);
            const ExchangedPlugs plugs{{device.connector, other.connector}};
            if (seed % 3 == 2 && seed % 5 != 3 && plugs.missing(drawn).empty()) {
                faults.emplace_back(plugs);
                ++exchanged;
                break;
            }
        }
        const std::string what = "seed " + std::to_string(seed) + " on " + unit.id.value;
        compared += compareVolts(drawn, {.surroundings = drawn.surroundings, .faults = faults}, what);
        compared += compareOhms(drawn, faults, what);
    }
    EXPECT_GT(compared, 5000);
    EXPECT_GT(exchanged, 5);
}

TEST(Netlist, SaysWhatIsWhat)
{
    const job::Job job = test::petrel();
    const std::string deck = netlist(job, {.surroundings = job.surroundings}).deck("Petrel");
    EXPECT_NE(deck.find("* A.7 is n"), std::string::npos);
    EXPECT_NE(deck.find("; sensor clt"), std::string::npos);
    EXPECT_NE(deck.find("; input AN3"), std::string::npos);
    EXPECT_GT(test::askNgspice(deck).size(), 100U) << "it runs as it is printed";
}

} // namespace
} // namespace vicegrip::electrics
