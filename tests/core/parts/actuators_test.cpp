#include "core/parts/describe.h"
#include "core/parts/library.h"
#include "tests/support/library.h"

#include <gmock/gmock.h>

#include <set>

/// What the ECU drives, as parts: files, lines, and what they ask of an output.
namespace vicegrip::parts {
namespace {

using testing::HasSubstr;

std::vector<Part> actuators()
{
    std::vector<Part> out = test::library().parts;
    std::erase_if(out, [](const Part& p) { return !isDriven(p); });
    return out;
}

const Part& part(const char* id)
{
    const Part* found = find(test::library(), PartId{id});
    EXPECT_NE(found, nullptr) << id;
    return *found;
}

nlohmann::json injector()
{
    return nlohmann::json::parse(R"({"id": "i", "name": "I", "kind": "injector", "feed": "battery",
        "pins": {"1": "supply", "2": "signal"}, "winding": {"ohm": 14.5, "tolerance": 0.05}})");
}

TEST(Actuators, TheLibraryHasEveryKind)
{
    std::set<PartUse> uses;
    std::set<size_t> kinds;
    for (const Part& p : actuators()) {
        uses.insert(p.kind);
        kinds.insert(p.model.index());
        EXPECT_EQ(p.feed, Feed::Battery) << p.id.value;
    }
    EXPECT_GE(actuators().size(), 25U);
    EXPECT_EQ(uses.size(), 16U) << "from injector to tachometer, a wideband on the bus, and other devices there";
    EXPECT_EQ(kinds.size(), 6U) << "winding, motor, stepper, lamp, electronics, bus device";
}

/// Typical resistances of the trade (common practice, no source): an injector of high resistance 12 to 16 Ohm, of low 2
/// to 3, a primary 0.3 to 0.8, a relay's coil 70 to 100, a valve on pulse width 7 to 40.
TEST(Actuators, HaveTheResistancesOfTheTrade)
{
    const auto within = [](const Part& p, double least, double most) {
        const auto& w = std::get<Winding>(p.model);
        EXPECT_GE(w.ohm, least) << p.id.value;
        EXPECT_LE(w.ohm, most) << p.id.value;
    };
    for (const Part& p : actuators()) {
        if (!std::holds_alternative<Winding>(p.model))
            continue;
        if (p.kind == PartUse::Injector && driveOf(p)->driver == DriverKind::Injector)
            within(p, 12, 16);
        else if (p.kind == PartUse::Injector)
            within(p, 2, 3);
        else if (p.kind == PartUse::IgnitionCoil)
            within(p, 0.3, 0.8);
        else if (p.kind == PartUse::Relay)
            within(p, 70, 100);
        else if (isOnPulseWidth(p.kind))
            within(p, 7, 40);
    }
}

/// Worked by hand at 14.4 V: 14.4 / (14.5 x 0.95) = 1.045 A; 14.4 / (85 x 0.9) = 188 mA; a coil's driver stops at 7 A
/// where 14.4 / (0.55 x 0.85) = 30.8 A would flow; a small pump starts with 14.4 / (0.9 x 0.7) = 22.9 A.
TEST(Actuators, AskForTheCurrentThatFlows)
{
    EXPECT_NEAR(driveOf(part("injector-14"))->amps, 1.045, 1e-3);
    EXPECT_EQ(driveOf(part("injector-14"))->driver, DriverKind::Injector);
    EXPECT_NEAR(driveOf(part("relay-85"))->amps, 0.188, 1e-3);
    EXPECT_TRUE(driveOf(part("relay-85"))->kicks);
    EXPECT_FALSE(driveOf(part("relay-85-diode"))->kicks);
    EXPECT_DOUBLE_EQ(driveOf(part("coil-single"))->amps, 7);
    EXPECT_EQ(driveOf(part("coil-single"))->driver, DriverKind::Ignition);
    EXPECT_EQ(driveOf(part("coil-driver-4"))->driver, DriverKind::IgnitionLogic);
    EXPECT_NEAR(driveOf(part("pump-small"))->start_a, 22.9, 0.1);
    EXPECT_DOUBLE_EQ(driveOf(part("pump-small"))->amps, 7);
    EXPECT_EQ(driveOf(part("injector-2"))->driver, DriverKind::PeakAndHold);
    EXPECT_EQ(driveOf(part("throttle-motor"))->driver, DriverKind::Pair);
    EXPECT_EQ(driveOf(part("idle-stepper-53"))->driver, DriverKind::Stepper);
    EXPECT_FALSE(driveOf(part("ntc-2k2")));
}

TEST(Actuators, AreMeasuredAcrossTheirWindings)
{
    EXPECT_EQ(acrossFrom(part("injector-14"), PinRole::Signal), PinRole::Supply);
    EXPECT_EQ(acrossFrom(part("injector-14"), PinRole::Supply), PinRole::Signal);
    EXPECT_EQ(acrossFrom(part("relay-high"), PinRole::Signal), PinRole::Ground);
    EXPECT_EQ(acrossFrom(part("throttle-motor"), PinRole::Signal2), PinRole::Signal);
    EXPECT_EQ(acrossFrom(part("idle-stepper-53"), PinRole::Signal4), PinRole::Signal3);
    EXPECT_EQ(acrossFrom(part("coil-driver-4"), PinRole::Signal), std::nullopt);
    EXPECT_EQ(acrossFrom(part("ntc-2k2"), PinRole::Signal), PinRole::Ground);
    EXPECT_EQ(acrossFrom(part("map-3bar"), PinRole::Signal), std::nullopt);
}

TEST(Actuators, AreWrittenAsTheyWereRead)
{
    const auto read = readPart(injector());
    ASSERT_TRUE(read) << read.error().text();
    const nlohmann::json written(fields::toJson(*read));
    EXPECT_FALSE(written.contains("measures")) << "an actuator measures nothing";
    EXPECT_EQ(*readPart(written), *read);
}

TEST(Actuators, NonsenseIsRefusedWithItsPlace)
{
    struct Case
    {
        const char* pointer;
        nlohmann::json value;
        const char* says;
    };
    for (const Case& c : {Case{"/winding/ohm", 0, ""}, Case{"/winding/ohm", -3, ""}, Case{"/winding/tolerance", 2, ""},
                          Case{"/winding/tolerance", 1, ""}, Case{"/winding/limited_a", 1e4, "10000 A"},
                          Case{"/pins", {{"1", "signal"}}, "one other end"},
                          Case{"/pins", {{"1", "signal"}, {"2", "supply"}, {"3", "ground"}}, "one other end"},
                          Case{"/pins", {{"1", "supply"}, {"2", "ground"}}, "signal pins are needed"}}) {
        auto json = injector();
        json[nlohmann::json::json_pointer(c.pointer)] = c.value;
        const auto refused = readPart(json);
        ASSERT_FALSE(refused) << c.pointer;
        EXPECT_THAT(refused.error().sentence, HasSubstr(c.says));
        EXPECT_FALSE(refused.error().place.pointer.empty()) << refused.error().text();
    }
    auto stepper = injector();
    stepper.erase("winding");
    stepper["stepper"] = {{"ohm", 53}};
    EXPECT_THAT(readPart(stepper).error().sentence, HasSubstr("4 signal pins"));
    auto electronics = injector();
    electronics.erase("winding");
    electronics["triggered"] = {{"needs_v", 3}};
    EXPECT_THAT(readPart(electronics).error().sentence, HasSubstr("a supply pin and a ground pin"));
    auto sensor = injector(); // what is read must say what it measures
    sensor.erase("winding");
    sensor["resistive"] = {{"points", {{{"value", 0}, {"ohm", 10}}, {{"value", 1}, {"ohm", 20}}}}};
    EXPECT_FALSE(readPart(sensor));
}

TEST(Actuators, AreDescribedInLines)
{
    const auto d = partFromText("name: Shop injector\nkind: injector\npins: 1 supply, 2 signal\nfeed: battery\n"
                                "tolerance: 4 %\nwinding: 13.8 ohm\n");
    ASSERT_TRUE(d.part) << (d.complaints.empty() ? "" : d.complaints.front().sentence);
    EXPECT_DOUBLE_EQ(std::get<Winding>(d.part->model).ohm, 13.8);
    EXPECT_DOUBLE_EQ(std::get<Winding>(d.part->model).tolerance, 0.04);
    const auto motor = partFromText("name: M\nkind: throttle motor\npins: 1 signal, 2 signal-2\nfeed: battery\n"
                                    "motor: 2,5 ohm, 1500 mA\n");
    ASSERT_TRUE(motor.part);
    EXPECT_DOUBLE_EQ(std::get<Motor>(motor.part->model).running_a, 1.5);
    const auto wrong = partFromText("name: W\nkind: injector\npins: 1 supply, 2 signal\nwinding: 13 V\n");
    ASSERT_FALSE(wrong.part);
    EXPECT_EQ(wrong.complaints.front().line, 4);
}

TEST(Outputs, AreDescribedInLines)
{
    const auto d = ecuFromText("name: Shop unit\nplug A: 1-12\nfeed: A1\nground: A2\n"
                               "INJ1: A3, low side 2 A, injector, to 250 Hz, for inj1 inj2\n"
                               "IGN1: A4, logic 5 V, to 400 Hz, unclamped\n"
                               "STEP: A5, A6, A7, A8, stepper 0.8 A\n"
                               "TAC: A9, low side 200 mA, to 400 Hz, pull-up 2k2, named Tachometer\n"
                               "CAN: A10, A11, bus 120 ohm\n");
    ASSERT_TRUE(d.part) << (d.complaints.empty() ? "" : d.complaints.front().sentence);
    const Ecu& ecu = d.part->ecu;
    ASSERT_EQ(ecu.outputs.size(), 5U);
    EXPECT_TRUE(ecu.outputs[0].can(OutputKind::Injector));
    EXPECT_DOUBLE_EQ(ecu.outputs[0].most_a, 2);
    EXPECT_DOUBLE_EQ(ecu.outputs[0].most_hz, 250);
    EXPECT_THAT(ecu.outputs[0].functions, testing::ElementsAre("inj1", "inj2"));
    EXPECT_DOUBLE_EQ(ecu.outputs[1].high_v, 5);
    EXPECT_FALSE(ecu.outputs[1].clamped);
    EXPECT_THAT(cavitiesOf(ecu, ecu.outputs[2].id), testing::ElementsAre("A.5", "A.6", "A.7", "A.8"));
    EXPECT_EQ(ecu.outputs[3].pull_up_ohm, 2200);
    const auto again = ecuFromText(textOf(*d.part));
    ASSERT_TRUE(again.part) << (again.complaints.empty() ? "" : again.complaints.front().sentence);
    EXPECT_EQ(again.part->ecu.outputs, ecu.outputs);
    EXPECT_EQ(cavitiesOf(again.part->ecu, ecu.outputs[2].id), cavitiesOf(ecu, ecu.outputs[2].id));
    EXPECT_TRUE(ecu.outputs[4].isShared());
    EXPECT_DOUBLE_EQ(ecu.outputs[4].terminator_ohm, 120);
    EXPECT_THAT(cavitiesOf(ecu, ecu.outputs[4].id), testing::ElementsAre("A.10", "A.11"));
}

TEST(Outputs, NonsenseIsComplainedOfWithItsLine)
{
    const auto complaint = [](const std::string& line) {
        const auto d = ecuFromText("name: U\nplug A: 1-4\nfeed: A1\nground: A2\n" + line + "\n");
        return d.complaints.empty() ? LineComplaint{} : d.complaints.front();
    };
    EXPECT_EQ(complaint("X: A3, low side 2 V").line, 5);
    EXPECT_EQ(complaint("X: A3, low side 0 A").line, 5);
    EXPECT_EQ(complaint("X: A3, low side 9999 A").line, 5);
    EXPECT_THAT(complaint("X: A3, low side 2 A, sometimes").sentence, HasSubstr("not understood"));
    EXPECT_THAT(complaint("X: low side 2 A").sentence, HasSubstr("cavity first"));
    EXPECT_THAT(complaint("X: A3, A4, analog").sentence, HasSubstr("one cavity"));
    EXPECT_THAT(complaint("X: A3, logic").sentence, HasSubstr("say its volts"));
    EXPECT_THAT(complaint("X: A3, low side 2 A\nX: A4, analog").sentence, HasSubstr("already"));
}

} // namespace
} // namespace vicegrip::parts
