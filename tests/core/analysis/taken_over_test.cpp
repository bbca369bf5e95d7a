#include "core/harness/edits.h"
#include "core/harness/resistors.h"
#include "core/harness/start.h"
#include "core/pinning/pinning.h"
#include "core/proof/verdict.h"
#include "core/seating/plan.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>
#include <iomanip>
#include <random>
#include <sstream>

/// An analysis that goes on from the one before says just what a new one says.
namespace vicegrip::analysis {
namespace {

/// All that an analysis holds, to the last bit of each number.
std::string toldOf(const Analysis& a)
{
    std::ostringstream out;
    out << std::hexfloat;
    for (const proof::CircuitView& view : a.circuits) {
        out << view.id.value << ' ' << static_cast<int>(view.pins) << static_cast<int>(view.meter)
            << static_cast<int>(view.scale) << ' ' << view.tableTrouble << '\n';
        for (const auto& [condition, stations] : view.stations)
            for (const proof::Judged& j : promised(a, view.id, condition)) {
                const proof::Expectation& e = j.expectation;
                out << static_cast<int>(condition) << e.station.key << '|' << e.station.label << '|' << e.unit << '|'
                    << e.due.si() << '|' << e.due.isOpen() << '|' << e.low << '|' << e.high << '|' << e.sigma << '|'
                    << e.blackPoint.text() << '|' << e.black << '|' << e.needed << '|' << e.trouble << '|'
                    << static_cast<int>(j.state) << '|' << j.reason << '|'
                    << (j.last == nullptr ? 0.0 : j.last->reading.si());
                for (const std::string& subject : e.subjects)
                    out << ',' << subject;
                out << '\n';
                if (j.last != nullptr) {
                    EXPECT_GE(j.last, a.job->proofs.data()) << "it is a proof of the job that was analysed";
                    EXPECT_LT(j.last, a.job->proofs.data() + a.job->proofs.size());
                }
            }
        if (view.table)
            for (const auto& p : view.table->points)
                out << p.reading << ':' << p.value << ' ';
        if (view.table)
            out << view.table->worstError << '@' << view.table->worstAt;
        out << ' ' << view.thresholds.below.value_or(0) << ' ' << view.thresholds.above.value_or(0);
        for (const scaling::CurvePoint& p : curve(a, view.id))
            out << ' ' << p.value << ':' << p.reading;
        out << '\n';
    }
    for (const auto& f : a.findings)
        out << f.rule << '|' << static_cast<int>(f.severity) << '|' << f.circuit.value << '|' << f.what << '|' << f.why
            << '|' << f.todo << '\n';
    for (const Task& t : a.tasks)
        out << t.title << '|' << t.detail << '|' << t.station << '\n';
    for (const auto& [fact, text] : a.facts)
        out << fact << '=' << text << '\n';
    for (const auto& [connector, pins] : a.pins)
        for (const auto& pin : pins)
            out << pin.at.text() << static_cast<int>(pin.state) << pin.ticked << pin.trouble << '\n';
    return out.str() + a.networkTrouble;
}

/// One edit of any kind: of the drawing, of a table, of what was measured or ticked, of names and surroundings.
class Edits
{
    int pick(int below) { return static_cast<int>(m_random() % static_cast<unsigned>(below)); }
    template <class List> auto& any(List& list)
    {
        return list[static_cast<size_t>(pick(static_cast<int>(list.size())))];
    }

  public:
    explicit Edits(unsigned seed) : m_random(seed) {} // NOLINT(bugprone-random-generator-seed)

    std::string edit(job::Job& job)
    {
        job::Circuit& circuit = any(job.circuits);
        switch (pick(28)) {
        case 0:
            any(job.wires).length_m += 0.1;
            return "a longer wire";
        case 1:
            any(job.wires).area_m2 *= 1.5;
            return "a thicker wire";
        case 2:
            circuit.scaling.points = 4 + pick(20);
            circuit.scaling.breakpoints = job::Breakpoints::Best;
            return "more points";
        case 3:
            circuit.scaling.high -= 0.1 * (circuit.scaling.high - circuit.scaling.low);
            return "a shorter range";
        case 4: {
            job::Proof& p = any(job.proofs);
            p.reading = job::Reading::of(p.reading.si() * 1.2, p.reading.dimension(), p.reading.condition());
        }
            return "another reading";
        case 5:
            job.proofs.erase(job.proofs.begin() + pick(static_cast<int>(job.proofs.size())));
            return "a reading less";
        case 6:
            job.surroundings.ambient_k += 3;
            return "a warmer day";
        case 7:
            any(job.parts).name += "'";
            return "a part's name";
        case 8:
            circuit.name += "'";
            return "a circuit's name";
        case 9:
            any(job.connectors).label += "'";
            return "a plug's name";
        case 10:
            return harness::unseat(job, circuit.id) ? "no seat" : "";
        case 11: {
            const job::PointRef at{"A", any(job::findConnector(job, "A")->cavities)};
            return pinning::pullOut(job, at, "t") ? "a pin out" : "nothing to pull";
        }
        case 12:
            any(job.switches).ohm += 0.001;
            return "a worn contact";
        case 13:
            any(job.loads).current_a += 1;
            return "a larger load";
        case 14:
            job.ecu.firmware += "1";
            return "new firmware";
        case 15:
            job.meter.input_ohm *= 0.9;
            return "another meter";
        case 16:
            return harness::addPullUp(job, circuit.id, 1000 + pick(2000), 0.01) ? "a pull-up" : "no place for it";
        case 17:
            circuit.captured.push_back({circuit.scaling.low, 1.0 + pick(3), "t", false, 0, {}});
            return "a reading beside another instrument";
        case 18:
            if (!job.brief)
                job.brief.emplace();
            job.brief->aspiration = static_cast<job::Aspiration>(pick(2));
            job.brief->target_pa = 1e5 * (1 + pick(3));
            return "another target";
        case 19:
            circuit.want = static_cast<job::Want>(pick(3));
            return "wanted otherwise";
        case 20:
            circuit.locked = !circuit.locked;
            return "a lock";
        case 21:
            any(job.ecu.inputs).pull_up_ohm = 1000 + pick(3000);
            return "an input's pull-up";
        case 22:
            return seating::seat(job, circuit.id, any(job.ecu.inputs).id) ? "another seat" : "";
        case 23:
            circuit.limits = circuit.limits ? std::nullopt : std::optional(job::ThrottleLimits{});
            if (circuit.limits) {
                circuit.limits->closed_v = 0.4;
                circuit.limits->open_v = 4.4;
            }
            return "limits";
        case 24:
            job.branches.clear();
            return "no stretches";
        case 25:
            if (!job.brief)
                job.brief.emplace();
            job.brief->ignition = pick(2) == 0 ? job::Ignition::Sequential : job::Ignition::WastedSpark;
            job.brief->firingOrder = pick(2) == 0 ? std::vector{1, 3, 4, 2} : std::vector{1, 3, 3};
            return "another firing order";
        case 26:
            job.mends.push_back({{"wire " + any(job.wires).id.value, "circuit " + circuit.id.value},
                                 "a mend",
                                 "2099-01-01T00:00:" + std::to_string(10 + job.mends.size() % 50) + "Z"});
            return "a mend";
        default:
            job.log.push_back({"2026-01-01T00:00:00Z", {}, "a line"});
            return "a line of the log";
        }
    }

  private:
    std::mt19937 m_random;
};

TEST(TakenOver, IsWhatANewAnalysisSays)
{
    for (unsigned seed = 1; seed <= 3; ++seed) {
        Edits edits(seed);
        job::Job job = test::petrel();
        Analysis before = test::analysed(job);
        const job::Job start = job;
        for (int step = 0; step < 40; ++step) {
            const std::string what = edits.edit(job);
            if (job.proofs.size() < 3 || step % 15 == 14)
                job = start; // and all the way back
            Analysis now = analyse(std::make_shared<const job::Job>(job), &before);
            ASSERT_EQ(toldOf(now), toldOf(test::analysed(job))) << "seed " << seed << ", step " << step << ": " << what;
            before = std::move(now);
        }
    }
}

TEST(TakenOver, FromAnotherJobNothingIs)
{
    const Analysis before = test::analysed(test::petrel());
    job::Job other = test::jobOn("small-4");
    EXPECT_TRUE(harness::seat(other, test::add(other, "map", "map-3bar"), other.ecu.inputs.front().id));
    const auto now = analyse(std::make_shared<const job::Job>(other), &before);
    EXPECT_EQ(toldOf(now), toldOf(test::analysed(other)));
}

/// What is taken over is the very same, and not worked out again.
TEST(TakenOver, AReadingLeavesPromisesAndTablesAlone)
{
    job::Job job = test::petrel();
    const Analysis before = test::analysed(job);
    job.proofs.front().reading = job::Reading::of(1.85, units::Dimension::Voltage, job::Condition::KeyOn);
    const Analysis now = analyse(std::make_shared<const job::Job>(job), &before);
    EXPECT_EQ(now.kept->drawn, before.kept->drawn);
    EXPECT_EQ(now.kept->circuits, before.kept->circuits);
    job.circuits.front().scaling.points += 1;
    const Analysis table = analyse(std::make_shared<const job::Job>(job), &now);
    EXPECT_EQ(table.kept->drawn, before.kept->drawn);
    EXPECT_NE(table.kept->circuits.front(), before.kept->circuits.front());
    EXPECT_EQ(table.kept->circuits.back(), before.kept->circuits.back());
    job.wires.front().length_m += 1;
    const Analysis wire = analyse(std::make_shared<const job::Job>(job), &table);
    EXPECT_NE(wire.kept->drawn, before.kept->drawn);
}

/// The firmware is told of another output, and no wire moves: what is driven there now is another thing.
TEST(TakenOver, AnotherOutputIsNoticed)
{
    auto job = std::make_shared<job::Job>(
        harness::startJob("Outputs", *parts::find(test::library(), parts::EcuId{"mid-fixed"})));
    const auto id = harness::addCircuit(*job, {"inj1"}, "Injector", job::Want::Required,
                                        *parts::find(test::library(), parts::PartId{"injector-14"}));
    ASSERT_TRUE(harness::seat(*job, id, parts::OutputId{"INJ1"}));
    const Analysis before = analyse(job);
    auto after = std::make_shared<job::Job>(*job);
    after->circuits.front().output = {"INJ2"};
    const std::string told = toldOf(analyse(after, &before));
    EXPECT_EQ(told, toldOf(analyse(after)));
    EXPECT_THAT(told, testing::HasSubstr("signal-undriven"));
}

} // namespace
} // namespace vicegrip::analysis
