#pragma once

#include <boost/pending/disjoint_sets.hpp>
#include <map>
#include <vector>

/// What hangs together: sets that are joined and never parted (Tarjan 1975), by Boost's disjoint_sets.
namespace vicegrip {

/// Over names of any kind; a name that is met for the first time is a set of its own.
template <class Name> class Joined
{
  public:
    /// False when the two were in one set already: a join more would close a ring.
    bool join(const Name& a, const Name& b)
    {
        const int setA = of(a), setB = of(b);
        if (setA == setB)
            return false;
        sets().link(setA, setB);
        return true;
    }

    /// A number that all of a set have in common, until the next join.
    [[nodiscard]] int of(const Name& name)
    {
        const auto [it, fresh] = m_index.try_emplace(name, static_cast<int>(m_parent.size()));
        if (fresh) {
            m_rank.push_back(0);
            m_parent.push_back(it->second);
        }
        return sets().find_set(it->second);
    }

  private:
    boost::disjoint_sets<int*, int*> sets() { return {m_rank.data(), m_parent.data()}; }

    std::map<Name, int> m_index;
    std::vector<int> m_rank, m_parent;
};

} // namespace vicegrip
