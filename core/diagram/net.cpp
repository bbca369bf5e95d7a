#include "core/diagram/net.h"

#include "core/base/phrase.h"
#include "core/electrics/wiring.h"
#include "core/units/units.h"

#include <algorithm>
#include <array>
#include <iterator>
#include <map>
#include <optional>
#include <set>
#include <utility>

namespace vicegrip::diagram {
namespace {

using parts::PartUse;

constexpr size_t kMostLinks = 22;

/// Circuits that are drawn on one sheet.
struct Kind
{
    const char* name;
    const char* title;
    std::vector<PartUse> uses;
};

const std::vector<Kind>& kinds()
{
    using enum PartUse;
    static const std::vector<Kind> kKinds = {
        {"triggers", key("Crank, cam and speed"), {CrankTrigger, CamTrigger, PartUse::Speed}},
        {"temperatures", key("Temperatures"), {FluidTemperature, AirTemperature, ExhaustTemperature}},
        {"pressures", key("Pressures"), {ManifoldPressure, FluidPressure}},
        {"positions", key("Positions and switches"), {Throttle, Pedal, Level, GearPosition, PartUse::Switch}},
        {"air-and-fuel", key("Air and fuel"), {FlexFuel, AirMass, Wideband, Other}},
        {"injectors", key("Injectors"), {Injector}},
        {"ignition", key("Ignition"), {IgnitionCoil, IgnitionModule}},
        {"bus", key("CAN bus"), {BusDevice}},
        {"outputs", key("Other outputs"), {}},
    };
    return kKinds;
}

const Kind& kindOf(PartUse use)
{
    const auto it = std::ranges::find_if(kinds(), [&](const Kind& k) { return std::ranges::count(k.uses, use) > 0; });
    return it == kinds().end() ? kinds().back() : *it;
}

/// A sheet's links, each once and in the job's order.
class Gathered
{
  public:
    explicit Gathered(const std::vector<Link>& links) : m_links(links) {}

    void add(const std::set<size_t>& more) { m_taken.insert(more.begin(), more.end()); }
    [[nodiscard]] size_t with(const std::set<size_t>& more) const
    {
        std::set<size_t> all = m_taken;
        all.insert(more.begin(), more.end());
        return all.size();
    }
    [[nodiscard]] bool empty() const { return m_taken.empty(); }
    std::vector<Link> take()
    {
        std::vector<Link> out;
        for (const size_t i : m_taken)
            out.push_back(m_links[i]);
        m_taken.clear();
        return out;
    }

  private:
    const std::vector<Link>& m_links;
    std::set<size_t> m_taken;
};

class Sheets
{
  public:
    explicit Sheets(const job::Job& job) : m_job(job), m_links(linksOf(job))
    {
        for (size_t i = 0; i < m_links.size(); ++i)
            for (const job::PointRef& end : {m_links[i].from, m_links[i].to})
                m_at[end].push_back(i);
        for (const job::Connector& c : job.connectors)
            if (c.kind == job::ConnectorKind::Inline)
                m_mates[c.id] = c.mates;
    }

    std::vector<Sheet> all()
    {
        posts("power", phrase("Power"), [](const job::Joint& j) { return j.kind == job::JointKind::BatteryPositive; });
        posts("grounds", phrase("Grounds"),
              [](const job::Joint& j) { return job::isFixture(&j) && j.kind != job::JointKind::BatteryPositive; });
        circuits();
        for (const job::Connector& c : m_job.connectors)
            if (c.kind == job::ConnectorKind::Ecu)
                plug(c);
        for (const job::Connector& c : m_job.connectors)
            if (c.kind == job::ConnectorKind::Inline && c.id < c.mates)
                bulkhead(c);
        rest();
        return std::move(m_sheets);
    }

  private:
    /// Every link from a place to where plugs and fixtures end the way; `ends`, where given, takes those ends. Through
    /// bulkheads, or up to them.
    std::set<size_t> reach(const job::PointRef& start, bool throughPairs = true,
                           std::set<std::string>* ends = nullptr) const
    {
        std::set<size_t> out;
        std::set<job::PointRef> seen{start};
        std::vector<job::PointRef> open{start};
        while (!open.empty()) {
            const job::PointRef at = open.back();
            open.pop_back();
            const auto links = m_at.find(at);
            if (links == m_at.end())
                continue;
            for (const size_t i : links->second) {
                out.insert(i);
                const job::PointRef& other = m_links[i].from == at ? m_links[i].to : m_links[i].from;
                if (!seen.insert(other).second)
                    continue;
                addLoads(other, out);
                if (!goesOn(other) || (!throughPairs && m_mates.contains(other.owner))) {
                    if (ends != nullptr)
                        ends->insert(other.owner);
                } else {
                    open.push_back(other);
                    if (const auto mate = m_mates.find(other.owner); mate != m_mates.end())
                        open.push_back({mate->second, other.cavity});
                }
            }
        }
        return out;
    }
    /// What is fed there hangs in its plug, between two of its cavities.
    void addLoads(const job::PointRef& place, std::set<size_t>& to) const
    {
        if (const auto links = m_at.find(place); links != m_at.end())
            for (const size_t i : links->second)
                if (m_links[i].kind == LinkKind::Load)
                    to.insert(i);
    }
    bool goesOn(const job::PointRef& place) const
    {
        return m_mates.contains(place.owner) ||
               (place.cavity.empty() && !job::isFixture(job::findJoint(m_job, place.owner)));
    }

    /// What stands on one sheet together.
    struct Piece
    {
        std::set<size_t> links;
        std::optional<job::CircuitId> circuit = std::nullopt; ///< that it is the whole of
    };

    void put(const Sheet& sheet, const std::vector<Piece>& pieces)
    {
        std::vector<Sheet> pages;
        Gathered gathered(m_links);
        std::vector<job::CircuitId> whole;
        const auto close = [&] {
            if (gathered.empty())
                return;
            pages.push_back(sheet);
            pages.back().links = gathered.take();
            pages.back().circuits = std::exchange(whole, {});
        };
        for (const Piece& piece : pieces) {
            if (gathered.with(piece.links) > kMostLinks)
                close();
            gathered.add(piece.links);
            if (piece.circuit)
                whole.push_back(*piece.circuit);
        }
        close();
        for (size_t i = 0; i < pages.size(); ++i) {
            if (pages.size() > 1) {
                const std::string n = std::to_string(i + 1);
                pages[i].name += "-" + n;
                pages[i].title = phrase("{}, {} of {}", pages[i].title, n, std::to_string(pages.size()));
            }
            m_sheets.push_back(std::move(pages[i]));
        }
    }

    template <class Is> void posts(const char* name, std::string title, Is is)
    {
        Sheet sheet{name, std::move(title), {}, {}, false, {}};
        std::vector<Piece> pieces;
        for (const job::Joint& j : m_job.joints)
            if (is(j)) {
                sheet.first.push_back(j.id);
                if (const auto links = m_at.find({j.id, {}}); links != m_at.end())
                    for (const size_t i : links->second) {
                        const job::PointRef& other = m_links[i].from.owner == j.id ? m_links[i].to : m_links[i].from;
                        std::set<size_t> piece = goesOn(other) ? reach(other) : std::set<size_t>{};
                        piece.insert(i);
                        pieces.push_back({std::move(piece)});
                    }
            }
        put(sheet, pieces);
    }

    void circuits()
    {
        std::map<std::string, size_t> byAbout;
        for (size_t i = 0; i < m_links.size(); ++i)
            byAbout.emplace(m_links[i].about, i);
        const auto paths = electrics::Wiring(m_job).paths();
        for (const Kind& kind : kinds()) {
            Sheet sheet{kind.name, phrase(kind.title), {}, {}, false, {}};
            std::vector<Piece> pieces;
            for (size_t c = 0; c < m_job.circuits.size(); ++c) {
                const parts::Part* part = job::partOf(m_job, m_job.circuits[c]);
                if (part == nullptr || &kindOf(part->kind) != &kind)
                    continue;
                std::set<size_t> piece;
                for (const electrics::Path& path : paths[c])
                    for (const std::string& subject : path.subjects)
                        if (const auto it = byAbout.find(subject); it != byAbout.end())
                            piece.insert(it->second);
                if (piece.empty())
                    continue;
                if (const job::Device* d = job::find(m_job, m_job.circuits[c].device);
                    d != nullptr && std::ranges::find(sheet.first, d->connector) == sheet.first.end())
                    sheet.first.push_back(d->connector);
                pieces.push_back({std::move(piece), m_job.circuits[c].id});
            }
            put(sheet, pieces);
        }
    }

    void plug(const job::Connector& c)
    {
        Sheet sheet{"plug-" + c.id, job::spoken(m_job, {c.id, {}}), {}, {blockOf(m_job, {c.id, {}})}, true, {}};
        std::vector<Piece> pieces;
        for (const std::string& cavity : c.cavities) {
            std::set<size_t> piece = reach({c.id, cavity});
            if (!piece.empty())
                pieces.push_back({std::move(piece)});
        }
        put(sheet, pieces);
    }

    /// What comes to it from the car stands at its left, what goes on to the units at its right.
    void bulkhead(const job::Connector& c)
    {
        Sheet sheet{"bulkhead-" + c.id, phrase("Bulkhead {} and {}", c.id, c.mates), {}, {}, false, {}};
        std::vector<Piece> pieces;
        std::array<std::set<std::string>, 2> ends;
        for (const std::string& cavity : c.cavities) {
            std::set<size_t> piece = reach({c.id, cavity}, false, &ends[0]);
            piece.merge(reach({c.mates, cavity}, false, &ends[1]));
            if (!piece.empty())
                pieces.push_back({std::move(piece)});
        }
        const auto hasUnit = [&](const std::string& block) {
            const job::Connector* plug = job::findConnector(m_job, block);
            return plug != nullptr && plug->kind == job::ConnectorKind::Ecu;
        };
        const auto& left = std::ranges::any_of(ends[0], hasUnit) ? ends[1] : ends[0];
        std::ranges::copy_if(left, std::back_inserter(sheet.first), [&](const auto& b) { return !hasUnit(b); });
        put(sheet, pieces);
    }

    /// What hangs on nothing that has a sheet: wires of a harness that came with more than the job has.
    void rest()
    {
        std::set<std::string> drawn;
        for (const Sheet& sheet : m_sheets)
            for (const Link& l : sheet.links)
                drawn.insert(l.about);
        Sheet sheet{"rest", phrase("What is on no other sheet"), {}, {}, false, {}};
        std::vector<Piece> pieces;
        for (size_t i = 0; i < m_links.size(); ++i)
            if (!drawn.contains(m_links[i].about)) {
                sheet.first.push_back(blockOf(m_job, m_links[i].from));
                pieces.push_back({{i}});
            }
        put(sheet, pieces);
    }

    const job::Job& m_job;
    std::vector<Link> m_links;
    std::map<job::PointRef, std::vector<size_t>> m_at;
    std::map<std::string, std::string> m_mates;
    std::vector<Sheet> m_sheets;
};

LinkKind kindOf(job::SwitchKind kind)
{
    return kind == job::SwitchKind::Fuse ? LinkKind::Fuse : LinkKind::Contact;
}

} // namespace

std::vector<Link> linksOf(const job::Job& job)
{
    std::vector<Link> out;
    for (const job::Wire& w : job.wires)
        out.push_back({LinkKind::Wire, "wire " + w.id.value,
                       w.id.value + " " + w.colour + " " + units::shortest(w.area_m2 * 1e6), w.colour, w.from, w.to});
    for (const job::Switch& s : job.switches)
        out.push_back({kindOf(s.kind), "switch " + s.id, s.label.empty() ? s.id : s.label, {}, s.from, s.to});
    for (const job::Resistor& r : job.resistors)
        out.push_back(
            {LinkKind::Resistor, "resistor " + r.id, r.id + " " + units::formatOhms(r.ohm), {}, r.from, r.to});
    for (const job::Load& l : job.loads)
        out.push_back({LinkKind::Load, "load " + l.id, l.label.empty() ? l.id : l.label, {}, l.from, l.to});
    return out;
}

std::string blockOf(const job::Job& job, const job::PointRef& place)
{
    const job::Connector* c = job::findConnector(job, place.owner);
    if (c == nullptr || c->kind != job::ConnectorKind::Inline || c->mates.empty())
        return place.owner;
    return std::min(c->id, c->mates) + "|" + std::max(c->id, c->mates);
}

std::vector<Sheet> sheetsOf(const job::Job& job)
{
    return Sheets(job).all();
}

} // namespace vicegrip::diagram
