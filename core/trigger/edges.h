#pragma once

#include <cstddef>
#include <optional>
#include <span>
#include <vector>

namespace vicegrip::trigger {

/// A signal passes the middle between its two levels.
struct Edge
{
    double time_s = 0;
    bool rising = false;
    bool operator==(const Edge&) const = default;
};

/// A signal is high once it is above `high_v`, and low once it is below `low_v`; an edge is where it passed `middle_v`
/// on the way. What happens between the two is no edge.
struct Levels
{
    double low_v = 0, high_v = 0, middle_v = 0;
};

/// Levels from the signal itself: a third and two thirds of the way between the levels it is at or beyond for a
/// five-hundredth of the time, so that single spikes move nothing and a narrow tooth once a turn is seen. None for a
/// signal that stands still.
[[nodiscard]] std::optional<Levels> levelsOf(std::span<const float> volts);

/// Levels of a coil that a tooth passes: it is armed at a share of its peaks, and its edge is where it comes through
/// zero.
[[nodiscard]] std::optional<Levels> coilLevels(std::span<const float> volts);

/// Finds edges in samples that come piece by piece, evenly in time.
class EdgeFinder
{
  public:
    EdgeFinder(const Levels& levels, double began_s, double step_s);

    void take(std::span<const float> volts, std::vector<Edge>& out);

  private:
    void step(float before, float now, std::vector<Edge>& out);
    [[nodiscard]] double timeAt(double share) const
    {
        return m_began_s + (static_cast<double>(m_index) - 1 + share) * m_step_s;
    }

    Levels m_levels;
    double m_began_s, m_step_s;
    std::size_t m_index = 0; ///< of the sample that comes next
    float m_last = 0;
    enum class State { Unknown, Low, High };
    State m_state = State::Unknown;
    std::optional<double> m_up_s, m_down_s; ///< when it passed the middle last
};

/// All edges of a signal that is there as a whole.
[[nodiscard]] std::vector<Edge> edgesIn(std::span<const float> volts, const Levels& levels, double step_s);

/// All edges of a signal that is known by its changes: it jumps from one level to the next.
[[nodiscard]] std::vector<Edge> edgesOfChanges(std::span<const double> changes_s, std::span<const float> volts,
                                               const Levels& levels);

/// When one kind of edges came.
[[nodiscard]] std::vector<double> timesOf(std::span<const Edge> edges, bool rising);

} // namespace vicegrip::trigger
