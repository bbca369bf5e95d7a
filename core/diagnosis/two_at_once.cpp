#include "core/diagnosis/two_at_once.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <tuple>

namespace vicegrip::diagnosis {
namespace {

/// What a suspect alone makes of one reading.
struct Alone
{
    double log = 0; ///< of its density
    bool moves = false; ///< it reads otherwise than in a sound car
};

std::vector<std::vector<Alone>> alone(const std::vector<std::vector<Prediction>>& predicted,
                                      const std::vector<Evidence>& evidence, const std::vector<double>& spans)
{
    std::vector<std::vector<Alone>> out(predicted.size());
    for (size_t s = 0; s < predicted.size(); ++s)
        for (const Evidence& e : evidence)
            out[s].push_back({std::log(Track(predicted[s], spans).take(e)),
                              !looksAlike(predicted[s][e.spot], predicted.front()[e.spot])});
    return out;
}

double ofBoth(const std::vector<Alone>& one, const std::vector<Alone>& other)
{
    double log = 0;
    for (size_t e = 0; e < one.size(); ++e)
        log += one[e].moves == other[e].moves ? std::max(one[e].log, other[e].log)
               : one[e].moves                 ? one[e].log
                                              : other[e].log;
    return log;
}

/// Two that a car can have both of.
bool go(const Suspect& one, const Suspect& other)
{
    return one.subjects.empty() || one.subjects != other.subjects;
}

} // namespace

std::vector<Pair> likelyPairs(const std::vector<Suspect>& suspects,
                              const std::vector<std::vector<Prediction>>& predicted,
                              const std::vector<Evidence>& evidence, const std::vector<double>& spans, size_t most)
{
    const auto of = alone(predicted, evidence, spans);
    std::vector<std::string> series;
    for (size_t s = 0; s < suspects.size(); ++s)
        series.push_back(suspects[s].series.empty() ? std::to_string(s) : suspects[s].series);
    std::map<std::pair<std::string_view, std::string_view>, std::tuple<double, size_t, size_t>> best;
    for (size_t a = 1; a < suspects.size(); ++a)
        for (size_t b = a + 1; b < suspects.size(); ++b) {
            if (series[a] == series[b] || !go(suspects[a], suspects[b]))
                continue;
            const double log = ofBoth(of[a], of[b]) + std::log(suspects[a].weight) + std::log(suspects[b].weight);
            auto& known = best.try_emplace({series[a], series[b]}, log, a, b).first->second;
            if (log > std::get<0>(known))
                known = {log, a, b};
        }
    std::vector<std::tuple<double, size_t, size_t>> all;
    for (const auto& [names, pair] : best)
        all.push_back(pair);
    std::ranges::stable_sort(all, std::greater{}, [](const auto& p) { return std::get<0>(p); });
    std::vector<Pair> out;
    for (size_t i = 0; i < std::min(most, all.size()); ++i)
        out.emplace_back(std::get<1>(all[i]), std::get<2>(all[i]));
    return out;
}

Suspect both(const std::vector<Suspect>& suspects, const Pair& pair, const Families& families)
{
    const Suspect &one = suspects[pair.first], &other = suspects[pair.second];
    Suspect out{kTwoAtOnce, one.faults, phrase("Two at once. {}. {}", one.what, other.what),
                phrase("First: {} Then: {}", one.mend, other.mend), one.places};
    out.faults.insert(out.faults.end(), other.faults.begin(), other.faults.end());
    out.places.insert(out.places.end(), other.places.begin(), other.places.end());
    out.subjects = one.subjects;
    out.subjects.insert(other.subjects.begin(), other.subjects.end());
    out.raised = one.raised.empty() ? other.raised : one.raised;
    double all = 0, squares = 0;
    for (size_t s = 1; s < suspects.size(); ++s) {
        all += suspects[s].weight;
        squares += suspects[s].weight * suspects[s].weight;
    }
    const auto family = families.find(kTwoAtOnce);
    if (family != families.end() && all * all > squares)
        out.weight = family->second.weight * 2 * one.weight * other.weight / (all * all - squares);
    return out;
}

void growAsAlone(std::vector<Prediction>& ofPair, const std::vector<Prediction>& one,
                 const std::vector<Prediction>& other)
{
    for (size_t i = 0; i < ofPair.size(); ++i)
        ofPair[i].grown = std::abs(one[i].grown) > std::abs(other[i].grown) ? one[i].grown : other[i].grown;
}

} // namespace vicegrip::diagnosis
