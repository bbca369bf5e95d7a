#include "core/capture/wave_file.h"

#include "core/base/phrase.h"

#include <sndfile.h>

#include <algorithm>
#include <cmath>
#include <memory>

namespace vicegrip::capture {
namespace {

constexpr sf_count_t kPiece = 65536; // frames that are read at once
constexpr sf_count_t kMostInWave = 200'000'000; // of all channels

struct CloseSound
{
    void operator()(SNDFILE* file) const { sf_close(file); }
};
using Sound = std::unique_ptr<SNDFILE, CloseSound>;

} // namespace

Result<Seen> readWave(const std::filesystem::path& file)
{
    SF_INFO info{};
    const Sound sound(sf_open(file.c_str(), SFM_READ, &info));
    if (!sound)
        return fail(std::filesystem::exists(file) ? ErrorCode::Malformed : ErrorCode::Io,
                    phrase("it cannot be read as sound: {}", std::string(sf_strerror(nullptr))),
                    {file.string(), {}, 0, 0});
    if (info.channels < 1 || info.samplerate < 1)
        return fail(ErrorCode::Malformed, phrase("it has no channel"), {file.string(), {}, 0, 0});
    Seen out;
    out.step_s = 1.0 / info.samplerate;
    out.ofFullScale = true;
    const auto channels = static_cast<std::size_t>(info.channels);
    for (std::size_t c = 0; c < channels; ++c)
        out.channels.push_back({std::to_string(c + 1), {}, {}});
    // As many as its header says, but no more than its bytes may hold: a vector that grows takes twice the room.
    constexpr sf_count_t kPacked = 16; // samples in a byte, at most
    std::error_code unknown;
    const auto bytes = static_cast<sf_count_t>(std::filesystem::file_size(file, unknown));
    const sf_count_t frames =
        unknown ? 0 : std::min({info.frames, kMostInWave / info.channels, bytes * kPacked / info.channels});
    for (Channel& c : out.channels)
        c.volts.reserve(static_cast<std::size_t>(std::max<sf_count_t>(0, frames)));
    std::vector<float> piece(static_cast<std::size_t>(kPiece) * channels);
    sf_count_t all = 0;
    for (sf_count_t n = 0; (n = sf_readf_float(sound.get(), piece.data(), kPiece)) > 0;) {
        all += n * info.channels;
        if (all > kMostInWave)
            return fail(ErrorCode::TooBig, phrase("it has more than {} million samples", "200"),
                        {file.string(), {}, 0, 0});
        for (std::size_t i = 0; i < static_cast<std::size_t>(n) * channels; ++i)
            out.channels[i % channels].volts.push_back(piece[i]);
    }
    out.seconds = static_cast<double>(out.channels.front().volts.size()) * out.step_s;
    return out;
}

Result<void> writeWave(const Seen& seen, const std::filesystem::path& file)
{
    constexpr float kLoud = 0.9F;
    SF_INFO info{};
    info.channels = static_cast<int>(seen.channels.size());
    info.samplerate = static_cast<int>(std::lround(1 / seen.step_s));
    info.format = SF_FORMAT_WAV | SF_FORMAT_PCM_16;
    const Sound sound(sf_open(file.c_str(), SFM_WRITE, &info));
    if (!sound)
        return fail(ErrorCode::Io, phrase("it cannot be written: {}", std::string(sf_strerror(nullptr))),
                    {file.string(), {}, 0, 0});
    float most = 0;
    std::size_t samples = 0;
    for (const Channel& c : seen.channels) {
        samples = std::max(samples, c.volts.size());
        for (const float v : c.volts)
            most = std::max(most, std::abs(v));
    }
    std::vector<float> all;
    all.reserve(samples * seen.channels.size());
    for (std::size_t i = 0; i < samples; ++i)
        for (const Channel& c : seen.channels)
            all.push_back(i < c.volts.size() && most > 0 ? c.volts[i] * kLoud / most : 0);
    const auto frames = static_cast<sf_count_t>(samples);
    if (sf_writef_float(sound.get(), all.data(), frames) != frames)
        return fail(ErrorCode::Io, phrase("it cannot be written: is the disk full?"), {file.string(), {}, 0, 0});
    return {};
}

} // namespace vicegrip::capture
