#pragma once

#include "bench/works.h"

#include "core/engine/engine.h"
#include "core/job/job.h"
#include "core/trigger/turning.h"

#include <algorithm>
#include <optional>
#include <set>
#include <vector>

namespace vicegrip::bench {

/// The engine of the bench's car and the program of its ECU, between the values the ECU has and what sensors feel.
///
/// On the starter alone it is only turned: no fuel, no spark. When it stops it is cold again, as on another morning.
class UnderBonnet
{
  public:
    /// While it idles on the bench it warms so many times as fast as a real one: the bench is in a hurry.
    static constexpr double kHurry = 40;

    explicit UnderBonnet(const job::Job& job);

    /// Another job, or another place: what it is made of; it goes on turning.
    void become(const job::Job& job);
    void setAmbient(double kelvin) { m_around.ambient_k = kelvin; }
    [[nodiscard]] engine::Tank& tank() { return m_tank; }
    /// Where the plate rests with the foot off: what a stop screw holds it at.
    void restPlateAt(double share) { m_rest = share; }
    void setWorks(const Works& works) { m_works = works; }
    [[nodiscard]] const Works& works() const { return m_works; }

    /// It stands, cold.
    void stop();

    enum class By {
        Starter, ///< turned only
        StarterAndFire, ///< the key is held until it runs
        Fire ///< it runs, or it does not
    };
    /// So many seconds later. `read`: what the ECU takes for true.
    void pass(double seconds, const engine::Read& read, By by, double hurry = kHurry);

    /// A driver sits in it: throttle, gear and brakes.
    [[nodiscard]] engine::Moved& moved() { return m_moved; }
    [[nodiscard]] int gear() const { return m_moved.gear; }

    [[nodiscard]] const engine::Plant& plant() const { return m_plant; }
    [[nodiscard]] const engine::Commands& commands() const { return m_commands; }
    /// Whether it runs by itself: no starter turns it so fast.
    [[nodiscard]] bool runs() const { return m_plant.rpm() > kRuns_rpm; }
    /// How its crank turns; none: it stands.
    [[nodiscard]] std::optional<trigger::Turning> turning() const;

    /// What this sensor feels of it, SI; none: what it feels with the engine off. Fuel is in its line all the same.
    [[nodiscard]] std::optional<double> felt(const job::Job& job, const job::Circuit& circuit) const;
    /// Circuits that the ECU has switched off while the engine runs.
    [[nodiscard]] std::set<job::CircuitId> off(const job::Job& job) const;

    static constexpr double kRuns_rpm = 350;

  private:
    [[nodiscard]] double plate() const { return std::max(m_rest, m_moved.throttle); }

    engine::Around m_around;
    engine::Plant m_plant;
    engine::Program m_program;
    engine::Moved m_moved;
    engine::Commands m_commands;
    engine::Tank m_tank;
    double m_rest = 0; ///< of the plate
    Works m_works;
};

/// What the ECU takes for true: by function, what its inputs read through their tables, SI. Values are of circuits, by
/// their places in the job; none: not told.
[[nodiscard]] engine::Read readOf(const job::Job& job, const std::vector<std::optional<double>>& values, double rpm);

} // namespace vicegrip::bench
