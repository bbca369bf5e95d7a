#pragma once

#include "core/diagnosis/predictions.h"

#include <Eigen/Core>
#include <vector>

/// How likely each suspect is after what was read (Bayes). One reading in fifty is a slip of the probe or of the pen,
/// so that none rules out the truth.
namespace vicegrip::diagnosis {

inline constexpr double kSlips = 0.02; ///< share of readings (typical)

/// A reading where it was taken.
struct Evidence
{
    size_t spot = 0; ///< in the list of spots
    job::Reading reading;
    bool elsewhere = false; ///< it reads wrong on another circuit, which may have a fault of its own
};

/// One suspect, reading by reading. What is off in a car is off in all its readings: where one is at the edge of its
/// tolerance, so are those along the same wires, and the size of a fault is one size. A reading therefore moves what
/// the next ones are expected to be (Kalman 1960, with the car's errors and the size as its state).
class Track
{
  public:
    /// `spans`: the width of what the instrument can show at each spot, SI. Both lists must outlive it.
    Track(const std::vector<Prediction>& predicted, const std::vector<double>& spans);

    /// How likely this reading is after those before it: a density, with the slip's share in it; never 0. It moves
    /// what comes after, unless it is a slip.
    double take(const Evidence& evidence);
    /// The chance that this reading would be a slip.
    [[nodiscard]] double slipChance(const Evidence& evidence) const;
    /// What is expected there now; all of its spread is its own.
    [[nodiscard]] Prediction expected(size_t spot) const;

  private:
    static constexpr int kState = 1 + kCauses; ///< the size, then what the car has in common along its ways
    using State = Eigen::Matrix<double, kState, 1>;

    [[nodiscard]] State loads(size_t spot) const;
    [[nodiscard]] double sound(const Evidence& evidence) const;

    const std::vector<Prediction>& m_predicted;
    const std::vector<double>& m_spans;
    State m_mean = State::Zero();
    Eigen::Matrix<double, kState, kState> m_spread = Eigen::Matrix<double, kState, kState>::Identity();
};

struct Belief
{
    std::vector<double> shares; ///< by suspect, adding up to 1
    std::vector<std::vector<Prediction>> expected; ///< by suspect, then by spot: after what was read
};
[[nodiscard]] Belief belief(const std::vector<Suspect>& suspects, const std::vector<std::vector<Prediction>>& predicted,
                            const std::vector<Evidence>& evidence, const std::vector<double>& spans);

/// Whether an instrument hardly tells the two apart: within two standard deviations of their difference.
[[nodiscard]] bool looksAlike(const Prediction& a, const Prediction& b);

/// Suspects that no spot tells apart, and all sizes of one; the likelier groups first, in each the likeliest first.
struct Group
{
    std::vector<size_t> members;
    double share = 0; ///< of the belief
};
[[nodiscard]] std::vector<Group> groups(const std::vector<Suspect>& suspects,
                                        const std::vector<std::vector<Prediction>>& predicted,
                                        const std::vector<double>& belief);

/// Bits that a reading at this spot is expected to tell of the suspects: their mutual information.
[[nodiscard]] double information(const std::vector<std::vector<Prediction>>& predicted,
                                 const std::vector<double>& belief, size_t spot);

} // namespace vicegrip::diagnosis
