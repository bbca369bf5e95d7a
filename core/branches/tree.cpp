#include "core/branches/tree.h"

#include "core/base/csv.h"
#include "core/base/joined.h"
#include "core/base/phrase.h"
#include "core/base/typed_text.h"
#include "core/parts/conductor.h"
#include "core/units/units.h"
#include "core/wires/wire_typed.h"

#include <algorithm>
#include <queue>
#include <sstream>

namespace vicegrip::branches {
namespace {

bool isPost(const job::Job& job, const std::string& owner)
{
    const job::Joint* j = job::findJoint(job, owner);
    return j != nullptr && (j->kind == job::JointKind::BatteryPositive || j->kind == job::JointKind::BatteryNegative);
}

/// The halves of an inline pair are one place.
std::string placeOf(const job::Job& job, const std::string& owner)
{
    const job::Connector* c = job::findConnector(job, owner);
    return c != nullptr && c->kind == job::ConnectorKind::Inline ? std::min(c->id, c->mates) : owner;
}

} // namespace

Tree::Tree(const job::Job& job) : m_job(job)
{
    const auto join = [&](const std::string& a, const std::string& b, std::optional<size_t> branch) {
        m_hops[a].push_back({b, branch});
        m_hops[b].push_back({a, branch});
    };
    for (size_t i = 0; i < job.branches.size(); ++i)
        join(job.branches[i].from, job.branches[i].to, i);
    for (const job::Connector& c : job.connectors)
        if (c.kind == job::ConnectorKind::Inline && c.id < c.mates)
            join(c.id, c.mates, std::nullopt);
}

std::optional<std::vector<size_t>> Tree::way(const std::string& from, const std::string& to) const
{
    if (!m_hops.contains(from) || !m_hops.contains(to))
        return std::nullopt;
    struct Came
    {
        std::string from;
        std::optional<size_t> branch;
    };
    std::map<std::string, Came> came = {{to, {}}};
    std::queue<std::string> open({to}); // backwards, so that the way comes out in order
    while (!open.empty() && !came.contains(from)) {
        const std::string at = open.front();
        open.pop();
        for (const Hop& hop : m_hops.at(at))
            if (came.try_emplace(hop.to, Came{at, hop.branch}).second)
                open.push(hop.to);
    }
    if (!came.contains(from))
        return std::nullopt;
    std::vector<size_t> out;
    for (std::string at = from; at != to; at = came[at].from)
        if (const auto& branch = came[at].branch)
            out.push_back(*branch);
    return out;
}

std::optional<double> Tree::length_m(const job::Wire& wire) const
{
    const auto along = way(wire.from.owner, wire.to.owner);
    if (!along || along->empty())
        return std::nullopt;
    double sum = 0;
    for (size_t b : *along)
        sum += m_job.branches[b].length_m;
    return sum;
}

namespace {

/// The smallest circle round wires of these diameters, which are sorted. Packing takes some ten milliseconds, stretches
/// of a trunk often hold the same wires, and an edit changes few of them: each is packed once.
double packedDiameter(const std::vector<double>& diameters_m)
{
    constexpr size_t kMostKept = 500;
    thread_local std::map<std::vector<double>, double> kept;
    if (kept.size() >= kMostKept)
        kept.clear();
    const auto [it, added] = kept.try_emplace(diameters_m, 0);
    if (added)
        it->second = pack(diameters_m).diameter_m;
    return it->second;
}

} // namespace

std::vector<Stretch> stretches(const job::Job& job)
{
    const Tree tree(job);
    std::vector<Stretch> out(job.branches.size());
    std::vector<std::vector<double>> diameters(out.size());
    for (const job::Wire& w : job.wires)
        for (size_t b : tree.way(w.from.owner, w.to.owner).value_or(std::vector<size_t>{})) {
            out[b].wires.push_back(w.id);
            diameters[b].push_back(parts::outerDiameter(w.area_m2));
        }
    for (size_t b = 0; b < out.size(); ++b) {
        if (diameters[b].empty())
            continue;
        std::ranges::sort(diameters[b]);
        out[b].packed_m = packedDiameter(diameters[b]);
        out[b].dressing = dress(out[b].packed_m);
    }
    return out;
}

std::string toCsv(const job::Job& job, const std::vector<Stretch>& stretches)
{
    const auto mm = [](double m) { return m > 0 ? units::formatNumber(m * 1e3, 1) : std::string(); };
    std::string out = csv::row({"from", "to", "length_m", "wall", "wires", "bundle_mm", "sleeve_mm", "shrink_before_mm",
                                "shrink_after_mm", "grommet_mm", "wall_hole_mm"});
    for (size_t i = 0; i < stretches.size(); ++i) {
        const job::Branch& b = job.branches[i];
        const Dressing& d = stretches[i].dressing;
        out +=
            csv::row({b.from, b.to, units::formatNumber(b.length_m, 2), b.wall ? "yes" : "no",
                      std::to_string(stretches[i].wires.size()), mm(d.bundle_m), mm(d.sleeve_m), mm(d.shrinkSupplied_m),
                      mm(d.shrinkRecovered_m), b.wall ? mm(d.hole_m) : "", b.wall ? mm(d.wall_m) : ""});
    }
    return out;
}

Result<void> setBranchLength(job::Job& job, size_t branch, double length_m)
{
    if (branch >= job.branches.size())
        return fail(ErrorCode::Reference, phrase("the harness has no such stretch"));
    std::map<job::WireId, double> beyond;
    {
        const Tree before(job);
        for (const job::Wire& w : job.wires)
            if (const auto way = before.way(w.from.owner, w.to.owner);
                way && std::ranges::find(*way, branch) != way->end())
                beyond[w.id] = std::max(0.0, w.length_m - *before.length_m(w));
    }
    job.branches[branch].length_m = length_m;
    const Tree now(job);
    for (job::Wire& w : job.wires)
        if (const auto it = beyond.find(w.id); it != beyond.end())
            w.length_m = *now.length_m(w) + it->second;
    return {};
}

Result<job::Branch> branchTyped(const job::Job& job, std::string_view typed)
{
    std::istringstream words{typed::withPoints(std::string(typed))};
    const auto place = [&]() -> Result<std::string> {
        std::string word;
        do {
            if (!(words >> word))
                return fail(ErrorCode::Malformed, phrase("expected two places and a length, such as Y2 CLT 40 cm"));
            std::erase(word, ',');
        } while (word.empty() || word == "to" || word == "-" || word == "–");
        for (const job::Connector& c : job.connectors)
            if (typed::lower(c.id) == typed::lower(word))
                return c.id;
        for (const job::Joint& j : job.joints)
            if (typed::lower(j.id) == typed::lower(word))
                return j.id;
        const bool name = word.size() <= 40 && std::ranges::all_of(word, [](char c) {
                              return (c >= '0' && c <= '9') || (c >= 'A' && c <= 'Z') || (c >= 'a' && c <= 'z') ||
                                     c == '-' || c == '_';
                          });
        if (!name)
            return fail(ErrorCode::Malformed, phrase("\"{}\" is no name of a place: letters, figures, - and _", word));
        return word;
    };
    job::Branch out;
    return place()
        .and_then([&](const std::string& from) {
            out.from = from;
            return place();
        })
        .and_then([&](const std::string& to) {
            out.to = to;
            std::string rest;
            std::getline(words, rest);
            return wires::lengthShown(typed::trimmed(rest));
        })
        .map([&](double m) {
            out.length_m = m;
            return out;
        });
}

std::vector<job::Branch> proposeBranches(const job::Job& job)
{
    std::vector<const job::Wire*> wires;
    for (const job::Wire& w : job.wires)
        if (!isPost(job, w.from.owner) && !isPost(job, w.to.owner))
            wires.push_back(&w);
    std::ranges::stable_sort(wires, {}, [](const job::Wire* w) { return w->length_m; });
    Joined<std::string> joined;
    std::vector<job::Branch> out;
    for (const job::Wire* w : wires)
        if (joined.join(placeOf(job, w->from.owner), placeOf(job, w->to.owner)))
            out.push_back({w->from.owner, w->to.owner, w->length_m});
    return out;
}

} // namespace vicegrip::branches
