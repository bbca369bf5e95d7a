#pragma once

#include <cstddef>
#include <deque>
#include <map>
#include <optional>
#include <vector>

namespace vicegrip::wiggle {

/// While the input did not read what it reads else.
struct DropOut
{
    double from_s = 0, to_s = 0;
    double steady = 0; ///< what it read before
    std::optional<double> deepest; ///< farthest from that; none: nothing came
    std::optional<size_t> hold; ///< where hands were when it began, or had just been; none: off
};

struct Heard
{
    double at_s = 0;
    double reading = 0; ///< V, or Hz
};

struct Mark
{
    double at_s = 0;
    std::optional<size_t> hold; ///< hands are there from now on; none: off
};

/// What an input said, sample by sample, and where hands were. Times are of any clock that only goes forward.
class Watch
{
  public:
    /// `grain`: a smaller change is noise.
    explicit Watch(double grain) : m_grain(grain) {}

    void hear(double at_s, double reading);
    /// What lets go in the half second after hands went off is still of where they were: letting go moves it too, and
    /// what an ECU says comes late.
    void handsAt(double at_s, std::optional<size_t> hold);
    /// Nobody listens until the next sample: a gap that follows is none of the input's.
    void pause();

    [[nodiscard]] const std::vector<DropOut>& dropOuts() const { return m_dropOuts; } ///< that are over
    /// It reads something else now, since then.
    [[nodiscard]] std::optional<double> outSince() const;
    /// What it reads while nothing lets go; none for the first half second.
    [[nodiscard]] std::optional<double> steady() const { return m_steady; }
    [[nodiscard]] std::optional<double> least() const { return m_least; } ///< held until all begins anew
    [[nodiscard]] std::optional<double> most() const { return m_most; }
    /// Seconds in which it might have let go, with hands at a place; none: off.
    [[nodiscard]] double seconds(std::optional<size_t> hold) const;
    [[nodiscard]] double seconds() const; ///< all of them
    [[nodiscard]] std::optional<size_t> hands() const { return m_hands; }

    /// The last minute of it.
    [[nodiscard]] const std::deque<Heard>& trace() const { return m_trace; }
    [[nodiscard]] const std::vector<Mark>& marks() const { return m_marks; }

  private:
    struct Silence
    {
        DropOut gap;
        double period_s = 0; ///< between samples, before
        size_t heardSince = 0;
    };

    void judgeSilence(double at_s);
    void learn(double reading);
    [[nodiscard]] bool isOff(double reading) const;
    void end(double at_s);
    [[nodiscard]] std::optional<size_t> movedAt(double at_s) const;

    double m_grain;
    double m_noise = 0; ///< standard deviation of a sample
    double m_period_s = 0; ///< between samples
    std::optional<double> m_steady, m_least, m_most, m_last_s;
    std::optional<DropOut> m_out; ///< that lasts
    std::optional<Silence> m_silence; ///< or was it us who did not listen?
    std::optional<size_t> m_hands, m_handsBefore;
    double m_handsSince_s = 0;
    std::map<std::optional<size_t>, double> m_seconds;
    std::vector<DropOut> m_dropOuts;
    std::deque<double> m_usual; ///< its last readings that were not off
    std::deque<Heard> m_trace;
    std::vector<Mark> m_marks;
};

} // namespace vicegrip::wiggle
