#include "core/bus/bus.h"
#include "core/electrics/netlist.h"
#include "core/harness/edits.h"
#include "core/harness/start.h"
#include "core/job/check.h"
#include "core/seating/plan.h"
#include "core/seating/ways_out.h"
#include "tests/support/library.h"
#include "tests/support/ngspice.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

/// A unit on the ECU's bus: an expander, and a gateway that leads to the vehicle's own.
namespace vicegrip::harness {
namespace {

using testing::HasSubstr;

const job::CircuitId kNetwork{"vehicle-network"};

/// A job on this unit whose bus is to carry the vehicle network.
job::Job onVehicle(const char* ecu)
{
    job::Job job = test::jobOn(ecu);
    addCircuit(job, {"vehicle-network"}, "Vehicle network", job::Want::Required, test::sensor("can-vehicle"));
    return job;
}

job::Job throughGateway(const char* ecu)
{
    job::Job job = onVehicle(ecu);
    const auto ways = seating::waysOut(job, job.circuits[0], test::library());
    const auto way =
        std::ranges::find_if(ways, [](const auto& w) { return w.title.find("gateway") != std::string::npos; });
    EXPECT_NE(way, ways.end());
    EXPECT_THAT(way->detail, HasSubstr("CAN-W2"));
    EXPECT_TRUE(seating::apply(job, *way));
    return job;
}

/// Ohm across a pair with the battery off, wires and contacts left in.
double across(const job::Job& job, const char* high, const char* low)
{
    const auto car = electrics::build(job, {.condition = job::Condition::BatteryOff, .surroundings = job.surroundings});
    return car->ohmmeter(job::PointRef::fromText(high), job::PointRef::fromText(low))->value;
}

/// ISO 11898-2 (from memory): 120 Ohm with one end closed, 60 with both.
TEST(UnitPort, AnExpanderComesWithItsPairDrawn)
{
    job::Job job = test::jobOn("mid-fixed");
    addExpander(job, test::ecu("expander-8"));
    ASSERT_TRUE(job::check(job)) << job::check(job).error().text();
    const job::Circuit* circuit = job::find(job, job::CircuitId{"bus-E"});
    ASSERT_NE(circuit, nullptr);
    EXPECT_TRUE(circuit->locked);
    const auto buses = bus::buses(job);
    ASSERT_EQ(buses.size(), 1U);
    ASSERT_EQ(buses[0].nodes.size(), 2U) << "the port and the unit are one";
    EXPECT_EQ(buses[0].nodes[1].circuit.value, "bus-E");
    EXPECT_NEAR(across(job, "E.5", "E.6"), 120, 1) << "the ECU closes its end, nothing the other";
    EXPECT_FALSE(test::of(job, "bus-ends").empty());
    addExpander(job, test::ecu("expander-8"));
    ASSERT_TRUE(job::check(job)) << job::check(job).error().text();
    EXPECT_EQ(bus::buses(job)[0].nodes.size(), 3U) << "the second one hangs on a Y lead of the first";
}

TEST(UnitPort, AnEcuWithoutABusGetsAnExpanderAlone)
{
    job::Job job = test::jobOn("mid-fixed");
    std::erase_if(job.ecu.outputs, [](const parts::EcuOutput& o) { return o.isShared(); });
    std::erase_if(job.ecu.pins, [&](const parts::EcuPin& p) {
        return !p.output.empty() && parts::findOutput(job.ecu, p.output) == nullptr;
    });
    addExpander(job, test::ecu("expander-8"));
    ASSERT_TRUE(job::check(job)) << job::check(job).error().text();
    EXPECT_TRUE(job.circuits.empty());
}

TEST(UnitPort, TheVehicleNetworkGoesThroughAGateway)
{
    const job::Job before = onVehicle("plug-in-60");
    EXPECT_TRUE(seating::bestPlan(before).seats.empty());
    EXPECT_THAT(seating::unfitness(before, before.circuits[0], "CAN"), HasSubstr("vehicle's messages"));

    const job::Job job = throughGateway("plug-in-60");
    ASSERT_TRUE(job::check(job)) << job::check(job).error().text();
    EXPECT_EQ(job::find(job, kNetwork)->output.value, "CAN-W2");
    EXPECT_TRUE(test::of(job, "bus-ends").empty());
    ASSERT_EQ(bus::buses(job).size(), 2U) << "two buses that share nothing";
    const auto onPlug = job::seatCavities(job, *job::find(job, job::CircuitId{"bus-W"}));
    EXPECT_NEAR(across(job, onPlug[0].text().c_str(), onPlug[1].text().c_str()), 60, 1);
    EXPECT_NEAR(across(job, "W.5", "W.6"), 60, 1);
    EXPECT_GT(across(job, "W.4", "W.5"), 1e6) << "no ohms from one bus to the other";

    // With the key on all four wires are quiet, and another solver says so too.
    const electrics::Situation keyOn{.condition = job::Condition::KeyOn, .surroundings = job.surroundings};
    const auto car = electrics::build(job, keyOn);
    const auto deck = electrics::netlist(job, keyOn);
    std::string ask;
    std::vector<double> ours;
    for (const char* at : {"W.3", "W.4", "W.5", "W.6", "VEHICLE-NETWORK.1"}) {
        const auto place = job::PointRef::fromText(at);
        ask += "print v(" + deck.places.at(place) + ")\n";
        ours.push_back(car->solution.volts(*car->node(place)));
        EXPECT_NEAR(ours.back(), 2.5, 0.1) << at;
    }
    const auto theirs =
        test::askNgspice("* gateway\n" + deck.elements + ".control\nop\n" + ask + "quit\n.endc\n.end\n");
    ASSERT_EQ(theirs.size(), ours.size()) << "is ngspice installed?";
    for (size_t i = 0; i < ours.size(); ++i)
        EXPECT_NEAR(ours[i], theirs[i], 1e-4);
}

TEST(UnitPort, StaysWithItsUnit)
{
    job::Job job = throughGateway("plug-in-60");
    const job::CircuitId port{"bus-W"};
    EXPECT_FALSE(setSensor(job, port, test::sensor("can-display"))) << "no other part stands in for a port";
    EXPECT_FALSE(setSensor(job, kNetwork, *job::partOf(job, *job::find(job, port))));
    EXPECT_THAT(seating::unfitness(job, *job::find(job, port), "CAN-W2"), HasSubstr("same unit"));
    addCircuit(job, {"display"}, "Display", job::Want::Wanted, test::sensor("can-display"));
    EXPECT_THAT(seating::unfitness(job, job.circuits.back(), "CAN-W1"), HasSubstr("hangs on CAN itself"));
    EXPECT_THAT(seating::unfitness(job, *job::find(job, port), "CAN-W1"), HasSubstr("same unit"));
    job::find(job, port)->locked = false;
    ASSERT_TRUE(seating::take(job, seating::bestPlan(job)));
    EXPECT_EQ(job::find(job, port)->output.value, "CAN") << "its own port is no seat for it";
    ASSERT_TRUE(setEcu(job, test::ecu("mid-fixed")));
    ASSERT_TRUE(job::check(job)) << job::check(job).error().text();
    ASSERT_TRUE(seating::take(job, seating::bestPlan(job)));
    ASSERT_TRUE(job::check(job)) << job::check(job).error().text();
    EXPECT_TRUE(job::isSeated(*job::find(job, port)));
    ASSERT_TRUE(removeCircuit(job, port));
    ASSERT_TRUE(job::check(job)) << job::check(job).error().text();
    EXPECT_NE(job::findConnector(job, "W"), nullptr) << "the plug is the unit's";
}

TEST(UnitPort, AFileThatSaysOtherwiseIsRefusedAtThePlace)
{
    const job::Job sound = throughGateway("plug-in-60");
    const auto refused = [&](auto change) {
        job::Job job = sound;
        change(job);
        const auto checked = job::check(job);
        return checked ? std::string() : checked.error().place.pointer + ": " + checked.error().sentence;
    };
    const auto device = [](job::Job& job, const char* id) -> job::Device& {
        return *std::ranges::find(job.devices, job::DeviceId{id}, &job::Device::id);
    };
    EXPECT_THAT(refused([&](job::Job& j) { device(j, "bus-W").connector = "V"; }), HasSubstr("/connector: no unit"));
    EXPECT_THAT(refused([&](job::Job& j) { job::find(j, job::CircuitId{"bus-W"})->output.value = "CAN-W2"; }),
                HasSubstr("/output: Bus to plug W and output CAN-W2 are of one unit"));
    EXPECT_THAT(refused([&](job::Job& j) {
                    std::get<parts::BusDevice>(
                        std::ranges::find(j.parts, parts::PartId{"bus-W"}, &parts::Part::id)->model)
                        .port = false;
                }),
                HasSubstr("there is no sensor plug"));
    nlohmann::json part = {{"id", "p"},
                           {"name", "Port"},
                           {"kind", "bus-device"},
                           {"feed", "battery"},
                           {"pins", {{"1", "signal"}, {"2", "signal-2"}}},
                           {"bus", {{"port", true}, {"terminator_ohm", 120}}}};
    EXPECT_THAT(parts::readPart(part).error().place.pointer, "/bus/port");
    part["bus"] = {{"terminator_ohm", 120}};
    EXPECT_TRUE(parts::readPart(part));
    part["pins"]["3"] = "supply";
    EXPECT_THAT(parts::readPart(part).error().place.pointer, "/pins") << "a supply without a ground";
}

} // namespace
} // namespace vicegrip::harness
