#include "core/diagnosis/shared.h"

#include <algorithm>

namespace vicegrip::diagnosis {
namespace {

std::vector<job::CircuitId> failing(const analysis::Analysis& analysis)
{
    std::vector<job::CircuitId> out;
    for (const proof::CircuitView& view : analysis.circuits)
        if (std::ranges::any_of(view.stations, [](const auto& of) {
                return std::ranges::any_of(of.second,
                                           [](const proof::Standing& s) { return s.state == proof::State::Failing; });
            }))
            out.push_back(view.id);
    return out;
}

} // namespace

std::optional<Shared> sharedFault(const analysis::Analysis& analysis, const Families& families,
                                  const parts::Library& library)
{
    constexpr size_t kMost = 4; // of many wrong circuits some will do: what they share touches each of them
    const auto wrong = failing(analysis);
    std::optional<Shared> out;
    for (size_t i = 0; i < std::min(wrong.size(), kMost) && wrong.size() > 1; ++i) {
        const Diagnosis d = Finder(analysis, wrong[i], families, library).diagnosis({}, job::Condition::KeyOn, 0);
        if (d.groups.empty() || d.explains.size() < 2 || (out && out->circuits.size() >= d.explains.size()))
            continue;
        const Group& first = d.groups.front();
        out = Shared{d.suspects[first.members.front()], first.share, d.explains};
        if (out->circuits.size() == wrong.size())
            break;
    }
    return out;
}

} // namespace vicegrip::diagnosis
