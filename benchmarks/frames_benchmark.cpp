#include "core/job/json.h"
#include "core/recording/recording.h"

#include <benchmark/benchmark.h>
#include <filesystem>
#include <fstream>
#include <unistd.h>

/// What comes over a bus: decoded, heard for a job, recorded.
namespace vicegrip {
namespace {

/// Frames of the bench's stream by the file that describes them; items are frames.
void decodeFrames(benchmark::State& state)
{
    const auto bus = dbc::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/links/bench.dbc");
    const std::vector<std::uint8_t> data = {0x08, 0x10, 0x27, 0x60, 0x41, 0xB0, 0, 0};
    std::vector<dbc::Value> values;
    std::uint32_t id = 0;
    for (auto _ : state) {
        dbc::decode(*bus->database.find(0x500 + id++ % 64, false), data, values);
        benchmark::DoNotOptimize(values.data());
    }
    state.SetItemsProcessed(state.iterations());
}
BENCHMARK(decodeFrames);

/// A minute of 10,000 values a second, as rows; `share` is of one core while it is recorded.
void recordMinute(benchmark::State& state)
{
    const auto job = job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/petrel.vicegrip").value();
    const auto columns = recording::columnsOf(job);
    constexpr int kValues = 600'000;
    constexpr double kSeconds = 60;
    std::string text;
    size_t kept = 0;
    for (auto _ : state) {
        recording::Writer writer(columns);
        for (int i = 0; i < kValues; ++i) {
            const recording::Column& c = columns[static_cast<size_t>(i) % columns.size()];
            writer.take({c.input, c.tells, i * kSeconds / kValues, 1.0 + i % 4096 * 0.0012207}, text);
            if (text.size() > 65536)
                text.clear();
        }
        writer.finish(text);
        kept = writer.values();
    }
    if (kept != kValues)
        state.SkipWithError("values were lost");
    state.counters["share"] = // seconds of work to a second of recording
        benchmark::Counter(kSeconds * static_cast<double>(state.iterations()),
                           benchmark::Counter::kIsRate | benchmark::Counter::kInvert);
}
BENCHMARK(recordMinute)->Unit(benchmark::kMillisecond);

/// What a second of a bus tells a job, frame by frame; items are frames.
void hearFrames(benchmark::State& state)
{
    auto job = job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/petrel.vicegrip").value();
    const auto read = dbc::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/links/bench.dbc");
    const stream::Listener listener(std::make_shared<const dbc::Database>(read->database), stream::benchEars(job));
    const std::vector<std::uint8_t> data = {0x08, 0x10, 0x27, 0x60, 0x41, 0xB0, 0, 0};
    std::vector<dbc::Value> values;
    std::vector<stream::Heard> heard;
    std::uint32_t id = 0;
    for (auto _ : state) {
        heard.clear();
        benchmark::DoNotOptimize(listener.hear(0, 0x500 + id++ % 16, false, data, values, heard));
    }
    state.SetItemsProcessed(state.iterations());
}
BENCHMARK(hearFrames);

/// An hour of every volt of a job, fifty times a second, as it is played; `share` is of one core at fifty times.
void playHour(benchmark::State& state)
{
    const auto job = job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/petrel.vicegrip").value();
    const auto columns = recording::columnsOf(job);
    const auto file = std::filesystem::temp_directory_path() / ("hour." + std::to_string(getpid()) + ".csv");
    constexpr int kHour_s = 3600, kTicks = 50, kSpeed = 50;
    {
        recording::Writer writer(columns);
        std::string text = writer.header();
        for (int i = 0; i < kHour_s * kTicks; ++i)
            for (const recording::Column& c : columns)
                if (c.tells == job::Tells::Volts)
                    writer.take({c.input, c.tells, static_cast<double>(i) / kTicks, 1.0 + i % 4096 * 0.0012207}, text);
        writer.finish(text);
        std::ofstream(file, std::ios::binary) << text;
    }
    size_t values = 0;
    for (auto _ : state) {
        auto player = recording::Player::open(file, job).value();
        std::vector<stream::Heard> heard;
        for (double due_s = 0; !player.isOver(); due_s += kSpeed * 0.02) {
            heard.clear();
            if (!player.until(due_s, heard, [](const can_log::Frame&) {}))
                state.SkipWithError("a line was not read");
            values += heard.size();
        }
    }
    std::filesystem::remove(file);
    state.SetItemsProcessed(static_cast<int64_t>(values));
    state.counters["share"] =
        benchmark::Counter(static_cast<double>(kHour_s) / kSpeed * static_cast<double>(state.iterations()),
                           benchmark::Counter::kIsRate | benchmark::Counter::kInvert);
}
BENCHMARK(playHour)->Unit(benchmark::kMillisecond);

constexpr std::uint32_t kMessages = 1000;
constexpr int kEach = 20;

/// The signals of a whole car.
std::shared_ptr<const dbc::Database> wholeCar()
{
    std::vector<dbc::Message> messages;
    for (std::uint32_t id = 0; id < kMessages; ++id) {
        dbc::Message& m = messages.emplace_back();
        m.id = id;
        m.name = "Frame" + std::to_string(id);
        for (int s = 0; s < kEach; ++s) {
            dbc::Signal& signal = m.carries.emplace_back();
            signal.name = "Door" + std::to_string(s) + (s % 2 == 0 ? "AirTemp" : "LampVolts");
            signal.unit = s % 2 == 0 ? "degC" : "V";
        }
    }
    return std::make_shared<const dbc::Database>(std::move(messages));
}

/// Their words, read once; items are signals.
void readSignals(benchmark::State& state)
{
    const auto car = wholeCar();
    for (auto _ : state)
        benchmark::DoNotOptimize(stream::Matcher(car));
    state.SetItemsProcessed(state.iterations() * kMessages * kEach);
}
BENCHMARK(readSignals)->Unit(benchmark::kMillisecond);

/// They are beside one circuit, as a hand that chooses one waits for it; items are signals.
void offerSignals(benchmark::State& state)
{
    const auto job = job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/petrel.vicegrip").value();
    const stream::Matcher matcher(wholeCar());
    const job::Circuit& circuit = *job::find(job, job::CircuitId{"clt"});
    for (auto _ : state)
        benchmark::DoNotOptimize(matcher.candidates(job, circuit));
    state.SetItemsProcessed(state.iterations() * kMessages * kEach);
}
BENCHMARK(offerSignals)->Unit(benchmark::kMillisecond);

} // namespace
} // namespace vicegrip
