#include "core/analysis/analysis.h"
#include "core/book/book.h"
#include "core/book/pdf.h"
#include "core/branches/bundle.h"
#include "core/brief/needs.h"
#include "core/circuit/solution.h"
#include "core/diagnosis/diagnosis.h"
#include "core/harness/edits.h"
#include "core/harness/start.h"
#include "core/job/check.h"
#include "core/job/json.h"
#include "core/lookup/search.h"
#include "core/scaling/breakpoints.h"
#include "core/seating/plan.h"
#include "core/work/work_order.h"

#include <algorithm>
#include <benchmark/benchmark.h>
#include <cmath>
#include <cstdlib>
#include <functional>
#include <random>
#include <set>

namespace vicegrip {
namespace {

/// A chain with branches and a source: as sparse as wiring is.
circuit::Network networkOf(int nodes)
{
    std::mt19937 random(1); // NOLINT(bugprone-random-generator-seed)
    circuit::Network net;
    const circuit::Node supply = net.addNode();
    net.addVoltageSource(supply, circuit::kReference, 5, {0.05});
    while (net.nodeCount() <= nodes) {
        const auto count = static_cast<unsigned>(net.nodeCount());
        const circuit::Node next = net.addNode();
        net.addResistor(next, static_cast<circuit::Node>(random() % count), static_cast<double>(10 + random() % 1000),
                        {1});
        if (count % 4 == 0)
            net.addResistor(next, circuit::kReference, static_cast<double>(1000 + random() % 10000), {10});
    }
    return net;
}

/// Solve, then one voltage with the sensitivities to every element.
void solveWithSensitivities(benchmark::State& state)
{
    const circuit::Network net = networkOf(static_cast<int>(state.range(0)));
    for (auto _ : state) {
        auto solution = circuit::solve(net);
        benchmark::DoNotOptimize(solution->voltmeter(net.nodeCount() - 1, circuit::kReference, 10e6));
    }
}
BENCHMARK(solveWithSensitivities)->Arg(60)->Arg(1000)->Unit(benchmark::kMicrosecond);

/// Petrel's circuits again and again, each copy with its own sensors, wires and inputs, on shared grounds and supplies.
job::Job jobOf(int circuits)
{
    auto read = job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/petrel.vicegrip");
    if (!read)
        std::abort();
    const job::Job petrel = *read;
    job::Job job = petrel;
    job.proofs.clear();
    for (int copy = 1; static_cast<int>(job.circuits.size()) < circuits; ++copy) {
        const std::string mark = "-" + std::to_string(copy);
        const auto isOwn = [&](const job::PointRef& p) {
            const auto* c = job::findConnector(petrel, p.owner);
            return c != nullptr && (c->kind != job::ConnectorKind::Ecu || p.cavity != "4");
        };
        for (job::Connector c : petrel.connectors) {
            c.id += mark;
            if (!c.mates.empty())
                c.mates += mark;
            job.connectors.push_back(c);
        }
        for (job::Wire w : petrel.wires) {
            w.id.value += mark;
            for (job::PointRef* end : {&w.from, &w.to})
                if (isOwn(*end))
                    end->owner += mark;
            job.wires.push_back(w);
        }
        for (parts::EcuInput i : petrel.ecu.inputs) {
            i.id.value += mark;
            job.ecu.inputs.push_back(i);
        }
        for (parts::EcuOutput o : petrel.ecu.outputs) {
            o.id.value += mark;
            job.ecu.outputs.push_back(o);
        }
        for (parts::EcuPin p : petrel.ecu.pins) {
            const auto dot = p.at.find('.');
            p.at.insert(dot, mark);
            if (!p.input.empty())
                p.input.value += mark;
            if (!p.output.empty())
                p.output.value += mark;
            job.ecu.pins.push_back(p);
        }
        for (job::Device d : petrel.devices) {
            d.id.value += mark;
            d.connector += mark;
            job.devices.push_back(d);
        }
        for (job::Circuit c : petrel.circuits) {
            if (static_cast<int>(job.circuits.size()) == circuits)
                break;
            c.id.value += mark;
            c.device.value += mark;
            if (!c.input.empty())
                c.input.value += mark;
            if (!c.output.empty())
                c.output.value += mark;
            job.circuits.push_back(c);
        }
    }
    return job;
}

void analyse(benchmark::State& state)
{
    const auto job = std::make_shared<const job::Job>(jobOf(static_cast<int>(state.range(0))));
    for (auto _ : state)
        benchmark::DoNotOptimize(analysis::analyse(job));
}
BENCHMARK(analyse)->Arg(8)->Arg(60)->Arg(1000)->Unit(benchmark::kMillisecond);

/// What a view asks of one circuit, the drawing having been analysed and nothing of it asked before.
void promiseOne(benchmark::State& state)
{
    const auto job = std::make_shared<const job::Job>(jobOf(static_cast<int>(state.range(0))));
    for (auto _ : state) {
        state.PauseTiming();
        const auto analysis = analysis::analyse(job);
        state.ResumeTiming();
        benchmark::DoNotOptimize(analysis::promised(analysis, job->circuits[1].id, job::Condition::KeyOn));
    }
}
BENCHMARK(promiseOne)->Arg(8)->Arg(60)->Arg(1000)->Unit(benchmark::kMillisecond);

/// What the command line asks: all of them, under both conditions.
void promiseAll(benchmark::State& state)
{
    const auto job = std::make_shared<const job::Job>(jobOf(static_cast<int>(state.range(0))));
    for (auto _ : state) {
        const auto analysis = analysis::analyse(job);
        for (const proof::CircuitView& view : analysis.circuits)
            for (const job::Condition condition : {job::Condition::KeyOn, job::Condition::BatteryOff})
                benchmark::DoNotOptimize(analysis::promised(analysis, view.id, condition));
    }
}
BENCHMARK(promiseAll)->Arg(8)->Arg(60)->Arg(1000)->Unit(benchmark::kMillisecond);

/// Reads every place that proves a circuit, as it must read.
void prove(job::Job& job)
{
    const auto analysis = analysis::analyse(std::make_shared<const job::Job>(job));
    for (const proof::CircuitView& view : analysis.circuits)
        for (const proof::Judged& j : analysis::promised(analysis, view.id, job::Condition::KeyOn))
            if (j.expectation.needed && j.expectation.promises())
                job.proofs.push_back(proof::record(analysis.facts, view.id, j.expectation, j.expectation.due,
                                                   job::ReadingSource::Typed, "2026-01-01T00:00:00Z"));
}

/// A job in which every place that proves a circuit was read, analysed again after one edit, as the window does it:
/// what the edit does not touch is taken over.
template <class Edit> void analyseAgain(benchmark::State& state, Edit edit)
{
    job::Job job = jobOf(static_cast<int>(state.range(0)));
    prove(job);
    auto before = analysis::analyse(std::make_shared<const job::Job>(job));
    for (auto _ : state) {
        edit(job);
        before = analysis::analyse(std::make_shared<const job::Job>(job), &before);
    }
}
/// As many circuits in a job that a file can hold: an ECU and four expanders, none with an input to spare.
job::Job fileOf(int circuits)
{
    job::Job job = jobOf(circuits);
    std::erase_if(job.ecu.inputs, [&](const parts::EcuInput& i) { return job::seatedOn(job, i.id) == nullptr; });
    std::erase_if(job.ecu.pins,
                  [&](const parts::EcuPin& p) { return !p.input.empty() && job::seatedOn(job, p.input) == nullptr; });
    while (job.ecu.inputs.size() > 240) {
        std::set<std::string> plugs; // those of the last inputs, whole: with their supplies and grounds
        const auto plugOf = [](const parts::EcuPin& p) { return job::PointRef::fromText(p.at).owner; };
        for (size_t i = job.ecu.inputs.size() - 200; i < job.ecu.inputs.size(); ++i)
            for (const parts::EcuPin& p : job.ecu.pins)
                if (p.input == job.ecu.inputs[i].id)
                    plugs.insert(plugOf(p));
        parts::Ecu unit = job.ecu;
        std::erase_if(unit.pins, [&](const parts::EcuPin& p) { return !plugs.contains(plugOf(p)); });
        std::erase_if(job.ecu.pins, [&](const parts::EcuPin& p) { return plugs.contains(plugOf(p)); });
        const auto isOn = [](const parts::Ecu& on) {
            return [&](const parts::EcuInput& i) {
                return std::ranges::find(on.pins, i.id, &parts::EcuPin::input) != on.pins.end();
            };
        };
        std::erase_if(unit.inputs, std::not_fn(isOn(unit)));
        std::erase_if(job.ecu.inputs, isOn(unit));
        job.expanders.push_back(unit);
    }
    std::erase_if(job.connectors, [&](const job::Connector& c) {
        return c.kind == job::ConnectorKind::Sensor &&
               std::ranges::find(job.devices, c.id, &job::Device::connector) == job.devices.end();
    });
    return job;
}

/// What an edit costs before it is taken: the job copied, changed, compared and held to its file.
void takeEdit(benchmark::State& state)
{
    job::Job job = fileOf(static_cast<int>(state.range(0)));
    prove(job);
    for (auto _ : state) {
        job::Job after = job;
        after.wires[3].length_m = 3.85 - after.wires[3].length_m;
        const bool changed = !(after == job);
        const auto taken = job::check(after).and_then([&] { return job::checkWritten(after, job); });
        if (!changed || !taken)
            state.SkipWithError(taken ? "nothing was changed" : taken.error().text().c_str());
        job = std::move(after);
    }
}
BENCHMARK(takeEdit)->Arg(60)->Arg(1000)->Unit(benchmark::kMillisecond);

/// Ten thousand things with a name, and a letter more typed.
void findAnything(benchmark::State& state)
{
    std::vector<lookup::Entry> entries;
    const auto of = lookup::entriesOf(analysis::analyse(std::make_shared<const job::Job>(jobOf(60))));
    while (entries.size() < 10000)
        entries.insert(entries.end(), of.begin(), of.end());
    const lookup::Search search(std::move(entries));
    for (auto _ : state)
        for (const char* typed : {"c", "co", "coo", "cool", "cool tem", "w12", "blue white", "a7"})
            benchmark::DoNotOptimize(search.find(typed, 40));
    state.SetItemsProcessed(8 * state.iterations());
}
BENCHMARK(findAnything)->Unit(benchmark::kMillisecond);

void analyseAfterReading(benchmark::State& state)
{
    analyseAgain(state, [](job::Job& job) {
        job::Reading& last = job.proofs.back().reading;
        last = job::Reading::of(-last.si(), last.dimension(), last.condition());
    });
}
void analyseAfterTableEdit(benchmark::State& state)
{
    analyseAgain(state, [](job::Job& job) { job.circuits[1].scaling.points = 34 - job.circuits[1].scaling.points; });
}
void analyseAfterWireEdit(benchmark::State& state)
{
    analyseAgain(state, [](job::Job& job) { job.wires[3].length_m += 0.01; });
}
BENCHMARK(analyseAfterReading)->Arg(60)->Arg(1000)->Unit(benchmark::kMillisecond);
BENCHMARK(analyseAfterTableEdit)->Arg(60)->Arg(1000)->Unit(benchmark::kMillisecond);
BENCHMARK(analyseAfterWireEdit)->Arg(60)->Arg(1000)->Unit(benchmark::kMillisecond);

const parts::Library& library()
{
    static const parts::Library kLibrary = parts::readLibrary({std::string(VICEGRIP_SOURCE_DIR) + "/data/library"});
    return kLibrary;
}

/// Sensors of the library in turn, on an ECU with as many inputs, every third of them different from its neighbours.
job::Job crowded(int sensors, int inputs)
{
    job::Job job = harness::startJob("Crowded", *parts::find(library(), parts::EcuId{"large-free"}));
    const auto kinds = job.ecu.inputs;
    job.ecu.inputs.clear();
    job.ecu.pins.clear();
    job.connectors.push_back({"P", "Plug", job::ConnectorKind::Ecu, {}, {}, {}, false, {}});
    for (int i = 0; i < inputs; ++i) {
        parts::EcuInput input = kinds[static_cast<size_t>(i) % kinds.size()];
        input.id.value = "I" + std::to_string(i);
        input.withstands_v += i / 3; // no two groups alike
        job.connectors.back().cavities.push_back(std::to_string(i));
        job.ecu.pins.push_back({"P." + std::to_string(i), parts::EcuPinRole::Input, input.id, {}});
        job.ecu.inputs.push_back(std::move(input));
    }
    std::vector<parts::Part> from = library().parts;
    std::erase_if(from, parts::isDriven);
    for (int i = 0; i < sensors; ++i)
        harness::addCircuit(job, {"map"}, "Sensor " + std::to_string(i), static_cast<job::Want>(i % 3),
                            from[static_cast<size_t>(i) % from.size()]);
    return job;
}

void seatAll(benchmark::State& state)
{
    const job::Job job = crowded(static_cast<int>(state.range(0)), static_cast<int>(state.range(1)));
    for (auto _ : state)
        benchmark::DoNotOptimize(seating::bestPlan(job));
}
BENCHMARK(seatAll)->Args({60, 80})->Args({400, 400})->Unit(benchmark::kMillisecond);

/// What the schema allows and no car has: it must grow with the size, and no faster.
void analyseSplices(benchmark::State& state)
{
    job::Job job = jobOf(8);
    const job::PointRef from = job.wires.front().from;
    for (int i = 0; i < state.range(0); ++i) {
        const std::string name = "Z" + std::to_string(i);
        job::Joint& joint = job.joints.emplace_back();
        joint.id = joint.label = name;
        joint.kind = job::JointKind::Splice;
        job::Wire wire = job.wires.front();
        wire.id.value = "z" + std::to_string(i);
        wire.from = from;
        wire.to = {name, {}};
        job.wires.push_back(std::move(wire));
    }
    const auto shared = std::make_shared<const job::Job>(std::move(job));
    for (auto _ : state)
        benchmark::DoNotOptimize(analysis::analyse(shared));
    state.SetComplexityN(state.range(0));
}
BENCHMARK(analyseSplices)->Arg(1000)->Arg(2000)->Arg(4000)->Unit(benchmark::kMillisecond)->Complexity();

/// A keystroke in the Brief: what the facts ask for, against the job.
void consequences(benchmark::State& state)
{
    job::Job job = jobOf(60);
    if (!job.brief)
        std::abort();
    for (auto _ : state)
        benchmark::DoNotOptimize(brief::consequences(job, *job.brief));
}
BENCHMARK(consequences)->Unit(benchmark::kMicrosecond);

void packBundle(benchmark::State& state)
{
    std::vector<double> wires;
    for (int i = 0; i < state.range(0); ++i)
        wires.push_back(i % 3 == 0 ? 1.6e-3 : i % 3 == 1 ? 2.1e-3 : 1.4e-3);
    for (auto _ : state)
        benchmark::DoNotOptimize(branches::pack(wires));
}
BENCHMARK(packBundle)->Arg(60)->Unit(benchmark::kMillisecond);

/// Chores at eight places, each after two earlier ones: more knotted than a real job.
void orderOfHands(benchmark::State& state)
{
    std::mt19937 random(5); // NOLINT(bugprone-random-generator-seed)
    std::vector<work::Step> steps;
    for (int i = 0; i < state.range(0); ++i) {
        work::Step c;
        c.id = c.what = std::to_string(i);
        c.place = std::to_string(random() % 8);
        for (int n = 0; n < 2 && i > 5; ++n)
            c.after.push_back(std::to_string(random() % static_cast<unsigned>(i)));
        steps.push_back(std::move(c));
    }
    for (auto _ : state)
        benchmark::DoNotOptimize(work::order(steps));
}
BENCHMARK(orderOfHands)->Arg(120)->Unit(benchmark::kMillisecond);

/// A thermistor's curve over a converter of so many counts: steep at both ends, with a bend of each sense.
void placeBreakpoints(benchmark::State& state)
{
    const auto samples = static_cast<size_t>(state.range(1));
    std::vector<scaling::Sample> curve;
    for (size_t i = 0; i < samples; ++i) {
        const double share = (static_cast<double>(i) + 40) / (static_cast<double>(samples) + 80);
        curve.push_back({static_cast<double>(i), 1 / (1 / 298.15 + std::log(share / (1 - share)) / 3500)});
    }
    for (auto _ : state)
        benchmark::DoNotOptimize(scaling::bestBreakpoints(curve, static_cast<size_t>(state.range(0))));
}
BENCHMARK(placeBreakpoints)->Args({16, 4096})->Args({16, 512})->Unit(benchmark::kMillisecond);

/// All single faults that touch a circuit of Petrel: the first ranking, then one reading more.
diagnosis::Families families()
{
    return *diagnosis::readFamiliesFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/diagnosis/families.json");
}

void rankFaults(benchmark::State& state)
{
    const auto a = analysis::analyse(std::make_shared<const job::Job>(
        *job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/petrel.vicegrip")));
    const auto known = families();
    const parts::Library library = parts::readLibrary({std::string(VICEGRIP_SOURCE_DIR) + "/data/library"});
    for (auto _ : state)
        benchmark::DoNotOptimize(diagnosis::Finder(a, {"fp"}, known, library).diagnosis({}, job::Condition::KeyOn, 1));
}
BENCHMARK(rankFaults)->Unit(benchmark::kMillisecond);

void rankAfterReading(benchmark::State& state)
{
    const auto a = analysis::analyse(std::make_shared<const job::Job>(
        *job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/petrel.vicegrip")));
    diagnosis::Finder finder(a, {"fp"}, families(),
                             parts::readLibrary({std::string(VICEGRIP_SOURCE_DIR) + "/data/library"}));
    const std::vector<diagnosis::Taken> taken = {
        {{"fp"}, "FP.3", job::Reading::of(0.02, units::Dimension::Voltage, job::Condition::KeyOn)}};
    for (auto _ : state)
        benchmark::DoNotOptimize(finder.diagnosis(taken, job::Condition::KeyOn, 1));
}
BENCHMARK(rankAfterReading)->Unit(benchmark::kMillisecond);

/// The whole book as a PDF, from the job on: nothing of it was worked out before.
void printBook(benchmark::State& state)
{
    const auto job = std::make_shared<const job::Job>(jobOf(static_cast<int>(state.range(0))));
    for (auto _ : state)
        benchmark::DoNotOptimize(book::pdfOf(book::bookOf(analysis::analyse(job)))->size());
}
BENCHMARK(printBook)->Arg(23)->Arg(60)->Unit(benchmark::kMillisecond)->Iterations(1);

} // namespace
} // namespace vicegrip
