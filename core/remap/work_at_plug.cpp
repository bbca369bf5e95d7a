#include "core/remap/work_at_plug.h"

#include "core/base/phrase.h"
#include "core/pinning/pinning.h"

#include <algorithm>
#include <map>
#include <set>

namespace vicegrip::remap {
namespace {

std::string withColour(const std::string& colour)
{
    return colour.empty() ? std::string() : ", " + colour;
}

class Work
{
  public:
    Work(const job::Connector& connector, const std::vector<Remapped>& rows)
        : m_rows(rows), m_face(job::faceOf(connector))
    {
        for (const parts::Cavity& c : parts::cavities(m_face))
            m_families[c.name] = c.terminal;
    }

    std::vector<RemapStep> within()
    {
        for (const Remapped& r : m_rows)
            if (!r.oldCavity.empty())
                m_held.insert(r.oldCavity);
        pullWhatGoes();
        moveAll();
        insertNew();
        blanks();
        add(phrase("Count every cavity again, on the other face"),
            phrase("The same eyes on the same face agree with themselves."));
        return std::move(m_out);
    }

    std::vector<RemapStep> across()
    {
        for (const Remapped& r : m_rows)
            if (!r.newPlug.empty())
                add(phrase("Old {} to {}.{}: {}{}", r.oldCavity, r.newPlug, r.newCavity, r.function,
                           withColour(r.oldColour)),
                    phrase("It lives on in that plug."));
            else if (r.fate != Fate::New && r.fate != Fate::Goes)
                add(phrase("Old {} to new {}: {}{}", r.oldCavity, r.newCavity, r.function, withColour(r.oldColour)),
                    {});
        insertNew();
        for (const Remapped& r : m_rows)
            if (r.fate == Fate::Goes)
                add(phrase("Old {}, {}: cap it and tie it back, or take the wire out", r.oldCavity, r.function),
                    phrase("A loose end finds a ground."));
        add(phrase("Count every cavity again, on the other face"),
            phrase("The same eyes on the same face agree with themselves."));
        return std::move(m_out);
    }

  private:
    void add(std::string what, std::string why) { m_out.push_back({std::move(what), std::move(why)}); }

    void pullWhatGoes()
    {
        for (const Remapped& r : m_rows) {
            if (!r.newPlug.empty()) {
                add(phrase("Pull {}: {}{}; lead it to {}.{}", r.oldCavity, r.function, withColour(r.oldColour),
                           r.newPlug, r.newCavity),
                    phrase("The old wire lives on in that plug: crimp its terminal anew."));
                m_held.erase(r.oldCavity);
            }
            if (r.fate == Fate::Goes) {
                add(phrase("Pull {}: {}{}; cap it and tie it back", r.oldCavity, r.function, withColour(r.oldColour)),
                    phrase("Nothing goes home in a cavity that is held."));
                m_held.erase(r.oldCavity);
            }
        }
    }

    [[nodiscard]] bool sameTerminal(const std::string& from, const std::string& to) const
    {
        const auto a = m_families.find(from), b = m_families.find(to);
        return a == m_families.end() || b == m_families.end() || a->second == nullptr || b->second == nullptr ||
               a->second->id == b->second->id;
    }

    void home(const Remapped& r, const std::string& from)
    {
        std::string why;
        if (!sameTerminal(r.oldCavity, r.newCavity))
            why = phrase("Another terminal family: cut it off and crimp {}.", m_families.at(r.newCavity)->name);
        add(phrase("Move {} to {}: {}{}", from, r.newCavity, r.function, withColour(r.oldColour)), why);
        m_held.insert(r.newCavity);
    }

    void moveAll()
    {
        std::vector<const Remapped*> left;
        for (const Remapped& r : m_rows)
            if ((r.fate == Fate::Moves && r.newPlug.empty()) || r.fate == Fate::Exchanged)
                left.push_back(&r);
        std::vector<const Remapped*> tagged;
        while (!left.empty() || !tagged.empty()) {
            const auto isFree = [&](const Remapped* r) { return !m_held.contains(r->newCavity); };
            if (const auto it = std::ranges::find_if(left, isFree); it != left.end()) {
                m_held.erase((*it)->oldCavity);
                home(**it, (*it)->oldCavity);
                left.erase(it);
            } else if (const auto loose = std::ranges::find_if(tagged, isFree); loose != tagged.end()) {
                home(**loose, phrase("the tagged wire of {}", (*loose)->oldCavity));
                tagged.erase(loose);
            } else if (!left.empty()) {
                const Remapped* r = left.front();
                add(phrase("Pull {} and tag it \"{}\": {}{}", r->oldCavity, r->newCavity, r->function,
                           withColour(r->oldColour)),
                    r->fate == Fate::Exchanged
                        ? phrase("It is exchanged with {}: one of the two must wait outside.", r->with)
                        : phrase("These wires wait for each other in a ring: one must wait outside."));
                m_held.erase(r->oldCavity);
                tagged.push_back(r);
                left.erase(left.begin());
            } else {
                return; // two functions for one cavity: the drawing does not hold that
            }
        }
    }

    void insertNew()
    {
        for (const Remapped& r : m_rows)
            if (r.fate == Fate::New) {
                add(phrase("Pin {} anew: {}{}", r.newCavity, r.function, withColour(r.newColour)), {});
                m_held.insert(r.newCavity);
            }
    }

    void blanks()
    {
        for (const Remapped& r : m_rows) {
            const auto family = m_families.find(r.oldCavity);
            if (family != m_families.end() && family->second != nullptr && family->second->sealed &&
                !m_held.contains(r.oldCavity))
                add(phrase("Blank plug into {}", r.oldCavity),
                    phrase("An open cavity of a sealed plug lets water in to all the others."));
        }
    }

    const std::vector<Remapped>& m_rows;
    parts::Layout m_face;
    std::map<std::string, const parts::TerminalFamily*> m_families;
    std::set<std::string> m_held; ///< cavities with a wire in them
    std::vector<RemapStep> m_out;
};

} // namespace

std::vector<RemapStep> workOf(const job::Connector& connector, const job::OldPlug& old,
                              const std::vector<Remapped>& rows)
{
    Work work(connector, rows);
    return old.repinned ? work.within() : work.across();
}

} // namespace vicegrip::remap
