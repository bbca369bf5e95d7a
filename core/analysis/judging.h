#pragma once

#include "core/analysis/analysis.h"

#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <unordered_map>
#include <vector>

namespace vicegrip::analysis {

/// What was read in each circuit, judged; taken over from the analysis before where nothing that it rests on has
/// changed: thousands of readings, each with its facts, are the most of what is left after an edit.
class Judging
{
    using Places = std::map<job::Condition, std::vector<proof::Place>>;

  public:
    /// `now` has its job and facts. `before`: of any job, or null. Both outlive this.
    Judging(const Analysis& now, const Analysis* before);

    /// Puts the circuit's standings in. `places` are those of the circuit, `index` its place among the circuits.
    void judge(proof::CircuitView& view, const Places& places, size_t index) const;

    /// The conditions with the engine turning that the circuit was read under.
    [[nodiscard]] std::vector<job::Condition> turning(const job::CircuitId& id) const;

  private:
    using ByCircuit = std::unordered_map<std::string_view, proof::Proofs>;

    static ByCircuit proofsOf(const job::Job& job);
    static const proof::Proofs& of(const ByCircuit& all, const job::CircuitId& id);
    [[nodiscard]] bool isSame(const proof::CircuitView& view, const Places& places, size_t index) const;
    [[nodiscard]] bool isUntouched(const job::Proof& proof) const;

    const job::Facts& m_facts;
    const Analysis* m_before = nullptr;
    std::optional<std::vector<std::string>> m_changed; ///< facts; none: too many to look for one by one
    ByCircuit m_proofs, m_then;
};

} // namespace vicegrip::analysis
