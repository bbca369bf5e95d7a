#pragma once

#include "core/circuit/factors.h"

#include <array>
#include <map>
#include <optional>

/// A network with some elements at other values, as changes of rank one of the factored one. Inside circuit/.
///
/// With U the elements' incidence columns and W what each element's current or gain follows, S = W' A^-1 U, y = W' x
/// and t = e' A^-1 U are all that is needed of the network for k elements. An element that goes from one conductance or
/// gain to another, by d, makes S - S_j d / (1 + d S_jj) S^j of S, and likewise of y and t (Sherman, Morrison 1950): a
/// corner costs k^3, and one more turn of an element k^2.
namespace vicegrip::circuit {

inline constexpr int kMostInACorner = 31; ///< elements; the meter is one more

using Small = Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, 0, kMostInACorner + 1, kMostInACorner + 1>;
using SmallVector = Eigen::Matrix<double, Eigen::Dynamic, 1, 0, kMostInACorner + 1, 1>;

/// A^-1 u of an element or of probes, and what every element makes of it.
struct Column
{
    Vector answer; ///< A^-1 u
    std::vector<double> follows; ///< per element: the volts across it in `answer`, or those it is controlled by
    std::vector<double> gives; ///< per element: what its own change weighs in A'^-1 w, by the same w
};

/// Those of elements and probes, each solved for once.
class Columns
{
  public:
    explicit Columns(const Solution& solution);

    [[nodiscard]] Solution::Factors& factors() const { return m_factors; }

    /// Solves together for those that are not there yet.
    void prepare(const std::vector<ElementIndex>& elements);
    void prepare(const std::vector<Probes>& probes);
    /// Of one that was prepared; stays where it is.
    [[nodiscard]] const Column& of(ElementIndex element) const { return m_elements.at(element); }
    [[nodiscard]] const Column& of(const Probes& probes) const { return m_probes.at({probes.red, probes.black}); }
    /// Numbers held by all of them.
    [[nodiscard]] size_t size() const;
    void clear();
    /// Column::follows in the answer to the network's own sources.
    [[nodiscard]] const std::vector<double>& followsSources() const { return m_followsSources; }

  private:
    [[nodiscard]] std::vector<double> follows(const VectorView& answer) const;
    [[nodiscard]] Column column(const VectorView& answer, const VectorView& adjoint) const;

    Solution::Factors& m_factors;
    std::vector<double> m_followsSources;
    std::map<ElementIndex, Column> m_elements;
    std::map<std::pair<Node, Node>, Column> m_probes;
};

/// What is read.
struct Sought
{
    Probes probes;
    double meter_ohm = 0; ///< across the probes; 0: none
    bool inOhm = false;
    std::optional<Probes> over = {}; ///< a ratio of volts
    double times = 1;
    bool operator==(const Sought&) const = default;
};

class Corner
{
  public:
    Corner(Columns& columns, const Sought& sought, std::vector<ElementIndex> varied);

    [[nodiscard]] const std::vector<ElementIndex>& varied() const { return m_varied; }
    [[nodiscard]] const Sought& sought() const { return m_sought; }

    /// Brings a varied element, by its place among them, to a value.
    void turn(size_t varied, double value);

    /// What follows from the values.
    struct State
    {
        std::vector<double> values; ///< of the varied elements
        SmallVector along; ///< w_i' x
        std::array<SmallVector, 2> adjoint; ///< output' A^-1 u_j
        std::array<double, 2> output{};
        double reading = 0;
    };
    [[nodiscard]] const State& state() const { return m_state; }

    /// The state with one element more at another value.
    [[nodiscard]] State turned(size_t varied, double value) const;

    /// d reading / d value of a varied element in a state.
    [[nodiscard]] double slope(const State& state, size_t varied) const;

    /// The same of elements that are not varied, at the corner as it is now; 0 of those not asked for.
    [[nodiscard]] std::vector<double> othersSlopes(const std::vector<ElementIndex>& others) const;

  private:
    [[nodiscard]] double readingOf(const State& state) const;
    /// Moves a state by an element's change of conductance or gain, and by a source's shift.
    void move(State& state, Eigen::Index j, double change, double shift) const;
    void moveAll(Eigen::Index j, double change, double shift);
    /// To the values, from the nominal ones.
    void anew();
    [[nodiscard]] const Element& element(size_t varied) const { return m_factors.network.element(m_varied[varied]); }

    const Solution::Factors& m_factors;
    Sought m_sought;
    std::vector<ElementIndex> m_varied;
    std::vector<const Column*> m_of; ///< the varied elements' columns, then the meter's
    std::vector<Probes> m_outputs; ///< one, or the two of a ratio
    std::array<const Column*, 2> m_outputColumns{};
    const std::vector<double>* m_follows = nullptr; ///< in the nominal solution
    State m_state, m_start; ///< now, and with nominal values
    Small m_coupling, m_startCoupling; ///< w_i' A^-1 u_j
    SmallVector m_change; ///< of conductance or gain, from the nominal one
    SmallVector m_shift; ///< of a source
};

} // namespace vicegrip::circuit
