#include "core/base/phrase.h"
#include "core/lists/taking.h"

#include <algorithm>
#include <map>

namespace vicegrip::lists {
namespace {

using job::PointRef;

struct Listed
{
    std::map<PointRef, int> places; ///< that the list speaks of, and in which line
    std::map<std::string, std::map<PointRef, int>> wires; ///< where each wire stands, and in which line
};

Listed listed(Taking& taking, const std::vector<Row>& rows)
{
    Listed out;
    for (const Row& r : rows) {
        const auto cell = [&](const char* column) { return cellOf(r, column).value_or(""); };
        const std::string wire = cell("wire");
        const job::Connector* plug = job::findConnector(taking.job, cell("plug"));
        const PointRef at{cell("plug"), cell("cavity")};
        if (plug == nullptr)
            taking.stop(r.line, phrase("no plug is called \"{}\"", at.owner));
        else if (std::ranges::find(plug->cavities, at.cavity) == plug->cavities.end())
            taking.stop(r.line, phrase("{} has no cavity {}", at.owner, at.cavity));
        else if (!wire.empty() && std::ranges::find(taking.job.wires, wire, [](const job::Wire& w) {
                                      return w.id.value;
                                  }) == taking.job.wires.end())
            taking.stop(r.line, phrase("no wire is called {}: a new one is drawn in the list of wires", wire));
        else if (out.places.emplace(at, r.line); !wire.empty() && !out.wires[wire].emplace(at, r.line).second)
            taking.stop(r.line, phrase("{} stands in line {} too, in the same cavity", wire,
                                       std::to_string(out.wires[wire][at])));
    }
    return out;
}

/// Its ends that the list moves: from where it was to where it stands now, first within the same plug.
void move(Taking& taking, job::Wire& wire, const Listed& list)
{
    static const std::map<PointRef, int> kNowhere;
    const auto it = list.wires.find(wire.id.value);
    const std::map<PointRef, int>& now = it == list.wires.end() ? kNowhere : it->second;
    std::vector<PointRef*> from;
    std::vector<std::pair<PointRef, int>> to;
    for (PointRef* end : {&wire.from, &wire.to})
        if (list.places.contains(*end) && !now.contains(*end))
            from.push_back(end);
    for (const auto& [at, line] : now)
        if (at != wire.from && at != wire.to)
            to.emplace_back(at, line);
    if (to.size() > from.size())
        return taking.stop(to.back().second,
                           phrase("{} has both its ends elsewhere already, at {} and {}: list the cavity it comes out "
                                  "of as well",
                                  wire.id.value, wire.from.text(), wire.to.text()));
    if (to.size() < from.size())
        return taking.stop(list.places.at(*from.front()),
                           phrase("{} comes out of {} and goes nowhere: give it a cavity, or take it out in the list "
                                  "of wires",
                                  wire.id.value, from.front()->text()));
    for (PointRef* end : from) {
        auto into = std::ranges::find(to, end->owner, [](const auto& t) { return t.first.owner; });
        if (into == to.end())
            into = to.begin();
        *end = into->first;
        to.erase(into);
    }
}

} // namespace

void takeCavities(Taking& taking, const std::vector<Row>& rows)
{
    const Listed list = listed(taking, rows);
    if (std::ranges::any_of(taking.notes, &Note::stops))
        return;
    for (job::Wire& wire : taking.job.wires)
        move(taking, wire, list);
}

} // namespace vicegrip::lists
