#include "core/trigger/trigger.h"

#include <benchmark/benchmark.h>

/// A crank sensor's signal: edges, and what is made of them.
namespace vicegrip {
namespace {

const trigger::Sensed& captured()
{
    constexpr double kRate_hz = 1e6, kSeconds = 10;
    static const trigger::Sensed kSensed = trigger::senseHall(trigger::readWheel("36-1").value(), {300, 0, 0.1, 4}, {},
                                                              {}, {0.1, 0, -1, 3}, kSeconds, kRate_hz);
    return kSensed;
}

/// Ten million samples at a megahertz, with noise; items are samples.
void findEdges(benchmark::State& state)
{
    const trigger::Sensed& s = captured();
    const auto levels = trigger::levelsOf(s.volts).value();
    for (auto _ : state)
        benchmark::DoNotOptimize(trigger::edgesIn(s.volts, levels, s.step_s));
    state.SetItemsProcessed(state.iterations() * static_cast<int64_t>(s.volts.size()));
}
BENCHMARK(findEdges)->Unit(benchmark::kMillisecond);

/// All of it: levels, edges, wheel, teeth and their errors; items are samples.
void decodeCapture(benchmark::State& state)
{
    const trigger::Sensed& s = captured();
    for (auto _ : state) {
        const auto levels = trigger::levelsOf(s.volts).value();
        benchmark::DoNotOptimize(trigger::reportOn(trigger::edgesIn(s.volts, levels, s.step_s), {}));
    }
    state.SetItemsProcessed(state.iterations() * static_cast<int64_t>(s.volts.size()));
}
BENCHMARK(decodeCapture)->Unit(benchmark::kMillisecond);

} // namespace
} // namespace vicegrip
