#include "cli/printing.h"
#include "core/job/json.h"
#include "core/road_speed/road_speed.h"
#include "core/switches/switch_levels.h"
#include "core/thermocouple/thermocouple.h"
#include "core/units/shown.h"

#include <iostream>

namespace vicegrip::cli {
namespace {

using thermocouple::Hookup;
using units::Dimension;

constexpr std::pair<Hookup, const char*> kHookups[] = {{Hookup::Right, "right"},
                                                       {Hookup::Reversed, "reversed"},
                                                       {Hookup::ReversedTwice, "reversed-twice"},
                                                       {Hookup::Copper, "copper"},
                                                       {Hookup::Bridged, "shorted"}};

std::string celsius(double kelvin)
{
    return units::format(kelvin, Dimension::Temperature, "°C", 1);
}

} // namespace

int switchLevels(const SwitchOptions& options)
{
    const auto job = job::readFile(options.job);
    if (!job)
        return refuse(job.error(), kUnreadable);
    const job::Circuit* circuit = job::find(*job, job::CircuitId{options.circuit});
    if (circuit == nullptr)
        return refuse("the job has no circuit \"" + options.circuit + "\"", kNoAnswer);
    const auto levels = switches::switchLevels(*job, *circuit);
    if (!levels)
        return refuse(levels.error(), kNoAnswer);
    if (options.json)
        std::cout << Json{{"circuit", options.circuit},           {"open_v", levels->open_v},
                          {"closed_v", levels->closed_v},         {"low_below_v", levels->low_v},
                          {"high_above_v", levels->high_v},       {"contact_up_to_ohm", levels->contact_ohm},
                          {"leak_down_to_ohm", levels->leak_ohm}, {"apart", levels->apart},
                          {"sentence", levels->sentence}}
                         .dump(2)
                  << '\n';
    else
        std::cout << levels->sentence << '\n';
    return levels->apart ? kFine : kNoAnswer;
}

int speed(const SpeedOptions& options)
{
    const auto tyre = road_speed::parseTyre(options.tyre);
    const auto distance = units::parseShown(options.distance, Dimension::Length, "m"),
               error = units::parseShown(options.distanceError, Dimension::Length, "m");
    const Error* wrong = !tyre ? &tyre.error() : !distance ? &distance.error() : !error ? &error.error() : nullptr;
    if (wrong != nullptr)
        return refuse(*wrong, kUsage);
    const road_speed::SpeedPlace place{options.pulsesPerTurn, options.ratio, tyre->rolling_m()};
    Json out{{"rolling_m", tyre->rolling_m()}, {"pulses_per_km", place.pulsesPerMetre() * 1000}};
    std::string said = units::formatNumber(place.pulsesPerMetre() * 1000, 0) + " pulses per km by tyre and gears";
    if (options.runPulses > 0) {
        const auto verdict = road_speed::compareRun(place, {options.runPulses, *distance, *error});
        if (!verdict)
            return refuse(verdict.error(), kNoAnswer);
        out["run_pulses_per_km"] = verdict->pulsesPerMetre * 1000;
        out["agrees"] = verdict->agrees;
        said = verdict->sentence;
    }
    out["sentence"] = said;
    std::cout << (options.json ? out.dump(2) : said) << '\n';
    return kFine;
}

int probe(const ProbeOptions& options)
{
    std::vector<double> kelvin;
    for (const std::string& typed : {options.tip, options.joint, options.box}) {
        const auto read = units::parseShown(typed, Dimension::Temperature, "°C");
        if (!read)
            return refuse(read.error(), kUsage);
        kelvin.push_back(*read);
    }
    thermocouple::ProbePlace place;
    place.tip_k = kelvin[0];
    place.joint_k = kelvin[1];
    place.conditioner_k = kelvin[2];
    Json would = Json::object();
    for (const auto& [hookup, name] : kHookups)
        would[name] = thermocouple::shownBy(hookup, place) - 273.15;
    Json out{{"would_show_c", would}};
    std::string said;
    if (options.shown.empty()) {
        for (const auto& [hookup, name] : kHookups)
            said += padded(name, 16) + celsius(thermocouple::shownBy(hookup, place)) + '\n';
    } else {
        const auto shown = units::parseShown(options.shown, Dimension::Temperature, "°C");
        if (!shown)
            return refuse(shown.error(), kUsage);
        constexpr double kTolerance_k = 3; // of a bath, a probe and a conditioner (typical)
        const auto found = thermocouple::hookupOf(*shown, place, kTolerance_k);
        said = (found ? thermocouple::hookupSentence(*found) : celsius(*shown) + " fits none of these alone.") + '\n';
        out["sentence"] = said;
    }
    std::cout << (options.json ? out.dump(2) + '\n' : said);
    return kFine;
}

} // namespace vicegrip::cli
