#include "core/capture/capture.h"
#include "core/trigger/trigger.h"

#include <benchmark/benchmark.h>
#include <filesystem>

/// A crank sensor's signal: edges, and what is made of them.
namespace vicegrip {
namespace {

const trigger::Sensed& captured()
{
    constexpr double kRate_hz = 1e6, kSeconds = 10;
    static const trigger::Sensed kSensed = trigger::senseHall(trigger::readWheel("36-1").value(), {300, 0, 0.1, 4}, {},
                                                              {}, {.noise_v = 0.1, .seed = 3}, kSeconds, kRate_hz);
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

/// Sound of a hundred million samples, in a file.
const std::filesystem::path& largeFile()
{
    static const std::filesystem::path kFile = [] {
        const trigger::Sensed& s = captured();
        capture::Seen seen{1 / 96000.0, 0, {{"crank", {}, {}}}};
        constexpr int kTimes = 10;
        for (int i = 0; i < kTimes; ++i)
            seen.channels[0].volts.insert(seen.channels[0].volts.end(), s.volts.begin(), s.volts.end());
        const auto file = std::filesystem::temp_directory_path() / "vicegrip-large.wav";
        (void)capture::writeCapture(seen, file);
        return file;
    }();
    return kFile;
}

/// From the file to what the stage shows first: samples, their overview, and all verdicts; items are samples.
void openLargeCapture(benchmark::State& state)
{
    std::size_t samples = 0;
    const std::filesystem::path& file = largeFile();
    for (auto _ : state) {
        const auto seen = capture::readCapture(file);
        const std::span<const float> volts = seen->channels[0].volts;
        samples = volts.size();
        benchmark::DoNotOptimize(capture::Overview(volts).all());
        const auto look = trigger::lookAt(volts, seen->step_s, {}, false);
        benchmark::DoNotOptimize(trigger::verdicts(look.value(), {}, trigger::Scale::FullScale));
    }
    state.SetItemsProcessed(state.iterations() * static_cast<int64_t>(samples));
    std::filesystem::remove(file);
}
BENCHMARK(openLargeCapture)->Unit(benchmark::kMillisecond)->Iterations(1);

/// What a frame asks for while somebody zooms: the extent behind each of 1,000 pixels, of a hundred million samples.
void zoomLargeCapture(benchmark::State& state)
{
    std::vector<float> volts;
    constexpr int kTimes = 10;
    for (int i = 0; i < kTimes; ++i)
        volts.insert(volts.end(), captured().volts.begin(), captured().volts.end());
    const capture::Overview overview(volts);
    double span = static_cast<double>(volts.size());
    constexpr double kPixels = 1000, kZoom = 0.85;
    for (auto _ : state) {
        const double from = (static_cast<double>(volts.size()) - span) / 2;
        for (double x = 0; x < kPixels; ++x)
            benchmark::DoNotOptimize(overview.of(static_cast<std::size_t>(from + span * x / kPixels),
                                                 static_cast<std::size_t>(from + span * (x + 1) / kPixels)));
        span = span < kPixels ? static_cast<double>(volts.size()) : span * kZoom;
    }
}
BENCHMARK(zoomLargeCapture)->Unit(benchmark::kMicrosecond);

} // namespace
} // namespace vicegrip
