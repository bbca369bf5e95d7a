#pragma once

#include "core/branches/bundle.h"
#include "core/job/job.h"

#include <map>
#include <optional>
#include <string>
#include <vector>

/// How the harness lies: the way of each wire along its stretches, and what goes over each of them.
namespace vicegrip::branches {

class Tree
{
  public:
    explicit Tree(const job::Job& job);

    /// The stretches (indices in Job::branches) between two places, in order; the halves of an inline pair are one
    /// place. None when either is not on the tree, or no stretch joins them.
    [[nodiscard]] std::optional<std::vector<size_t>> way(const std::string& from, const std::string& to) const;

    /// The length of a wire's way, m. None when its ends are not both on the tree.
    [[nodiscard]] std::optional<double> length_m(const job::Wire& wire) const;

  private:
    struct Hop
    {
        std::string to;
        std::optional<size_t> branch; ///< none between the halves of an inline pair
    };

    const job::Job& m_job;
    std::map<std::string, std::vector<Hop>> m_hops;
};

/// A stretch with what lies in it.
struct Stretch
{
    std::vector<job::WireId> wires;
    double packed_m = 0; ///< smallest circle that was found round them
    Dressing dressing; ///< nothing where no wire lies
};

/// For each of Job::branches.
[[nodiscard]] std::vector<Stretch> stretches(const job::Job& job);

/// RFC 4180, a header line first. Lengths in m, diameters in mm.
[[nodiscard]] std::string toCsv(const job::Job& job, const std::vector<Stretch>& stretches);

/// A stretch is as long as it was measured: every wire along it keeps what it had beyond its way, and none stays
/// shorter than its way. Error (Reference): no such stretch.
[[nodiscard]] Result<void> setBranchLength(job::Job& job, size_t branch, double length_m);

/// Stretches between plugs and joints that lie as the drawn wires allow: the shortest wires that join everything (a
/// minimum spanning tree; Kruskal 1956). A beginning for the tape measure. Battery leads stay out: they lie alone.
[[nodiscard]] std::vector<job::Branch> proposeBranches(const job::Job& job);

/// A stretch as it is typed: "Y2 CLT 40 cm", "Y2 to CLT, 0.4". Places that are plugs or joints are known in any case;
/// other names are branch points. Errors say what was expected; a ring is found by job::check.
[[nodiscard]] Result<job::Branch> branchTyped(const job::Job& job, std::string_view typed);

/// Whether a wire is shorter than its way by more than hands can stretch it.
inline constexpr double kNoticeablyShort_m = 0.02;

} // namespace vicegrip::branches
