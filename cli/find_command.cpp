#include "cli/printing.h"
#include "core/base/shipped.h"
#include "core/diagnosis/diagnosis.h"
#include "core/job/json.h"

#include <algorithm>
#include <iostream>

/// The command that looks for a fault.
namespace vicegrip::cli {
namespace {

constexpr auto& kConditions = fields::EnumNames<job::Condition>::kNames;

/// "A.11@key-on=0.03 V" in its parts, and the place of a circuit that it means.
struct Said
{
    std::string circuit; ///< "clt:value@...": empty where none is named
    std::string place, condition, value;
};

std::optional<Said> saidIn(const std::string& typed)
{
    const auto at = typed.find('@'), equals = typed.find('=', at == std::string::npos ? 0 : at);
    if (at == std::string::npos || equals == std::string::npos)
        return std::nullopt;
    Said out{{}, typed.substr(0, at), typed.substr(at + 1, equals - at - 1), typed.substr(equals + 1)};
    if (const auto colon = out.place.find(':'); colon != std::string::npos) {
        out.circuit = out.place.substr(0, colon);
        out.place = out.place.substr(colon + 1);
    }
    return out;
}

Result<diagnosis::Taken> takenFrom(const analysis::Analysis& analysis, const std::string& circuit,
                                   const std::string& typed)
{
    const auto said = saidIn(typed);
    if (!said)
        return fail(ErrorCode::Range, "expected PLACE@CONDITION=VALUE, such as A.11@key-on=0.03V: " + typed);
    const auto* condition =
        std::ranges::find(kConditions, said->condition, &std::pair<job::Condition, std::string_view>::second);
    if (condition == std::end(kConditions))
        return fail(ErrorCode::Range, "there is no condition \"" + said->condition + "\"");
    const std::string wanted = said->circuit.empty() ? circuit : said->circuit;
    for (const bool anybody : {false, true}) // of the circuit that is meant, else of whoever has the place
        for (const job::Circuit& c : analysis.job->circuits) {
            if (!anybody && c.id.value != wanted)
                continue;
            for (const proof::Standing& s : analysis::standings(analysis, c.id, condition->first))
                if (s.place.station.key == said->place && s.place.promises())
                    return proof::parseReading(s.place, said->value).map([&](const job::Reading& reading) {
                        return diagnosis::Taken{c.id, s.place.station.key, reading};
                    });
        }
    return fail(ErrorCode::Reference, "nothing can be read at \"" + said->place + "\" with " + said->condition);
}

Json shareOf(const diagnosis::Diagnosis& d, const diagnosis::Group& g)
{
    Json members = Json::array();
    for (const size_t s : g.members)
        members.push_back({{"what", d.suspects[s].what},
                           {"family", d.suspects[s].family},
                           {"share", d.belief[s]},
                           {"raised", d.suspects[s].raised},
                           {"mend", d.suspects[s].mend}});
    return {{"share", g.share}, {"members", members}};
}

std::string percent(double share)
{
    return units::formatNumber(100 * share, share > 0.995 ? 1 : 0) + " %";
}

void print(const diagnosis::Diagnosis& d, size_t next)
{
    constexpr size_t kShown = 3;
    for (size_t g = 0; g < std::min(kShown, d.groups.size()); ++g) {
        const auto& group = d.groups[g];
        std::cout << padded(percent(group.share), 8) << d.suspects[group.members.front()].what << '\n';
        if (group.members.size() > 1)
            std::cout << "        not told apart from " << group.members.size() - 1
                      << " more, such as: " << d.suspects[group.members[1]].what << '\n';
        if (g == 0)
            std::cout << "        " << d.suspects[group.members.front()].mend << '\n';
    }
    for (const std::string& slip : d.slips)
        std::cout << "slip?   " << slip << '\n';
    if (d.enough)
        std::cout << "enough: no further reading is worth its work\n";
    for (size_t i = 0; i < std::min(next, d.probes.size()); ++i) {
        const diagnosis::Probe& p = d.probes[i];
        std::cout << "next    " << p.spot.place.station.label << ", " << job::conditionWords(p.spot.place.condition)
                  << ": " << units::formatNumber(p.bits, 2) << " bits for some " << units::formatNumber(p.seconds, 0)
                  << " s\n";
        for (const diagnosis::Outcome& o : p.outcomes)
            std::cout << "        " << o.shows << " (" << percent(o.share) << "): " << o.means << '\n';
    }
}

} // namespace

int find(const FindOptions& options)
{
    auto job = job::readFile(options.job);
    if (!job)
        return refuse(job.error(), kUnreadable);
    const auto families = diagnosis::readFamiliesFile(shippedFolder() / "diagnosis" / "families.json");
    if (!families)
        return refuse(families.error(), kUnreadable);
    const auto analysis = analysis::analyse(std::make_shared<const job::Job>(std::move(*job)));
    std::string circuit = options.circuit;
    std::vector<diagnosis::Taken> taken;
    for (const std::string& typed : options.readings) {
        auto reading = takenFrom(analysis, circuit, typed);
        if (!reading)
            return refuse(reading.error(), kNoAnswer);
        if (circuit.empty())
            circuit = reading->circuit.value;
        taken.push_back(std::move(*reading));
    }
    if (circuit.empty())
        return refuse("say which circuit, or give a reading of it", kNoAnswer);
    const job::Condition now = taken.empty() ? job::Condition::KeyOn : taken.back().reading.condition();
    const auto next = static_cast<size_t>(std::max(options.next, 0));
    const auto d = diagnosis::Finder(analysis, {circuit}, *families, library()).diagnosis(taken, now, next);
    if (!d.trouble.empty())
        return refuse(d.trouble, kNoAnswer);
    if (!options.json) {
        print(d, next);
        return kFine;
    }
    Json groups = Json::array(), probes = Json::array();
    for (const auto& g : d.groups)
        if (g.share >= 1e-3)
            groups.push_back(shareOf(d, g));
    for (size_t i = 0; i < std::min(next, d.probes.size()); ++i) {
        const diagnosis::Probe& p = d.probes[i];
        Json outcomes = Json::array();
        for (const auto& o : p.outcomes)
            outcomes.push_back({{"shows", o.shows}, {"means", o.means}, {"share", o.share}});
        probes.push_back({{"circuit", p.spot.circuit.value},
                          {"place", p.spot.place.station.key},
                          {"condition", fields::enumName(p.spot.place.condition)},
                          {"bits", p.bits},
                          {"seconds", p.seconds},
                          {"outcomes", outcomes}});
    }
    std::cout << Json{{"job", analysis.job->name},
                      {"circuit", circuit},
                      {"suspects", d.suspects.size()},
                      {"groups", groups},
                      {"enough", d.enough},
                      {"slips", d.slips},
                      {"next", probes}}
                     .dump(2)
              << '\n';
    return kFine;
}

} // namespace vicegrip::cli
