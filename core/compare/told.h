#pragma once

#include "core/compare/compare.h"
#include "core/compare/said.h"

#include <map>
#include <set>
#include <utility>

/// Inside: a function for each kind of difference.
namespace vicegrip::compare {

struct Told
{
    std::vector<Difference> out;
    std::set<std::string> facts; ///< the subjects of those that were told

    void tell(About about, Said said)
    {
        tell(about, said.circuit, std::move(said.what), std::move(said.before), std::move(said.after));
    }
    /// Nothing where both are the same.
    void tell(About about, const job::CircuitId& circuit, std::string what, std::string before, std::string after)
    {
        if (before != after)
            out.push_back({about, circuit, std::move(what), std::move(before), std::move(after)});
    }
};

void circuits(Told& told, const job::Job& before, const job::Job& after);
void wires(Told& told, const job::Job& before, const job::Job& after);
void cavities(Told& told, const job::Job& before, const job::Job& after);
void fitted(Told& told, const job::Job& before, const job::Job& after);
void partsOf(Told& told, const job::Job& before, const job::Job& after);
void settings(Told& told, const analysis::Analysis& before, const analysis::Analysis& after);
void others(Told& told, const job::Job& before, const job::Job& after);
void work(Told& told, const analysis::Analysis& before, const analysis::Analysis& after);
void tables(Told& told, const analysis::Analysis& before, const analysis::Analysis& after);
void proofs(Told& told, const analysis::Analysis& before, const analysis::Analysis& after);

/// What either list holds by name: those of `before` in their order, then those that are new.
template <class T, class Name>
[[nodiscard]] std::vector<std::pair<const T*, const T*>> paired(const std::vector<T>& before,
                                                                const std::vector<T>& after, Name name)
{
    std::vector<std::pair<const T*, const T*>> out;
    std::map<std::string, const T*> now;
    for (const T& item : after)
        now.emplace(name(item), &item);
    std::set<std::string> then;
    for (const T& item : before) {
        const auto it = now.find(name(item));
        out.emplace_back(&item, it == now.end() ? nullptr : it->second);
        then.insert(name(item));
    }
    for (const T& item : after)
        if (!then.contains(name(item)))
            out.emplace_back(nullptr, &item);
    return out;
}

} // namespace vicegrip::compare
