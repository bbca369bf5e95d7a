#include "tests/support/faulty_car.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

/// Faults that no ohmmeter sees: a mode that is set, plugs on each other's part, what the starter cuts off.
namespace vicegrip::diagnosis {
namespace {

using job::Condition;
using testing::HasSubstr;
using units::Dimension;

Diagnosis found(const analysis::Analysis& a, const char* circuit, const std::vector<Taken>& taken)
{
    return Finder(a, {circuit}, test::families(), test::library()).diagnosis(taken, Condition::KeyOn);
}

double shareOf(const Diagnosis& d, const std::string& words)
{
    double out = 0;
    for (size_t s = 0; s < d.suspects.size(); ++s)
        if (d.suspects[s].what.find(words) != std::string::npos)
            out += d.belief[s];
    return out;
}

/// Common practice, no source: an input set to a switch shows no temperature, and the meter finds all as it should be.
TEST(WrongMode, IsFoundWhereTheMeterFindsNothing)
{
    const auto a = test::analysed(test::unread());
    const std::vector<Taken> volts = {{{"clt"}, "A.7", job::Reading::of(2.52, Dimension::Voltage, Condition::KeyOn)},
                                      {{"clt"}, "CLT.1", job::Reading::of(2.52, Dimension::Voltage, Condition::KeyOn)}};
    for (const job::Reading& shown : {job::Reading::beyond(Dimension::Temperature, Condition::KeyOn),
                                      job::Reading::of(410, Dimension::Temperature, Condition::KeyOn)}) {
        auto taken = volts;
        taken.push_back({{"clt"}, "value", shown});
        if (!shown.isOverload()) // twice: it is no slip
            taken.push_back(taken.back());
        const Diagnosis d = found(a, "clt", taken);
        EXPECT_GT(shareOf(d, "Input AN3 is set to switch"), shown.isOverload() ? 0.45 : 0.01)
            << d.suspects[d.groups[0].members[0]].what;
    }
}

TEST(WrongMode, PromisesNothingOfTheEcuAndAllOfTheMeter)
{
    job::Job job = test::unread();
    job::findInput(job, {"AN3"})->setTo = parts::InputMode::Switch;
    const auto a = test::analysed(job);
    int probes = 0;
    for (const proof::Expectation& e : analysis::promises(a, {"clt"}, Condition::KeyOn)) {
        if (e.station.kind == proof::StationKind::Probe)
            probes += e.promises() ? 1 : 0;
        else
            EXPECT_THAT(e.trouble, HasSubstr("another kind of signal"));
    }
    EXPECT_GE(probes, 2);
}

/// Two injectors answer for one another. Readings of two that are alike tell nothing; the clicks do.
TEST(ExchangedPlugs, AreBelievedWhenTheOtherPartAnswers)
{
    job::Job job = test::unread();
    const auto drawn = test::analysed(job);
    EXPECT_LT(shareOf(found(drawn, "inj1", {}), "exchanged"), 0.6) << "before anything is clicked";
    const electrics::Wiring wiring(job);
    for (const auto& [clicked, heard] : {std::pair("inj1", "inj3"), {"inj3", "inj1"}})
        job.clicks.push_back(clicks::record(job, drawn.facts, wiring, *job::find(job, job::CircuitId{clicked}),
                                            {{heard}}, "2026-11-29T10:00:00Z"));
    const auto a = test::analysed(job);
    const Diagnosis d = found(a, "inj1", {});
    EXPECT_EQ(d.suspects[d.groups[0].members[0]].family, "plugs-exchanged") << d.suspects[d.groups[0].members[0]].what;
    EXPECT_GT(shareOf(d, "exchanged"), 0.5);
}

/// And where nothing answers, it is for the readings to say why.
TEST(Clicks, ThatNothingAnsweredRaiseWhatIsOpen)
{
    job::Job job = test::unread();
    const auto drawn = test::analysed(job);
    const double before = found(drawn, "inj1", {}).belief[0];
    job.clicks.push_back(clicks::record(job, drawn.facts, electrics::Wiring(job),
                                        *job::find(job, job::CircuitId{"inj1"}), {}, "2026-11-29T10:00:00Z"));
    const auto a = test::analysed(job);
    const Diagnosis d = found(a, "inj1", {});
    EXPECT_LT(d.belief[0], before / 5) << "that nothing is wrong";
    EXPECT_FALSE(d.enough);
    EXPECT_GT(d.probes.front().bits, 0.2);
}

/// Common practice, no source: what hangs on the accessories is dead while the starter turns, and good at every other
/// time.
TEST(DeadCranking, IsFoundFromAReadingWhileCranking)
{
    const auto a = test::analysed(test::unread());
    std::vector<Taken> taken;
    for (const proof::Expectation& e : analysis::promises(a, {"map"}, Condition::KeyOn))
        if (e.promises() && e.station.kind == proof::StationKind::Probe)
            taken.push_back({{"map"}, e.station.key, e.due});
    const auto car = electrics::build(*a.job, {.condition = Condition::Cranking,
                                               .surroundings = a.job->surroundings,
                                               .faults = {faults::DeadCranking{"K1"}}});
    ASSERT_TRUE(car);
    EXPECT_FALSE(car->units.front().powered);
    const auto at = car->voltmeter(job::PointRef::fromText("MAP.3"), job::PointRef::fromText("BAT-"), a.job->meter);
    ASSERT_TRUE(at);
    taken.push_back({{"map"}, "MAP.3", job::Reading::of(at->value, Dimension::Voltage, Condition::Cranking)});
    const Diagnosis d = found(a, "map", taken);
    EXPECT_GT(shareOf(d, "while the starter turns"), 0.8) << d.suspects[d.groups[0].members[0]].what;
    EXPECT_TRUE(std::ranges::any_of(d.probes, [](const Probe& p) {
        return p.spot.place.condition == Condition::Cranking;
    })) << "where something was read while cranking, other places can be";
}

/// The table of the sensor before, against one that is made for that sensor on the same input.
TEST(OldTable, IsThatOfTheOtherSensor)
{
    const auto a = test::analysed(test::unread());
    int compared = 0;
    for (const char* circuit : {"clt", "map"})
        for (const Suspect& s : suspects(a, {circuit}, test::families(), test::library())) {
            const std::string said = "holds the table of another sensor: ";
            const size_t at = s.what.find(said);
            if (at == std::string::npos)
                continue;
            const auto other =
                std::ranges::find(test::library().parts, s.what.substr(at + said.size()), &parts::Part::name);
            ASSERT_NE(other, test::library().parts.end());
            const job::Circuit& drawn = *job::find(*a.job, job::CircuitId{circuit});
            if (other->pins != job::sensorOf(*a.job, drawn)->pins)
                continue;
            const job::Job fitted = faults::asWired(*a.job, {faults::OtherPart{drawn.device, *other}});
            const auto b = test::analysed(fitted);
            const auto& table = analysis::find(b, {circuit})->table;
            if (!table) // the points that are asked for do not suit it
                continue;
            const double range = other->high - other->low;
            const std::string& unit = table->unit;
            for (const auto& p : std::get<faults::HeldTable>(s.faults.front()).points) {
                if (p.volts < table->points.front().reading || p.volts > table->points.back().reading)
                    continue; // beyond what the other is made for
                ++compared;
                EXPECT_NEAR(units::fromUnit(p.value, other->measures, unit), scaling::lookUp(*table, p.volts),
                            table->worstError + range / 50)
                    << circuit << ", " << other->name << " at " << p.volts << " V";
            }
        }
    EXPECT_GT(compared, 40);
}

/// A finder goes on with the same car, and with no other.
TEST(Finder, GoesOnAfterAReadingAndNotAfterAnEdit)
{
    const auto a = test::analysed(test::unread());
    Finder finder(a, {"clt"}, test::families(), test::library());
    job::Job read = test::unread();
    for (const proof::Expectation& e : analysis::promises(a, {"clt"}, Condition::KeyOn))
        if (e.station.key == "A.7")
            read.proofs.push_back(proof::record(a.facts, {"clt"}, e,
                                                job::Reading::of(4.99, Dimension::Voltage, Condition::KeyOn),
                                                job::ReadingSource::Meter, "2026-11-29T10:00:00Z"));
    const auto after = test::analysed(read);
    ASSERT_TRUE(finder.goOnWith(after));
    const Diagnosis gone = finder.diagnosis({}, Condition::KeyOn),
                    fresh = Finder(after, {"clt"}, test::families(), test::library()).diagnosis({}, Condition::KeyOn);
    ASSERT_EQ(gone.belief.size(), fresh.belief.size());
    for (size_t s = 0; s < gone.belief.size(); ++s)
        EXPECT_NEAR(gone.belief[s], fresh.belief[s], 1e-9) << gone.suspects[s].what;
    job::Job longer = read;
    longer.wires.front().length_m += 1;
    const auto another = test::analysed(longer);
    EXPECT_FALSE(finder.goOnWith(another));
}

} // namespace
} // namespace vicegrip::diagnosis
