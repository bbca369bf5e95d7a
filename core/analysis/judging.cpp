#include "core/analysis/judging.h"

#include <algorithm>
#include <iterator>

namespace vicegrip::analysis {
namespace {

/// The names of the facts that differ; none when there are many.
std::optional<std::vector<std::string>> differing(const job::Facts& a, const job::Facts& b)
{
    constexpr size_t kMany = 16;
    std::vector<std::string> out;
    auto x = a.begin(), y = b.begin();
    while ((x != a.end() || y != b.end()) && out.size() <= kMany)
        if (y == b.end() || (x != a.end() && x->first < y->first))
            out.push_back((x++)->first);
        else if (x == a.end() || y->first < x->first)
            out.push_back((y++)->first);
        else if ((x++)->second != (y++)->second)
            out.push_back(std::prev(x)->first);
    return out.size() > kMany ? std::nullopt : std::optional(std::move(out));
}

} // namespace

Judging::Judging(const Analysis& now, const Analysis* before) : m_facts(now.facts), m_proofs(proofsOf(*now.job))
{
    if (before == nullptr)
        return;
    m_changed = differing(before->facts, now.facts);
    if (!m_changed)
        return;
    m_before = before;
    m_then = proofsOf(*before->job);
}

/// Whether the same places were there to be read before.
bool Judging::isSame(const proof::CircuitView& view, const Places& places, size_t index) const
{
    if (m_before == nullptr || index >= m_before->circuits.size() || m_before->circuits[index].id != view.id)
        return false;
    const auto& then = m_before->circuits[index].stations;
    const auto alike = [](const auto& now, const auto& was) {
        return now.first == was.first && std::ranges::equal(now.second, was.second, {}, {}, &proof::Standing::place);
    };
    return std::ranges::equal(places, then, alike);
}

void Judging::judge(proof::CircuitView& view, const Places& places, size_t index) const
{
    const proof::Proofs &now = of(m_proofs, view.id), &then = of(m_then, view.id);
    const auto stands = [&](const job::Proof* a, const job::Proof* b) { return *a == *b && isUntouched(*a); };
    if (!isSame(view, places, index) || !std::ranges::equal(now, then, stands)) {
        for (const auto& [condition, at] : places)
            view.stations[condition] = proof::judge(now, m_facts, at);
        return;
    }
    view.stations = m_before->circuits[index].stations;
    for (auto& [condition, stations] : view.stations)
        for (proof::Standing& s : stations)
            if (s.last != nullptr) // the same proof, of the job as it is now
                s.last = now[static_cast<size_t>(std::ranges::find(then, s.last) - then.begin())];
}

std::vector<job::Condition> Judging::turning(const job::CircuitId& id) const
{
    std::vector<job::Condition> out;
    for (const job::Proof* p : of(m_proofs, id))
        if (const auto condition = p->reading.condition();
            job::engineTurns(condition) && std::ranges::find(out, condition) == out.end())
            out.push_back(condition);
    return out;
}

Judging::ByCircuit Judging::proofsOf(const job::Job& job)
{
    ByCircuit out;
    for (const job::Proof& p : job.proofs)
        out[p.circuit.value].push_back(&p);
    return out;
}

const proof::Proofs& Judging::of(const ByCircuit& all, const job::CircuitId& id)
{
    static const proof::Proofs kNone;
    const auto it = all.find(id.value);
    return it == all.end() ? kNone : it->second;
}

bool Judging::isUntouched(const job::Proof& proof) const
{
    return std::ranges::none_of(*m_changed,
                                [&](const std::string& name) { return job::concerns(name, proof.restsOn.facts()); });
}

} // namespace vicegrip::analysis
