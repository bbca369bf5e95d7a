#pragma once

#include "core/base/number_table.h"
#include "core/base/result.h"

#include <optional>
#include <string>
#include <vector>

/// What a recording of a throttle or pedal, moved by hand from stop to stop, says of it: where it rests, how surely,
/// and what is wrong with it.
namespace vicegrip::throttle {

/// A recording: time and volts, and the volts of a second track where there is one.
struct Recording
{
    std::vector<double> time_s;
    std::vector<double> volts;
    std::vector<double> second; ///< empty: one track
};

/// The second track of a recording that is heard live: its samples come between those of the first, and stand for the
/// times of the first on the line from one of them to the next. A stale one beside a moving first would look like
/// tracks that part.
class LivePair
{
  public:
    /// A sample of the second track at `time_s`: gives the first's samples up to there their pair.
    void second(Recording& recording, double time_s, double volts);
    /// At the end: the few last samples without a pair go; a track that was hardly heard is none.
    void close(Recording& recording) const;

  private:
    double m_time_s = 0, m_volts = 0;
    bool m_heard = false;
};

/// From columns time (s or ms, by the heading; s without one), volts, and perhaps the second track's volts. Errors
/// (Range, with the line): time that does not rise, a gap of more than a second, volts beyond -1..30 V, fewer than 20
/// rows.
[[nodiscard]] Result<Recording> recordingFrom(const NumberTable& table);

/// A while during which nothing moved.
struct Rest
{
    size_t from = 0, to = 0; ///< samples, `to` is one beyond
    double volts = 0; ///< median
    double sigma = 0; ///< of one sample, from the median absolute deviation
};

enum class Stop { Closed, Open };

/// Volts that fall out of the movement.
struct DeadSpot
{
    double volts = 0; ///< where on the track
    double depth_v = 0; ///< farthest from where it should be
    double time_s = 0; ///< when it was seen first
    int strokes = 0; ///< in how many it was seen: one may be a touched wire, two or more is the track
};

struct Limits
{
    double closed_v = 0, open_v = 0;
};

struct Pair
{
    double slope = 0, offset_v = 0; ///< second = offset + slope * first
    double worst_v = 0; ///< farthest from that line, of any sample
    bool crossed = false; ///< one rises while the other falls: their sum is constant
};

struct Report
{
    std::vector<Rest> closed, open; ///< in the order of time
    int strokes = 0; ///< ways from one stop to the other
    double closed_v = 0, open_v = 0; ///< medians of the rests
    double noise_v = 0; ///< standard deviation of a sample at rest
    double closedSpread_v = 0, openSpread_v = 0; ///< between the rests at one stop
    bool falls = false; ///< it reads less when open
    std::vector<DeadSpot> deadSpots;
    Limits limits; ///< inward of every rest by the margin
    double margin_v = 0;
    std::optional<Pair> pair;

    [[nodiscard]] double travel_v() const { return open_v - closed_v; }
};

/// Finds the rests (runs of samples within the noise, at either end of the travel), which stop the recording begins at
/// being the closed one, and everything that follows from them. Samples that jump away and back again (a wiper that
/// lifts) are no travel while they are fewer than one in twenty; rests more than a twentieth of the travel short of the
/// outermost one are pauses of the hand. Limits lie inward of every rest of their stop by three standard deviations or
/// one count, whichever is more: at each of them the ECU reads 0 or 100 %. `volts_per_count` of the input.
/// Errors (Range): no movement, no rest at one of the stops.
[[nodiscard]] Result<Report> reportOn(const Recording& recording, double volts_per_count);

} // namespace vicegrip::throttle
