#include "core/book/harness_figure.h"

#include "core/base/phrase.h"
#include "core/units/units.h"

#include <algorithm>
#include <set>

namespace vicegrip::book {
namespace {

using drawn::Ink;

constexpr double kWide_mm = 176, kNames_mm = 30, kRow_mm = 6, kStart_mm = 10, kMostStep_mm = 26;

class Tree
{
  public:
    Tree(const job::Job& job, const std::vector<branches::Stretch>& stretches) : m_job(job), m_stretches(stretches) {}

    drawn::Figure made()
    {
        for (const std::string& root : roots())
            if (!m_seen.contains(root))
                lay(root, 0, m_job.branches.size());
        const double step = std::min(kMostStep_mm, (kWide_mm - kNames_mm - kStart_mm) / std::max(m_deepest, 1));
        drawn::Figure f{kWide_mm, (m_rows + 1) * kRow_mm, phrase("The harness"), phrase("How the harness branches")};
        const auto x = [&](int depth) { return kStart_mm + depth * step; };
        const auto y = [&](double row) { return (row + 1) * kRow_mm; };
        for (const Leg& leg : m_legs)
            stretch(f, leg, {x(leg.depth), y(leg.fromRow)}, {x(leg.depth + 1), y(leg.toRow)});
        for (const Spot& s : m_spots) {
            f.shapes.push_back({drawn::Disc{{x(s.depth), y(s.row)}, 0.9}, "place " + s.name});
            drawn::Words& name =
                f.words({x(s.depth) + (s.leaf ? 1.8 : -0.5), y(s.row) + (s.leaf ? 0.9 : -1.6)}, s.name, 2.4);
            name.bold = true;
            if (!s.leaf)
                name.align = drawn::Align::Right;
        }
        return f;
    }

  private:
    struct Spot
    {
        std::string name;
        int depth = 0;
        double row = 0;
        bool leaf = false;
    };
    struct Leg
    {
        int depth = 0; ///< of its beginning
        double fromRow = 0, toRow = 0;
        size_t branch = 0;
    };

    std::vector<std::string> roots() const
    {
        std::vector<std::string> out;
        for (const job::Connector& c : m_job.connectors)
            if (c.kind == job::ConnectorKind::Ecu && std::ranges::any_of(m_job.branches, [&](const job::Branch& b) {
                    return b.from == c.id || b.to == c.id;
                }))
                out.push_back(c.id);
        for (const job::Branch& b : m_job.branches)
            out.push_back(b.from);
        return out;
    }
    /// The halves of an inline pair are one place.
    std::vector<std::string> sameAs(const std::string& place) const
    {
        const job::Connector* c = job::findConnector(m_job, place);
        if (c == nullptr || c->kind != job::ConnectorKind::Inline)
            return {place};
        return {place, c->mates};
    }
    /// Lays what hangs on a place; the row it stands in.
    double lay(const std::string& place, int depth, size_t came)
    {
        const auto names = sameAs(place);
        std::string shown;
        for (const std::string& n : names) {
            m_seen.insert(n);
            shown += (shown.empty() ? "" : " ") + n;
        }
        m_deepest = std::max(m_deepest, depth);
        const size_t spot = m_spots.size();
        m_spots.push_back({shown, depth, 0, false});
        std::vector<Leg> legs;
        for (size_t b = 0; b < m_job.branches.size(); ++b) {
            const job::Branch& branch = m_job.branches[b];
            const bool here = std::ranges::count(names, branch.from) > 0,
                       there = std::ranges::count(names, branch.to) > 0;
            const std::string& other = here ? branch.to : branch.from;
            if (b == came || here == there || m_seen.contains(other))
                continue;
            const double row = lay(other, depth + 1, b);
            legs.push_back({depth, 0, row, b});
        }
        Spot& own = m_spots[spot];
        own.leaf = legs.empty();
        own.row = legs.empty() ? m_rows++ : (legs.front().toRow + legs.back().toRow) / 2;
        for (Leg& leg : legs) {
            leg.fromRow = own.row;
            m_legs.push_back(leg);
        }
        return own.row;
    }
    void stretch(drawn::Figure& f, const Leg& leg, drawn::At from, drawn::At to) const
    {
        const job::Branch& b = m_job.branches[leg.branch];
        const double thick = std::clamp(m_stretches[leg.branch].dressing.bundle_m * 1e3 * 0.15, 0.3, 2.5);
        f.line({from, {from.x, to.y}, to}, Ink::Soft, thick);
        f.shapes.back().about = "branch " + b.from + " " + b.to;
        drawn::Words& words = f.words({(from.x + to.x) / 2, to.y - thick / 2 - 0.5},
                                      units::format(b.length_m, units::Dimension::Length, "m", 2), 1.9);
        words.align = drawn::Align::Middle;
        words.even = true;
        if (b.wall)
            f.box({(from.x + to.x) / 2 - 0.7, to.y - 2}, 1.4, 4, Ink::Paper, Ink::Line, 0.4);
    }

    const job::Job& m_job;
    const std::vector<branches::Stretch>& m_stretches;
    std::vector<Spot> m_spots;
    std::vector<Leg> m_legs;
    std::set<std::string> m_seen;
    double m_rows = 0;
    int m_deepest = 0;
};

} // namespace

drawn::Figure harnessFigure(const job::Job& job, const std::vector<branches::Stretch>& stretches)
{
    return Tree(job, stretches).made();
}

} // namespace vicegrip::book
