#include "core/electrics/electrics.h"
#include "core/findings/finding.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <set>

namespace vicegrip::proof {
namespace {

using job::Condition;
using test::analysed;
using test::at;
using test::petrel;
using test::prove;

TEST(Expected, EveryCircuitPromisesItsNeededPlaces)
{
    const auto a = analysed(petrel());
    ASSERT_EQ(a.circuits.size(), 23U);
    for (const auto& view : a.circuits) {
        int needed = 0;
        for (const Judged& j : analysis::promised(a, view.id, Condition::KeyOn)) {
            const bool switches = (view.id.value == "crank" || view.id.value == "cam") &&
                                  j.expectation.station.role == parts::PinRole::Signal;
            EXPECT_EQ(j.expectation.promises(), !switches)
                << view.id.value << " " << j.expectation.station.label << ": " << j.expectation.trouble;
            EXPECT_LE(j.expectation.low, j.expectation.due.si());
            EXPECT_GE(j.expectation.high, j.expectation.due.si());
            needed += j.expectation.needed ? 1 : 0;
        }
        EXPECT_GE(needed, 2) << view.id.value;
        EXPECT_FALSE(proof::stations(view, Condition::BatteryOff).empty());
    }
    EXPECT_TRUE(a.networkTrouble.empty());
}

TEST(Expected, ThermistorDividerByHand)
{
    const auto a = analysed(petrel());
    // 2k2 at 25 °C, beta 3500, at 22 °C; 2k49 to 5 V, 1 Mohm down, 1 kohm into the converter.
    const double r = 2200 * std::exp(3500 * (1 / 295.15 - 1 / 298.15));
    const double bottom = 1 / (1 / r + 1 / 1.001e6);
    EXPECT_NEAR(at(a, "clt", "input").expectation.due.si(), 5 * bottom / (2490 + bottom) * (1e6 / 1.001e6), 0.002);
    EXPECT_NEAR(at(a, "clt", "A.7", Condition::BatteryOff).expectation.due.si(), r + 0.2, 0.5)
        << "the sensor, and the meter's leads";
    EXPECT_EQ(at(a, "clt", "A.7", Condition::BatteryOff).expectation.black, "Cavity A10");
}

TEST(Expected, ContinuityOfALongLeadIsBelowTwoOhm)
{
    // Common practice, no source: about 2 ohm on a hand meter, leads included, is accepted.
    const auto a = analysed(petrel());
    for (const char* place : {"MAP.2", "MAP.3", "MAP.1"}) {
        const Expectation& e = at(a, "map", place, Condition::BatteryOff).expectation;
        EXPECT_GT(e.due.si(), 0.2);
        EXPECT_LT(e.high, 2);
    }
    EXPECT_FALSE(at(a, "map", "A.5", Condition::BatteryOff).expectation.promises()) << "the black lead is there";
}

TEST(Expected, AmbientAndBarometerMoveThePromise)
{
    job::Job cold = petrel(), high = petrel();
    cold.surroundings.ambient_k = 273.15 - 10;
    high.surroundings.barometer_pa = 75000;
    const auto now = analysed(petrel());
    EXPECT_GT(at(analysed(cold), "clt", "A.7").expectation.due.si(), at(now, "clt", "A.7").expectation.due.si() + 0.5);
    EXPECT_NEAR(at(analysed(high), "map", "value").expectation.due.si(), 75000, 200);
    EXPECT_NEAR(at(analysed(high), "clt", "A.7").expectation.due.si(), at(now, "clt", "A.7").expectation.due.si(),
                1e-6);
}

TEST(Expected, AMissingWireIsSaidAndTheRestStands)
{
    job::Job job = petrel();
    std::erase_if(job.wires, [](const job::Wire& w) { return w.id.value == "w6"; });
    const auto a = analysed(job);
    const auto* clt = analysis::find(a, {"clt"});
    EXPECT_EQ(clt->meter, State::Failing);
    EXPECT_THAT(at(a, "clt", "CLT.1").expectation.trouble, testing::HasSubstr("leads nowhere"));
    EXPECT_TRUE(at(a, "iat", "A.8").expectation.promises());
    EXPECT_EQ(a.findings.front().rule, "open-conductor");
    EXPECT_EQ(a.findings.front().severity, findings::Severity::Stop);
}

TEST(Verdict, InsideProvesOutsideFails)
{
    job::Job job = petrel();
    const Expectation e = at(analysed(job), "ot", "A.12").expectation;
    EXPECT_EQ(at(analysed(job), "ot", "A.12").state, State::Untouched);
    prove(job, "ot", "A.12", e.due.si() + 0.9 * (e.high - e.due.si()));
    EXPECT_EQ(at(analysed(job), "ot", "A.12").state, State::Done);
    prove(job, "ot", "A.12", e.high + 0.01);
    const auto a = analysed(job);
    EXPECT_EQ(at(a, "ot", "A.12").state, State::Failing) << "the latest reading counts";
    EXPECT_THAT(at(a, "ot", "A.12").reason, testing::HasSubstr("above"));
    EXPECT_EQ(analysis::find(a, {"ot"})->meter, State::Failing);
}

TEST(Verdict, NeededPlacesProveTheCircuit)
{
    job::Job job = petrel();
    for (const char* place : {"A.12", "OT.2"})
        prove(job, "ot", place, at(analysed(job), "ot", place).expectation.due.si());
    EXPECT_EQ(analysis::find(analysed(job), {"ot"})->meter, State::Done);
}

TEST(Stale, ForAStatedReasonAndBackAgain)
{
    job::Job job = petrel();
    prove(job, "ot", "A.12", at(analysed(job), "ot", "A.12").expectation.due.si());
    const auto changed = [&](const std::function<void(job::Job&)>& edit) {
        job::Job other = job;
        edit(other);
        return std::pair(at(analysed(other), "ot", "A.12").state, at(analysed(other), "ot", "A.12").reason);
    };
    const auto [pullUp, why] =
        changed([](job::Job& j) { job::findInput(j, parts::InputId{"AN6"})->pull_up_ohm = 2490; });
    EXPECT_EQ(pullUp, State::Stale);
    EXPECT_EQ(why, "input AN6 pull-up changed from 1k Ω to 2k49 Ω");
    EXPECT_EQ(changed([](job::Job& j) { test::wire(j, "w11").length_m = 3; }).first, State::Stale) << "its own wire";
    EXPECT_EQ(changed([](job::Job& j) { test::wire(j, "w22").area_m2 = 0.5e-6; }).first, State::Stale)
        << "the shared sensor ground";
    EXPECT_EQ(changed([](job::Job& j) { test::wire(j, "w5").length_m = 3; }).first, State::Done)
        << "another circuit's wire";
    EXPECT_EQ(changed([](job::Job& j) { j.title = "renamed"; }).first, State::Done);
    EXPECT_EQ(changed([](job::Job& j) { j.surroundings.ambient_k += 8; }).first, State::Done)
        << "proved at the ambient of that day";
}

TEST(Stale, AHeatersWireIsPartOfWhatASharedGroundRestsOn)
{
    job::Job job = petrel();
    prove(job, "gt", "A.13", at(analysed(job), "gt", "A.13").expectation.due.si());
    // Not on the gearbox sensor's own path: the wideband's feed. Its heater lifts the ground that both share.
    for (job::Device& d : job.devices)
        if (d.id.value == "wb")
            d.part = {"wb-hot"};
    job.parts.push_back(*job::sensorOf(petrel(), *job::find(petrel(), job::CircuitId{"wb"})));
    job.parts.back().id = {"wb-hot"};
    std::get<parts::VoltageDevice>(job.parts.back().model).supply_ohm = 5;
    const auto a = analysed(job);
    EXPECT_EQ(at(a, "gt", "A.13").state, State::Stale);
    EXPECT_THAT(at(a, "gt", "A.13").reason, testing::HasSubstr("sensor wb"));
}

TEST(Petrel, TellsItsStory)
{
    const auto a = analysed(petrel());
    EXPECT_EQ(analysis::find(a, {"map"})->meter, State::Done);
    EXPECT_EQ(analysis::find(a, {"map"})->scale, State::Done);
    EXPECT_EQ(analysis::find(a, {"clt"})->meter, State::Stale);
    EXPECT_EQ(analysis::find(a, {"fp"})->meter, State::Failing);
    EXPECT_EQ(analysis::find(a, {"wb"})->meter, State::Untouched);
    ASSERT_FALSE(a.tasks.empty());
    EXPECT_EQ(a.tasks.front().title, "Fuel pressure: find the fault");
    const auto offset = std::ranges::count(a.findings, "ground-offset", &findings::Finding::rule);
    EXPECT_EQ(offset, 2) << "wideband and gearbox temperature share the heater's ground";
}

TEST(Findings, InputModeMistakesAreNamed)
{
    job::Job job = petrel();
    job::findInput(job, parts::InputId{"AN3"})->pull_up_ohm.reset();
    job::findInput(job, parts::InputId{"AN1"})->pull_up_ohm = 2490;
    job.ecu.supply.limit_a = 0.01;
    const auto a = analysed(job);
    for (const char* rule : {"pull-up-missing", "pull-up-unwanted", "supply-budget", "no-table"})
        EXPECT_NE(std::ranges::count(a.findings, rule, &findings::Finding::rule), 0) << rule;
}

TEST(Reading, IsUnderstoodAsTyped)
{
    const auto a = analysed(petrel());
    const Expectation& volts = at(a, "clt", "A.7").expectation;
    const Expectation& ohms = at(a, "clt", "A.7", Condition::BatteryOff).expectation;
    EXPECT_NEAR(parseReading(volts, "2.52")->si(), 2.52, 1e-12);
    EXPECT_NEAR(parseReading(volts, "2520 mV")->si(), 2.52, 1e-12);
    EXPECT_NEAR(parseReading(ohms, "2k48")->si(), 2480, 1e-9);
    EXPECT_TRUE(parseReading(ohms, "open")->isOpen());
    EXPECT_TRUE(parseReading(ohms, "OL")->isOpen());
    EXPECT_TRUE(parseReading(volts, "OL")->isOverload());
    EXPECT_FALSE(parseReading(volts, "open")) << "volts are never open";
    EXPECT_FALSE(parseReading(volts, "2.52 bar"));
    EXPECT_FALSE(ohms.allows(*parseReading(volts, "2.52"))) << "volts are no Ohm, whatever the number";
    EXPECT_EQ(verdictText(volts, *parseReading(volts, "OL")),
              "overload: beyond the meter's range, and outside " + boundsText(volts));
}

/// Every number of a job's file, by its pointer, but for what moves no element: faces, records of the work, where it is
/// read, and how.
void numbersOf(const nlohmann::json& json, const std::string& at, std::vector<std::string>& out)
{
    static const std::set<std::string> kElsewhere = {"layout",
                                                     "terminals",
                                                     "pinned",
                                                     "log",
                                                     "hands",
                                                     "brief",
                                                     "branches",
                                                     "proofs",
                                                     "meter",
                                                     "surroundings",
                                                     "scaling",
                                                     "rest",
                                                     "captured",
                                                     "stops",
                                                     "vicegrip",
                                                     "tolerance_v",
                                                     "tolerance",
                                                     "pull_up_tolerance",
                                                     "pull_up_choices_ohm",
                                                     "withstands_v",
                                                     "most_hz",
                                                     "limit_a",
                                                     "bits",
                                                     "span_v"};
    if (json.is_number())
        out.push_back(at);
    for (const auto& [name, value] : json.items())
        if ((json.is_object() && !kElsewhere.contains(name)) || json.is_array())
            numbersOf(value, at + "/" + name, out);
}

/// Whatever number of a job is changed: a reading it moves noticeably was proved before, and is stale now.
/// 120 Ohm across a pair become 60 when another that hangs on it closes it as well (ISO 11898-2).
TEST(Staleness, ATerminatorOfAnotherOnTheBusIsAmongItsFacts)
{
    job::Job job = test::petrel();
    job.proofs.clear();
    const auto before = analysed(job);
    for (const Judged& j : analysis::promised(before, {"wbc"}, Condition::BatteryOff))
        if (j.expectation.promises() && j.expectation.station.kind == StationKind::Probe)
            job.proofs.push_back(record(before.facts, {"wbc"}, j.expectation, j.expectation.due,
                                        job::ReadingSource::Typed, "2026-01-02T03:04:05Z"));
    ASSERT_FALSE(job.proofs.empty());
    for (parts::Part& p : job.parts)
        if (auto* bus = std::get_if<parts::BusDevice>(&p.model); bus != nullptr && p.id.value == "can-display-open")
            bus->terminator_ohm = 120;
    int stale = 0;
    for (const Standing& s : analysis::standings(analysed(job), {"wbc"}, Condition::BatteryOff))
        stale += s.state == State::Stale ? 1 : 0;
    EXPECT_GE(stale, 2);
}

TEST(Staleness, WhatMovesAReadingIsAmongItsFacts)
{
    for (const char* name : {"petrel", "curlew"}) {
        job::Job job = *job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/" + name + ".vicegrip");
        job.proofs.clear();
        const auto before = analysed(job);
        for (const auto& view : before.circuits)
            for (const Condition condition : {Condition::KeyOn, Condition::BatteryOff})
                for (const Judged& j : analysis::promised(before, view.id, condition))
                    if (j.expectation.promises() && j.expectation.station.kind == StationKind::Probe)
                        job.proofs.push_back(record(before.facts, view.id, j.expectation, j.expectation.due,
                                                    job::ReadingSource::Typed, "2026-01-02T03:04:05Z"));
        const auto json = nlohmann::json::parse(job::write(job));
        std::vector<std::string> pointers;
        numbersOf(json, "", pointers);
        int moved = 0;
        for (size_t n = 0; n < pointers.size(); ++n) {
            const bool oneOfMany = pointers[n].starts_with("/wires/") || pointers[n].starts_with("/ecu/inputs/") ||
                                   pointers[n].starts_with("/ecu/outputs/") || pointers[n].starts_with("/parts/");
            if (oneOfMany && n % 24 != 0)
                continue;
            auto changed = json;
            auto& number = changed[nlohmann::json::json_pointer(pointers[n])];
            number = number.get<double>() * 1.2 + (number.get<double>() == 0 ? 0.1 : 0);
            const auto other = job::read(changed.dump());
            if (!other)
                continue; // it cannot be changed alone
            const auto after = analysed(*other);
            for (size_t c = 0; c < before.circuits.size(); ++c)
                for (const Condition condition : {Condition::KeyOn, Condition::BatteryOff}) {
                    const auto was = analysis::promised(before, before.circuits[c].id, condition);
                    const auto is = analysis::promised(after, after.circuits[c].id, condition);
                    for (size_t i = 0; i < was.size() && i < is.size(); ++i) {
                        const Expectation& e = was[i].expectation;
                        const double least = condition == Condition::KeyOn ? 1e-3 : 0.1;
                        if (e.station.kind != StationKind::Probe || !e.promises() || !is[i].expectation.promises() ||
                            is[i].expectation.due == e.due ||
                            std::abs(is[i].expectation.due.si() - e.due.si()) <
                                std::max(least, 1e-3 * std::abs(e.due.si())))
                            continue;
                        ++moved;
                        EXPECT_EQ(is[i].state, State::Stale)
                            << name << ": " << pointers[n] << " moves " << before.circuits[c].id.value << " "
                            << e.station.label << " from " << e.due.si() << " to " << is[i].expectation.due.si();
                    }
                }
        }
        EXPECT_GT(moved, 15) << name;
    }
}

} // namespace
} // namespace vicegrip::proof
