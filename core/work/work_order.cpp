#include "core/work/work_order.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <map>
#include <queue>
#include <set>

namespace vicegrip::work {
namespace {

constexpr size_t kMostStates = 20000; ///< looked at before the search is left at what it has

/// Steps by number, with their places numbered too.
struct Work
{
    std::vector<int> place;
    std::vector<std::vector<size_t>> after;
    int places = 0;
};

struct State
{
    std::vector<bool> done;
    int place = -1;
    int visits = 0;
    size_t left = 0;
    int from = -1; ///< the state before
};

Result<Work> read(const std::vector<Step>& steps)
{
    const auto bad = [](ErrorCode code, size_t n, std::string sentence) -> Result<Work> {
        return fail(code, std::move(sentence), {{}, "/" + std::to_string(n) + "/after", 0, 0});
    };
    Work work;
    std::map<std::string, size_t> ids;
    std::map<std::string, int> places;
    for (size_t n = 0; n < steps.size(); ++n) {
        if (!ids.emplace(steps[n].id, n).second)
            return bad(ErrorCode::Reference, n, phrase("the step \"{}\" is there twice", steps[n].id));
        work.place.push_back(places.emplace(steps[n].place, static_cast<int>(places.size())).first->second);
    }
    work.places = static_cast<int>(places.size());
    for (size_t n = 0; n < steps.size(); ++n) {
        auto& before = work.after.emplace_back();
        for (const std::string& id : steps[n].after) {
            const auto it = ids.find(id);
            if (it == ids.end())
                return bad(ErrorCode::Reference, n, phrase("there is no step \"{}\" to come after", id));
            before.push_back(it->second);
        }
    }
    return work;
}

/// Does all that can be done at a place; appends what was done, in the order it was.
void stay(const Work& work, State& state, std::vector<size_t>* order = nullptr)
{
    for (bool more = true; more;) {
        more = false;
        for (size_t n = 0; n < work.place.size(); ++n) {
            if (state.done[n] || work.place[n] != state.place ||
                !std::ranges::all_of(work.after[n], [&](size_t before) { return state.done[before]; }))
                continue;
            state.done[n] = true;
            --state.left;
            more = true;
            if (order != nullptr)
                order->push_back(n);
        }
    }
}

/// Visits that are still needed at least: one for each place with work. After staying, whatever is left at the present
/// place waits for something elsewhere, so it counts too.
int visitsLeft(const Work& work, const State& state)
{
    std::set<int> places;
    for (size_t n = 0; n < work.place.size(); ++n)
        if (!state.done[n])
            places.insert(work.place[n]);
    return static_cast<int>(places.size());
}

/// Places in turn, from the start to the state.
std::vector<int> placesTo(const std::vector<State>& states, int at)
{
    std::vector<int> out;
    for (; at >= 0 && states[static_cast<size_t>(at)].place >= 0; at = states[static_cast<size_t>(at)].from)
        out.push_back(states[static_cast<size_t>(at)].place);
    std::ranges::reverse(out);
    return out;
}

/// On from a state by going, each time, where most can be done.
void finishGreedily(const Work& work, State state, std::vector<int>& places)
{
    while (state.left > 0) {
        State best = state;
        for (int p = 0; p < work.places; ++p) {
            State there = state;
            there.place = p;
            stay(work, there);
            if (there.left < best.left)
                best = there;
        }
        state = best;
        places.push_back(state.place);
    }
}

} // namespace

Result<Order> order(const std::vector<Step>& steps)
{
    const auto read = work::read(steps);
    if (!read)
        return tl::make_unexpected(read.error());
    const Work& work = *read;
    State start;
    start.done.resize(steps.size());
    for (size_t n = 0; n < steps.size(); ++n)
        start.done[n] = steps[n].done;
    start.left = static_cast<size_t>(std::ranges::count(start.done, false));

    // Whether there is an order at all: everything ready, wherever it is, until nothing is.
    State all = start;
    for (size_t before = all.left + 1; all.left < before;) {
        before = all.left;
        for (all.place = 0; all.place < work.places; ++all.place)
            stay(work, all);
    }
    if (all.left > 0) {
        const auto stuck = static_cast<size_t>(std::ranges::find(all.done, false) - all.done.begin());
        return fail(ErrorCode::Range, phrase("\"{}\" waits for something that waits for it", steps[stuck].what),
                    {{}, "/" + std::to_string(stuck) + "/after", 0, 0});
    }

    std::vector<State> states = {start};
    std::map<std::pair<int, std::vector<bool>>, int> seen;
    using Entry = std::pair<std::pair<int, size_t>, int>; // visits at least, then work left; the state
    std::priority_queue<Entry, std::vector<Entry>, std::greater<>> open;
    open.push({{visitsLeft(work, start), start.left}, 0});
    std::vector<int> places;
    Order out;
    while (!open.empty()) {
        const int at = open.top().second;
        open.pop();
        const State here = states[static_cast<size_t>(at)];
        if (here.left == 0 || states.size() > kMostStates) {
            places = placesTo(states, at);
            finishGreedily(work, here, places);
            out.optimal = here.left == 0;
            break;
        }
        for (int p = 0; p < work.places; ++p) {
            if (p == here.place)
                continue;
            State there = here;
            there.place = p;
            there.from = at;
            ++there.visits;
            stay(work, there);
            if (there.left == here.left)
                continue;
            const auto [known, fresh] = seen.emplace(std::pair(p, there.done), there.visits);
            if (!fresh && known->second <= there.visits)
                continue;
            known->second = there.visits;
            open.push({{there.visits + visitsLeft(work, there), there.left}, static_cast<int>(states.size())});
            states.push_back(std::move(there));
        }
    }
    State walk = start;
    for (int p : places) {
        walk.place = p;
        stay(work, walk, &out.order);
    }
    out.moves = std::max(0, static_cast<int>(places.size()) - 1);
    return out;
}

} // namespace vicegrip::work
