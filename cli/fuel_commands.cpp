#include "cli/printing.h"
#include "core/base/document.h"
#include "core/base/typed_text.h"
#include "core/fuel/blend.h"
#include "core/fuel/flex.h"
#include "core/throttle/strokes.h"
#include "core/units/shown.h"

#include <iostream>

namespace vicegrip::cli {
namespace {

using units::Dimension;

std::string litres(double m3)
{
    return units::format(m3, Dimension::Volume, "l", 1);
}

std::string volts(double v)
{
    return units::format(v, Dimension::Voltage, "V", 3);
}

/// "E40" or "40 %".
Result<double> contentTyped(std::string typed)
{
    typed = typed::trimmed(typed);
    if (typed.starts_with('E') || typed.starts_with('e'))
        typed = typed.substr(1) + " %";
    return units::parse(typed, Dimension::Ratio).and_then([&](double share) -> Result<double> {
        if (!(share >= 0 && share <= 1))
            return fail(ErrorCode::Range, "expected an ethanol content from E0 to E100");
        return share;
    });
}

Result<std::vector<fuel::Fill>> fillsTyped(const std::vector<std::string>& typed)
{
    std::vector<fuel::Fill> out;
    for (const std::string& one : typed) {
        auto fill = fuel::parseFill(one);
        if (!fill)
            return tl::make_unexpected(fill.error());
        out.push_back(*fill);
    }
    return out;
}

} // namespace

int blend(const BlendOptions& options)
{
    auto in = fillsTyped(options.in), add = fillsTyped(options.add);
    const auto baseline = contentTyped(options.baseline);
    Result<double> capacity =
        options.tank.empty() ? Result<double>(0) : units::parseShown(options.tank, Dimension::Volume, "l");
    const Error* wrong = !in         ? &in.error()
                         : !add      ? &add.error()
                         : !baseline ? &baseline.error()
                         : !capacity ? &capacity.error()
                                     : nullptr;
    if (wrong != nullptr)
        return refuse(*wrong, kUsage);
    if (!options.target.empty()) {
        const auto target = contentTyped(options.target);
        if (!target || add->empty())
            return refuse(target ? Error{ErrorCode::Range, "--target needs an --add to reach it with", {}}
                                 : target.error(),
                          kUsage);
        // The last fuel brings it there; those before it are in the tank already, as much as was said.
        std::vector<fuel::Fill> before = *in;
        before.insert(before.end(), add->begin(), add->end() - 1);
        const auto here = fuel::blend(before);
        if (!here)
            return refuse(here.error(), kNoAnswer);
        const auto amount = fuel::amountToReach(*here, add->back().ethanol, *target, *capacity);
        if (!amount)
            return refuse(amount.error(), kNoAnswer);
        add->back().volume_m3 = *amount;
    }
    in->insert(in->end(), add->begin(), add->end());
    const auto mixed = fuel::blend(*in, *capacity);
    if (!mixed)
        return refuse(mixed.error(), kNoAnswer);
    const auto needs = fuel::correction(mixed->ethanol, *baseline);
    const double hz = fuel::frequencyAt(mixed->ethanol);
    if (options.json) {
        Json out{{"volume_l", mixed->volume_m3 * 1e3},
                 {"ethanol", mixed->ethanol},
                 {"hz", hz},
                 {"stoichiometric", fuel::stoichiometric(mixed->ethanol)},
                 {"fuel_mass", needs.mass},
                 {"fuel_volume", needs.volume}};
        if (!options.target.empty())
            out["add_l"] = add->back().volume_m3 * 1e3;
        std::cout << out.dump(2) << '\n';
        return kFine;
    }
    if (!options.target.empty())
        std::cout << "add " << litres(add->back().volume_m3) << " of E"
                  << units::formatNumber(add->back().ethanol * 100, 0) << '\n';
    std::cout
        << litres(mixed->volume_m3) << " of E" << units::formatNumber(mixed->ethanol * 100, 1)
        << "; the flex sensor shows " << units::format(hz, Dimension::Frequency, "Hz", 1) << "\nstoichiometric "
        << units::formatNumber(fuel::stoichiometric(mixed->ethanol), 2) << " to 1 by mass\nfuel against E"
        << units::formatNumber(*baseline * 100, 0) << ": " << units::format(needs.mass, Dimension::Ratio, "%", 1)
        << " by mass, " << units::format(needs.volume, Dimension::Ratio, "%", 1)
        << " through the injectors\nFuel as sold varies (E85 may hold 51 to 83 %): the sensor tells, not the pump. "
           "Do not run it before the calibration is ready for it.\n";
    return kFine;
}

int throttle(const ThrottleOptions& options)
{
    const auto table = readNumberFile(options.strokes, 2);
    if (!table)
        return refuse(table.error(), kUnreadable);
    const auto recording = document::inFile(throttle::recordingFrom(*table), options.strokes);
    if (!recording)
        return refuse(recording.error(), kUnreadable);
    const double count_v = options.span_v / ((1 << options.bits) - 1);
    const auto report = document::inFile(throttle::reportOn(*recording, count_v), options.strokes);
    if (!report)
        return refuse(report.error(), kNoAnswer);
    const auto& r = *report;
    if (options.json) {
        Json spots = Json::array();
        for (const auto& d : r.deadSpots)
            spots.push_back({{"volts", d.volts}, {"depth_v", d.depth_v}, {"strokes", d.strokes}});
        Json out{{"strokes", r.strokes},
                 {"closed_v", r.closed_v},
                 {"open_v", r.open_v},
                 {"closed_limit_v", r.limits.closed_v},
                 {"open_limit_v", r.limits.open_v},
                 {"margin_v", r.margin_v},
                 {"noise_v", r.noise_v},
                 {"closed_spread_v", r.closedSpread_v},
                 {"open_spread_v", r.openSpread_v},
                 {"falls", r.falls},
                 {"dead_spots", spots}};
        if (r.pair)
            out["pair"] = {{"slope", r.pair->slope},
                           {"offset_v", r.pair->offset_v},
                           {"worst_v", r.pair->worst_v},
                           {"kind", r.pair->crossed ? "sum" : "ratio"}};
        std::cout << out.dump(2) << '\n';
        return kFine;
    }
    std::cout << r.strokes << (r.strokes == 1 ? " stroke" : " strokes") << "\nclosed rests at " << volts(r.closed_v)
              << " (within " << volts(r.closedSpread_v) << "), limit " << volts(r.limits.closed_v) << "\nopen rests at "
              << volts(r.open_v) << " (within " << volts(r.openSpread_v) << "), limit " << volts(r.limits.open_v)
              << "\nnoise " << units::format(r.noise_v, Dimension::Voltage, "mV", 1) << '\n';
    if (r.falls)
        std::cout << "it reads less when open: where the sensor should rise, its supply and ground are exchanged\n";
    for (const auto& d : r.deadSpots)
        std::cout << "dead spot at " << volts(d.volts) << ", " << volts(d.depth_v) << " deep, in " << d.strokes
                  << " of " << r.strokes << " strokes\n";
    if (r.pair)
        std::cout << "second track " << (r.pair->crossed ? "runs against the first" : "runs with the first") << ": "
                  << units::formatNumber(r.pair->slope, 3) << " V/V, at worst " << volts(r.pair->worst_v)
                  << " from that\n";
    return kFine;
}

} // namespace vicegrip::cli
