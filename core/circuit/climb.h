#pragma once

#include "core/circuit/corner.h"

#include <boost/container/small_vector.hpp>
#include <limits>
#include <optional>
#include <utility>
#include <vector>

/// The way to the worst corner of a network's tolerances. Inside circuit/.
namespace vicegrip::circuit {

/// What may move a reading: one element between its ends, or several that one thing moves together.
struct Mover
{
    /// Most movers are single: a network has thousands, and is asked for at hundreds of places.
    template <class T, size_t N> using Few = boost::container::small_vector<T, N>;
    using Values = Few<double, 1>;

    Few<ElementIndex, 1> elements;
    Few<Values, 2> settings; ///< values of the elements; of a single one its two ends
    Few<Values, 2> ways; ///< as `settings`, what their derivatives are multiplied with

    bool switches = false; ///< it stands open or closed, and more than its own value says hangs on that

    [[nodiscard]] bool single() const { return elements.size() == 1; }

    /// The setting that leads farthest up (`sign` 1) or down (-1) by first order, and how far.
    [[nodiscard]] std::pair<size_t, double> farthest(const std::vector<double>& slopes, double sign) const
    {
        std::pair<size_t, double> out{0, -std::numeric_limits<double>::infinity()};
        for (size_t s = 0; s < ways.size(); ++s) {
            double sum = 0;
            for (size_t k = 0; k < elements.size(); ++k)
                sum += slopes[static_cast<size_t>(elements[k])] * ways[s][k];
            if (sign * sum > out.second)
                out = {s, sign * sum};
        }
        return out;
    }
};

/// Everything of a network that has a tolerance.
class Movers
{
  public:
    explicit Movers(const Network& net);

    /// The elements that stand open or closed.
    [[nodiscard]] std::vector<ElementIndex> switching() const;
    /// How far one of them leads, by the resistance it sees beside itself, its own in parallel.
    void setSeen(const Network& net, ElementIndex element, double parallel_ohm);

    [[nodiscard]] size_t size() const { return m_all.size(); }
    [[nodiscard]] const Mover& operator[](size_t i) const { return m_all[i]; }

    /// How far each leads at most, up or down, by first order.
    [[nodiscard]] std::vector<double> reaches(const std::vector<double>& slopes) const;

  private:
    struct Single
    {
        ElementIndex element = 0;
        double way = 0; ///< the longer one
    };
    std::vector<Mover> m_all;
    std::vector<Single> m_singles; ///< as the first of m_all, packed for the pass over all of them
};

/// Climbs from corner to corner of what `movers` may do; `sign` 1 seeks the most, -1 the least. `corner` varies their
/// elements, in their order; `slopes` are the nominal ones.
class Climb
{
  public:
    Climb(Corner& corner, const std::vector<const Mover*>& movers, const std::vector<double>& slopes, double sign);

    /// The extreme times `sign`, with the corner left solved there. The movers of `kicked` are tried from their other
    /// end as well: two signs may have to turn at once.
    [[nodiscard]] double extreme(const std::vector<size_t>& kicked);

  private:
    using Settings = std::vector<size_t>; ///< the setting each mover has

    double value(const Settings& at);
    double climbed(Settings& at);
    /// Single elements, but for one that is held, at the ends that the signs of a state point to.
    [[nodiscard]] Settings turned(const Settings& at, const Corner::State& state,
                                  std::optional<size_t> held = {}) const;
    void turnBack(Settings& at, double& best);
    void trySettings(Settings& at, double& best);
    /// Takes `there` where it leads farther.
    bool taken(const Settings& there, Settings& at, double& best);

    Corner& m_corner;
    const std::vector<const Mover*>& m_movers;
    double m_sign;
    Settings m_at;
    std::vector<size_t> m_places; ///< of a mover's first element in the corner
};

} // namespace vicegrip::circuit
