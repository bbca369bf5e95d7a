#include "core/wires/colour_plan.h"

#include "core/base/joined.h"
#include "core/base/phrase.h"
#include <algorithm>
#include <array>
#include <cmath>
#include <set>

namespace vicegrip::wires {
namespace {

using job::PointRef;

/// Signals have neither red nor black nor brown: those are feeds and returns (common practice).
constexpr std::array kSignals = {"BU",    "GN",    "YE",    "OG",    "VT",    "WH",    "GY",    "PK",    "BU/WH",
                                 "GN/WH", "YE/BK", "OG/BK", "VT/WH", "WH/BK", "GY/BK", "PK/BK", "BU/YE", "GN/BK"};
constexpr std::array kFeeds = {"RD", "RD/WH", "RD/BU", "RD/GN", "RD/YE", "RD/BK"};
constexpr std::array kReturns = {"BK", "BK/WH", "BN", "BN/WH", "BK/YE", "BN/BK"};

/// Wires that are one conductor, numbered.
class Conductors
{
  public:
    explicit Conductors(const job::Job& job)
    {
        Joined<PointRef> places;
        for (const job::Wire& w : job.wires)
            places.join(w.from, w.to);
        for (const job::Connector& c : job.connectors)
            if (c.kind == job::ConnectorKind::Inline && c.id < c.mates)
                for (const std::string& cavity : c.cavities)
                    places.join({c.id, cavity}, {c.mates, cavity});
        for (const job::Wire& w : job.wires) {
            m_of[w.id] = places.of(w.from);
            m_wires[m_of[w.id]].push_back(&w);
        }
    }
    [[nodiscard]] int of(const job::WireId& wire) const { return m_of.at(wire); }
    [[nodiscard]] const std::vector<const job::Wire*>& wires(const job::WireId& wire) const
    {
        return m_wires.at(of(wire));
    }

  private:
    std::map<job::WireId, int> m_of;
    std::map<int, std::vector<const job::Wire*>> m_wires;
};

/// Cavities side by side, row above row or corner to corner.
bool neighbours(const parts::Cavity& a, const parts::Cavity& b, const parts::Layout& layout)
{
    constexpr double kReach = 1.2;
    return std::abs(a.x_m - b.x_m) <= kReach * layout.pitch_m && std::abs(a.y_m - b.y_m) <= kReach * layout.rowPitch_m;
}

/// Wires by the cavity they end in.
std::map<PointRef, std::vector<const job::Wire*>> endings(const job::Job& job)
{
    std::map<PointRef, std::vector<const job::Wire*>> out;
    for (const job::Wire& w : job.wires) {
        out[w.from].push_back(&w);
        out[w.to].push_back(&w);
    }
    return out;
}

template <class Palette> std::string leastUsed(const Palette& palette, const std::map<std::string, int>& taken)
{
    const auto uses = [&](const char* colour) {
        const auto it = taken.find(colour);
        return it == taken.end() ? 0 : it->second;
    };
    return *std::ranges::min_element(palette, {}, uses); // the first of them
}

bool isOf(std::string_view colour, std::string_view first)
{
    return colour.substr(0, 2) == first;
}

} // namespace

std::map<job::WireId, ColourAdvice> adviseColours(const job::Job& job)
{
    const Conductors conductors(job);
    const auto ending = endings(job);
    std::map<job::WireId, std::string> colours;
    for (const job::Wire& w : job.wires)
        colours[w.id] = w.colour;
    // Wires side by side, once each; the later of the two gives way.
    std::map<job::WireId, std::set<job::WireId>> beside;
    std::map<std::pair<job::WireId, job::WireId>, PointRef> where;
    for (const job::Connector& c : job.connectors) {
        const parts::Layout face = job::faceOf(c);
        const std::vector<parts::Cavity> places = parts::cavities(face);
        for (size_t i = 0; i < places.size(); ++i) {
            const auto here = ending.find({c.id, places[i].name});
            if (here == ending.end())
                continue;
            for (size_t k = i + 1; k < places.size(); ++k) {
                const auto there = ending.find({c.id, places[k].name});
                if (there == ending.end() || !neighbours(places[i], places[k], face))
                    continue;
                for (const job::Wire* a : here->second)
                    for (const job::Wire* b : there->second)
                        if (conductors.of(a->id) != conductors.of(b->id)) {
                            beside[a->id].insert(b->id);
                            beside[b->id].insert(a->id);
                            where[{a->id, b->id}] = there->first;
                            where[{b->id, a->id}] = here->first;
                        }
            }
        }
    }
    std::map<job::WireId, ColourAdvice> out;
    for (const job::Wire& w : job.wires)
        out[w.id] = {w.colour, {}};
    for (const job::Wire& w : job.wires) {
        const auto clash = std::ranges::find_if(beside[w.id], [&](const job::WireId& other) {
            return !w.colour.empty() && colours[other] == colours[w.id];
        });
        if (clash == beside[w.id].end())
            continue;
        // One colour for the whole conductor: none that lies beside any of its wires.
        std::map<std::string, int> taken;
        for (const job::Wire* own : conductors.wires(w.id))
            for (const job::WireId& other : beside[own->id])
                ++taken[colours[other]];
        const std::string better = isOf(w.colour, "RD")                           ? leastUsed(kFeeds, taken)
                                   : isOf(w.colour, "BK") || isOf(w.colour, "BN") ? leastUsed(kReturns, taken)
                                                                                  : leastUsed(kSignals, taken);
        const std::string said =
            phrase("{} beside it in {} is {} too", clash->value, where[{w.id, *clash}].text(), colours[w.id]);
        if (taken[better] > 0) {
            out[w.id] = {colours[w.id], phrase("{}; no colour is left that none beside it has", said)};
            continue;
        }
        for (const job::Wire* own : conductors.wires(w.id)) {
            colours[own->id] = better;
            out[own->id] = {better, own->id == w.id ? said : phrase("one conductor with {}", w.id.value)};
        }
    }
    return out;
}

std::string freeColour(const job::Job& job, const PointRef& from, const PointRef& to)
{
    std::map<std::string, int> taken;
    for (const job::Wire& w : job.wires)
        for (const PointRef* end : {&w.from, &w.to})
            if (end->owner == from.owner || end->owner == to.owner)
                ++taken[w.colour];
    return leastUsed(kSignals, taken);
}

} // namespace vicegrip::wires
