#include "core/base/document.h"
#include "tests/support/calibration.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>
#include <numeric>

/// What is wrong, and where to look next.
namespace vicegrip::diagnosis {
namespace {

using job::Condition;
using testing::HasSubstr;

Prediction quantity(double value, double sigma)
{
    return {.kind = Prediction::Kind::Quantity, .value = value, .own = sigma};
}

size_t suspectOf(const Diagnosis& d, const std::string& words)
{
    for (size_t s = 0; s < d.suspects.size(); ++s)
        if (d.suspects[s].what.find(words) != std::string::npos)
            return s;
    ADD_FAILURE() << "nobody suspects: " << words;
    return 0;
}

Diagnosis of(const analysis::Analysis& a, const char* circuit, const std::vector<Taken>& taken = {})
{
    return Finder(a, {circuit}, test::families(), test::library()).diagnosis(taken, Condition::KeyOn);
}

TEST(Diagnosis, TheOpenFeedOfTheFuelPressureIsFoundInAFewReadings)
{
    const auto a = test::analysed(test::unread());
    const Diagnosis good = of(a, "fp");
    ASSERT_EQ(good.trouble, "");
    EXPECT_EQ(good.suspects[good.groups[0].members[0]].family, "nothing") << "before anything is read";
    const size_t truth = suspectOf(good, "Wire w20 is open, Splice S1 to Plug FP 3");
    Finder finder(a, {"fp"}, test::families(), test::library());
    const auto spots = test::spotsOf(a, {"fp"});
    test::FaultyCar car(a, good.suspects[truth], spots);
    const test::Ended e = test::foundBy(finder, a, spots, car, truth);
    EXPECT_TRUE(e.shows);
    EXPECT_EQ(e.place, 0U);
    EXPECT_LE(e.probes, 6);
    EXPECT_THAT(good.suspects[truth].mend, HasSubstr("w20"));
}

/// The demo as it ships: its failing reading is enough to look in the right wires.
TEST(Diagnosis, ReadingsOfTheJobCount)
{
    const auto a = test::analysed(test::petrel());
    const Diagnosis d = of(a, "fp");
    EXPECT_NE(d.suspects[d.groups[0].members[0]].family, "nothing") << "it reads 0.03 V where 0.52 V are due";
    ASSERT_FALSE(d.probes.empty());
    EXPECT_GT(d.probes[0].bits, 0.5);
    ASSERT_GE(d.probes[0].outcomes.size(), 2U) << "a probe that can only show one thing tells nothing";
    EXPECT_THAT(d.probes[0].outcomes[0].shows, HasSubstr("V"));
    for (size_t i = 1; i < d.probes.size(); ++i)
        EXPECT_GE(d.probes[i - 1].bits / d.probes[i - 1].seconds, d.probes[i].bits / d.probes[i].seconds);
}

/// A circuit of a demo job.
struct Of
{
    const char *file, *circuit;
};

/// The same work for each of three circuits: they run beside each other.
class Surveys : public testing::TestWithParam<Of>
{
};

INSTANTIATE_TEST_SUITE_P(Demos, Surveys,
                         testing::Values(Of{"petrel.vicegrip", "clt"}, Of{"petrel.vicegrip", "map"},
                                         Of{"curlew.vicegrip", "tps"}),
                         [](const auto& one) { return std::string(one.param.circuit); });

// The sanitizers watch memory, which every fault treads alike and ten times slower; what is counted is counted without.
#ifdef __SANITIZE_ADDRESS__
constexpr int kThinned = 6;
#else
constexpr int kThinned = 1;
#endif

struct Survey
{
    int faults = 0, found = 0;
    std::string missed;
};

/// Every so many-th fault of a circuit, as far as it shows; hands follow what is proposed.
Survey survey(const Of& of, bool built, size_t every)
{
    Survey out;
    unsigned seed = 0;
    const auto a = test::analysed(test::unread(of.file));
    Finder finder(a, {of.circuit}, test::families(), test::library());
    const auto suspects = finder.diagnosis({}, Condition::KeyOn, 0).suspects;
    const auto spots = test::spotsOf(a, {of.circuit});
    for (size_t s = 1; s < suspects.size(); s += every * static_cast<size_t>(kThinned)) {
        const job::Job car = test::WithinTolerance(++seed).car(*a.job);
        test::FaultyCar wrong(a, suspects[s], spots, built ? test::Hands{&car, seed, kSlips} : test::Hands{});
        const test::Ended e = test::foundBy(finder, a, spots, wrong, s);
        if (!e.shows) // a good car could read as much
            continue;
        ++out.faults;
        out.found += e.place == 0 ? 1 : 0;
        if (e.place != 0)
            out.missed += suspects[s].what + "\n";
    }
    return out;
}

TEST_P(Surveys, EverySingleFaultEndsInTheFirstGroup)
{
    const Survey s = survey(GetParam(), false, 7);
    EXPECT_GE(s.faults * kThinned, 25);
    EXPECT_GE(s.found, s.faults * 97 / 100) << s.faults << " faults\n" << s.missed;
}

/// Cars at the edge of their tolerances, a good meter's last digits, and two readings of a hundred that are slips.
TEST_P(Surveys, AndOnCarsAsTheyAreBuilt)
{
    const Survey s = survey(GetParam(), true, 5);
    EXPECT_GE(s.faults * kThinned, 35);
    EXPECT_GE(s.found, s.faults * 93 / 100) << s.faults << " faults\n" << s.missed;
}

/// Against cars solved one by one, which know nothing of the belief: built within tolerance, with faults of any size,
/// read by hands that slip. 100,000 of them are counted by benchmarks/diagnosis_figures.
TEST_P(Surveys, WhatIsSaidToBeLikelyIsSoAsOften)
{
    const auto a = test::analysed(test::unread(GetParam().file));
    const test::Calibration c = test::calibration(a, {GetParam().circuit}, 600 / kThinned, 11);
    int told = 0;
    for (const auto& bin : c.bins) {
        if (bin.cars < 50 / kThinned) // too few to say
            continue;
        told += bin.cars;
        const double said = bin.said / bin.cars, right = static_cast<double>(bin.right) / bin.cars;
        const double counting = std::sqrt(said * (1 - said) / bin.cars);
        EXPECT_NEAR(right, said, 0.04 + 3 * counting) << bin.cars;
    }
    EXPECT_GT(told * kThinned, 400);
}

/// Sizes that were not solved, against the same network solved at them.
TEST(Predictions, OfSizesBetweenAreThoseOfTheNetwork)
{
    const auto a = test::analysed(test::unread());
    for (const char* circuit : {"clt", "fp"}) {
        const auto suspects = of(a, circuit).suspects;
        const auto spots = test::spotsOf(a, {circuit});
        auto all = suspects;
        for (Suspect& s : all)
            s.solved = true;
        const auto between = predictions(a, {circuit}, suspects, spots), solved = predictions(a, {circuit}, all, spots);
        int compared = 0, off = 0;
        for (size_t s = 0; s < suspects.size(); ++s)
            for (size_t i = 0; i < spots.size(); ++i) {
                ASSERT_EQ(between[s][i].kind, solved[s][i].kind) << suspects[s].what;
                compared += suspects[s].solved ? 0 : 1;
                off += std::abs(between[s][i].value - solved[s][i].value) > solved[s][i].sigma() ? 1 : 0;
                if (spots[i].place.station.kind == proof::StationKind::Probe) {
                    EXPECT_NEAR(between[s][i].value, solved[s][i].value, 0.2 * solved[s][i].sigma())
                        << suspects[s].what << " at " << spots[i].place.station.key;
                }
            }
        EXPECT_GT(compared, 3000);
        EXPECT_LT(off, compared / 300) << "what the ECU makes of it bends";
    }
}

/// A bad sensor ground, read at four circuits' inputs by somebody who knows nothing of it.
TEST(SharedFault, OneGroundExplainsWhatReadsWrongOnAllOfThem)
{
    job::Job job = test::unread();
    const auto drawn = test::analysed(job);
    Suspect truth;
    truth.faults = {faults::AddedResistance{{"w22"}, 55}};
    EXPECT_FALSE(sharedFault(drawn, test::families(), test::library())) << "nothing is wrong yet";
    std::set<job::CircuitId> wrong;
    for (const char* circuit : {"clt", "iat", "tps", "fp", "ot"}) {
        const auto spots = test::spotsOf(drawn, {circuit});
        test::FaultyCar car(drawn, truth, spots);
        for (const proof::Expectation& e : analysis::promises(drawn, {circuit}, Condition::KeyOn))
            for (const Spot& s : spots)
                if (s.place == e && s.place.needed)
                    if (const auto shown = car.at(s)) {
                        job.proofs.push_back(proof::record(drawn.facts, {circuit}, e, *shown, job::ReadingSource::Meter,
                                                           "2026-01-01T00:00:00Z"));
                        if (!e.allows(*shown))
                            wrong.insert({circuit});
                    }
    }
    ASSERT_GE(wrong.size(), 3U);
    const auto shared = sharedFault(test::analysed(job), test::families(), test::library());
    ASSERT_TRUE(shared);
    EXPECT_THAT(shared->suspect.what,
                testing::AnyOf(HasSubstr("w22"), HasSubstr("w21"), HasSubstr("BE 9"), HasSubstr("A10")));
    EXPECT_EQ(std::set<job::CircuitId>(shared->circuits.begin(), shared->circuits.end()), wrong);
}

/// What was mended is less likely to be wrong still, and what rests on it is stale.
TEST(Mended, MakesStaleWhatRestsOnIt)
{
    job::Job job = test::petrel();
    const auto failing = test::analysed(job);
    const Diagnosis d = of(failing, "fp");
    const Suspect& open = d.suspects[suspectOf(d, "Wire w20 is open, Splice S1 to Plug FP 3")];
    EXPECT_EQ(open.subjects, faults::Subjects{"wire w20"});
    ASSERT_TRUE(d.secondLook);
    EXPECT_EQ(d.secondLook->circuit.value, "fp");
    job.mends.push_back(mendOf(job, open, "2099-01-01T00:00:00Z"));
    EXPECT_THAT(job.mends[0].subjects, testing::UnorderedElementsAre("circuit fp", "wire w20"));
    const size_t resting = proof::restingOn(job, job.mends[0].subjects);
    EXPECT_GT(resting, 0U);
    const auto after = test::analysed(job);
    size_t stale = 0;
    for (const auto& [condition, standings] : analysis::find(after, {"fp"})->stations)
        for (const proof::Standing& s : standings)
            if (s.state == proof::State::Stale) {
                ++stale;
                EXPECT_THAT(s.reason, HasSubstr("was mended"));
            }
    EXPECT_EQ(stale, resting);
    const Diagnosis again = of(after, "fp");
    EXPECT_LT(again.suspects[suspectOf(again, "Wire w20 is open")].weight, open.weight);
    // Read after it, it stands; mended once more, it is stale again.
    for (const proof::Judged& j : analysis::promised(after, {"fp"}, Condition::KeyOn))
        if (j.expectation.station.key == "A.11")
            job.proofs.push_back(proof::record(after.facts, {"fp"}, j.expectation, j.expectation.due,
                                               job::ReadingSource::Meter, "2099-01-02T00:00:00Z"));
    const auto stateOf = [&] {
        const auto a = test::analysed(job);
        for (const proof::Standing& s : analysis::standings(a, {"fp"}, Condition::KeyOn))
            if (s.place.station.key == "A.11")
                return s.state;
        return proof::State::Untouched;
    };
    EXPECT_EQ(stateOf(), proof::State::Done);
    job.mends.push_back(mendOf(job, open, "2099-01-03T00:00:00Z"));
    EXPECT_EQ(stateOf(), proof::State::Stale);
    const auto read = job::read(job::write(job));
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(read->mends, job.mends);
}

/// A mend makes stale what goes through it, and no more; what feeds or grounds the unit is on everybody's way.
TEST(Mended, TouchesTheCircuitsThatGoThroughIt)
{
    const job::Job job = test::petrel();
    const auto circuits = [&](const faults::Fault& fault) {
        Suspect s;
        s.subjects = faults::subjectsOf(fault, job);
        std::set<std::string> out;
        for (const std::string& subject : mendOf(job, s, {}).subjects)
            if (subject.starts_with("circuit "))
                out.insert(subject.substr(8));
        return out;
    };
    EXPECT_THAT(circuits(faults::BadContact{job::PointRef::fromText("BE.6"), {}}), testing::ElementsAre("clt"));
    EXPECT_THAT(circuits(faults::Drift{{"fp"}, 0.1}), testing::ElementsAre("fp"));
    const auto ground = circuits(faults::OpenWire{{"w22"}});
    EXPECT_TRUE(ground.contains("clt") && ground.contains("fp") && !ground.contains("fuel-pump"));
    EXPECT_EQ(circuits(faults::BadStud{"G1", 10}).size(), job.circuits.size()) << "the ECU stands on it";
    EXPECT_LT(circuits(faults::BadStud{"G2", 10}).size(), job.circuits.size()) << "the ECU does not";
    EXPECT_FALSE(circuits(faults::BadStud{"G2", 10}).empty());
}

/// A quarter of a decade between the sizes that are known: the size is said as it is read.
TEST(Diagnosis, FitsTheOhms)
{
    const auto a = test::analysed(test::unread());
    const auto spots = test::spotsOf(a, {"clt"});
    Finder finder(a, {"clt"}, test::families(), test::library());
    const auto suspects = finder.diagnosis({}, Condition::KeyOn, 0).suspects;
    for (const double ohm : {26.0, 120.0, 390.0}) {
        Suspect truth =
            suspects[suspectOf(finder.diagnosis({}, Condition::KeyOn, 0), "Wire w22 has some 10R too many")];
        truth.faults = {faults::AddedResistance{{"w22"}, ohm}};
        test::FaultyCar car(a, truth, spots);
        std::vector<Taken> all;
        for (const Spot& s : spots)
            all.push_back({s.circuit, s.place.station.key,
                           car.at(s).value_or(job::Reading::beyond(s.place.dimension, s.place.condition))});
        const Diagnosis d = finder.diagnosis(all, Condition::KeyOn, 0);
        const Suspect& first = d.suspects[d.groups[0].members[0]];
        EXPECT_EQ(first.series, "wire w22") << ohm << ": " << first.what;
        EXPECT_NEAR(std::log10(first.size), std::log10(ohm), 0.1) << first.what;
        EXPECT_GT(d.groups[0].share, 0.9);
    }
}

/// A reading that is a slip is asked for again, and does not stay in the way.
TEST(Diagnosis, AsksAgainForWhatWasASlip)
{
    const auto a = test::analysed(test::unread());
    const auto volts = [](const char* at, double v) {
        return Taken{{"clt"}, at, job::Reading::of(v, units::Dimension::Voltage, Condition::KeyOn)};
    };
    const Diagnosis once = of(a, "clt", {volts("A.7", 1.0), volts("BC.6", 2.52), volts("CLT.1", 2.52)});
    EXPECT_EQ(once.suspects[once.groups[0].members[0]].family, "nothing");
    ASSERT_FALSE(once.slips.empty());
    EXPECT_THAT(once.slips[0], HasSubstr("read it again"));
    const Diagnosis twice =
        of(a, "clt", {volts("A.7", 1.0), volts("BC.6", 2.52), volts("CLT.1", 2.52), volts("A.7", 2.52)});
    EXPECT_GT(twice.groups[0].share, once.groups[0].share);
    for (const Probe& p : twice.probes)
        EXPECT_FALSE(p.spot.place.station.key == "A.7" && p.spot.place.condition == Condition::KeyOn)
            << "two readings of a place are enough";
    const Diagnosis stays = of(a, "clt", {volts("A.7", 1.0), volts("A.7", 1.0)});
    EXPECT_NE(stays.suspects[stays.groups[0].members[0]].family, "nothing") << "what is read twice is no slip";
}

/// That something reads wrong on another circuit may be a fault of its own: what would explain that alone explains
/// nothing here. Petrel's fuel pressure fails; two cavities that touch would read just like it.
TEST(Diagnosis, LeavesToAnotherCircuitItsOwnFault)
{
    const auto a = test::analysed(test::petrel());
    const std::vector<Taken> silent = {
        {{"iat"}, "value", job::Reading::beyond(units::Dimension::Temperature, Condition::KeyOn)}};
    const Diagnosis d = of(a, "iat", silent);
    const Suspect& first = d.suspects[d.groups[0].members[0]];
    EXPECT_NE(first.family, "touching") << first.what;
    EXPECT_EQ(first.family, "setting") << first.what << ": the meter found nothing, and the ECU shows none";
}

/// An ECU that reports nothing says that it is off.
TEST(Diagnosis, ASilentEcuIsAReading)
{
    const auto a = test::analysed(test::unread());
    const Diagnosis d = of(a, "clt",
                           {{{"clt"}, "input", job::Reading::beyond(units::Dimension::Voltage, Condition::KeyOn)},
                            {{"clt"}, "value", job::Reading::beyond(units::Dimension::Temperature, Condition::KeyOn)},
                            {{"clt"}, "A.7", job::Reading::of(0.003, units::Dimension::Voltage, Condition::KeyOn)}});
    double off = 0; // what feeds and grounds the unit
    for (size_t s = 0; s < d.suspects.size(); ++s)
        for (const char* way : {"A1", "w29", "F1", "A2", "A3", "plug A ", "Plug A "})
            if (d.suspects[s].what.find(way) != std::string::npos) {
                off += d.belief[s];
                break;
            }
    EXPECT_GT(off, 0.9);
}

/// A chain of equal places with one open (Huffman 1952: no plan of questions with two answers needs fewer than the
/// entropy, nor more than one above it). Synthetic predictions: volts before the open, none behind it.
TEST(Information, HalvesAChain)
{
    for (const size_t n : {2U, 5U, 8U, 16U, 31U}) {
        std::vector<std::vector<Prediction>> predicted(n, std::vector<Prediction>(n - 1));
        for (size_t fault = 0; fault < n; ++fault)
            for (size_t spot = 0; spot + 1 < n; ++spot)
                predicted[fault][spot] = quantity(spot < fault ? 5.0 : 0.0, 0.02);
        double total = 0;
        for (size_t truth = 0; truth < n; ++truth) {
            std::vector<double> believed(n, 1.0 / static_cast<double>(n));
            int asked = 0;
            while (*std::ranges::max_element(believed) < 0.99) {
                size_t best = 0;
                double most = -1;
                for (size_t spot = 0; spot + 1 < n; ++spot)
                    if (const double bits = information(predicted, believed, spot); bits > most + 1e-9) {
                        most = bits;
                        best = spot;
                    }
                double sum = 0;
                for (size_t f = 0; f < n; ++f) {
                    believed[f] *= predicted[f][best].value == predicted[truth][best].value ? 1 : 0;
                    sum += believed[f];
                }
                for (double& b : believed)
                    b /= sum;
                ++asked;
            }
            total += asked;
        }
        // The best tree of n equal leaves: floor(log2 n) deep, and 2 (n - 2^floor) leaves one deeper.
        const double floor = std::floor(std::log2(static_cast<double>(n)));
        const double best = floor + 2 * (static_cast<double>(n) - std::pow(2, floor)) / static_cast<double>(n);
        EXPECT_NEAR(total / static_cast<double>(n), best, 0.2) << n;
    }
}

/// Against a count of cases: two kinds that never overlap tell one bit, kinds that are the same tell none.
TEST(Information, IsThatOfTheAnswers)
{
    const auto q = [](double v) { return quantity(v, 0.01); };
    const Prediction open{.kind = Prediction::Kind::Open};
    EXPECT_NEAR(information({{q(0)}, {q(5)}}, {0.5, 0.5}, 0), 1 - kSlips, 1e-3);
    EXPECT_NEAR(information({{q(0)}, {q(0)}}, {0.5, 0.5}, 0), 0, 1e-6);
    EXPECT_NEAR(information({{q(0)}, {open}}, {0.5, 0.5}, 0), 1 - kSlips, 1e-6);
    EXPECT_NEAR(information({{q(0)}, {q(5)}, {q(10)}, {open}}, {0.25, 0.25, 0.25, 0.25}, 0), 2 * (1 - kSlips), 1e-3);
    // Two bells two sigmas apart: 0.485 bits, from a table of the binary-input Gaussian channel at a signal to noise
    // ratio of 1 (from memory).
    EXPECT_NEAR(information({{q(0)}, {q(0.02)}}, {0.5, 0.5}, 0), 0.485 * (1 - kSlips), 0.01);
}

/// Whatever is read, the belief stays one.
TEST(Belief, NeverDividesByNothing)
{
    const auto a = test::analysed(test::unread());
    for (const double v : {-1e9, -400.0, 400.0, 1e300, 0.0}) {
        const Diagnosis d =
            of(a, "clt", {{{"clt"}, "A.7", job::Reading::of(v, units::Dimension::Voltage, Condition::KeyOn)}});
        EXPECT_NEAR(std::accumulate(d.belief.begin(), d.belief.end(), 0.0), 1, 1e-9) << v;
        if (std::abs(v) > 100) {
            ASSERT_FALSE(d.slips.empty()) << v;
            EXPECT_THAT(d.slips[0], HasSubstr("read it again"));
        }
    }
    EXPECT_THAT(of(a, "nobody").trouble, HasSubstr("nobody"));
    job::Job bare = test::unread();
    for (job::Circuit& c : bare.circuits)
        c.input = {};
    EXPECT_NE(of(test::analysed(bare), "clt").trouble, "");
}

TEST(Families, AFileThatCannotBeIsRefusedAtThePlace)
{
    const auto file = *document::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/diagnosis/families.json");
    const auto refused = [&](auto change) {
        auto json = nlohmann::json::parse(file);
        change(json["families"]);
        const auto read = readFamilies(json.dump());
        return read ? std::string() : read.error().place.pointer + ": " + read.error().sentence;
    };
    EXPECT_EQ(refused([](auto&) {}), "");
    EXPECT_THAT(refused([](auto& f) { f[1]["weight"] = 0; }), HasSubstr("/families/1/weight"));
    EXPECT_THAT(refused([](auto& f) { f[1]["weight"] = -3; }), HasSubstr("/families/1/weight"));
    EXPECT_THAT(refused([](auto& f) { f[1]["weight"] = nullptr; }), HasSubstr("/families/1/weight")) << "NaN";
    EXPECT_THAT(refused([](auto& f) { f[2]["id"] = f[1]["id"]; }), HasSubstr("/families/2/id"));
    EXPECT_THAT(refused([](auto& f) { f.erase(f.begin() + 4); }), HasSubstr("is missing"));
    EXPECT_FALSE(readFamilies("{\"families\": ["));
}

} // namespace
} // namespace vicegrip::diagnosis
