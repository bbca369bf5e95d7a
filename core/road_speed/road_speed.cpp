#include "core/road_speed/road_speed.h"

#include "core/base/phrase.h"
#include "core/units/units.h"

#include <cmath>
#include <regex>

namespace vicegrip::road_speed {
namespace {

constexpr double kInch_m = 0.0254; // NIST SP 811
constexpr double kTyreShare = 0.03; ///< wear, pressure and load (common practice, no source)

std::string plain(double number, int decimals)
{
    return units::formatNumber(number, decimals);
}

/// What a run that is off by this factor may come from.
std::string reasonOf(const SpeedPlace& place, double factor)
{
    const auto rolling = [](double m) { return units::format(m, units::Dimension::Length, "m", 3); };
    const auto near = [&](double other) { return std::abs(factor / other - 1) < kTyreShare; };
    if (near(2))
        return phrase("Twice as many: the ECU counts both edges of every tooth, or there are twice the teeth.");
    if (near(0.5))
        return phrase("Half as many: the ECU counts every second one, or there are half the teeth.");
    if (place.turnsPerWheelTurn != 1 && near(1 / place.turnsPerWheelTurn))
        return phrase("As many as without the final drive: the sensor turns with the wheel.");
    const double teeth = place.pulsesPerTurn * factor;
    if (teeth >= 0.6 && std::abs(teeth - std::round(teeth)) / teeth < kTyreShare / 3 &&
        std::round(teeth) != place.pulsesPerTurn)
        return phrase(
            "As many as with {} teeth in place of {}: count them, or look for pulses that are lost or doubled.",
            plain(std::round(teeth), 0), plain(place.pulsesPerTurn, 0));
    return phrase("The tyre would have to roll {} in a turn in place of {}: check tyre, ratio and the distance.",
                  rolling(place.rolling_m / factor), rolling(place.rolling_m));
}

} // namespace

Result<Tyre> parseTyre(std::string_view text)
{
    static const std::regex kSize(R"(^\s*(\d{2,3})\s*/\s*(\d{2,3})\s*(?:[zZ]?[rR]|-|\s)\s*(\d{2}(?:\.\d)?)\b.*$)");
    constexpr size_t kLongest = 40;
    std::smatch match;
    const std::string whole(text.substr(0, kLongest));
    if (!std::regex_match(whole, match, kSize))
        return fail(ErrorCode::Malformed, phrase("expected a tyre such as 205/55 R16"));
    const Tyre tyre{std::stod(match[1]) * 1e-3, std::stod(match[2]) * 1e-2, std::stod(match[3]) * kInch_m};
    if (tyre.width_m < 0.1 || tyre.width_m > 0.5 || tyre.aspect < 0.2 || tyre.aspect > 1 || tyre.rim_m < 8 * kInch_m ||
        tyre.rim_m > 26 * kInch_m)
        return fail(ErrorCode::Range, phrase("no tyre is {}: expected mm / % and the rim in inches", whole));
    return tyre;
}

Result<RunVerdict> compareRun(const SpeedPlace& place, const MeasuredRun& run)
{
    if (!(run.distance_m > 0) || !(run.pulses > 0))
        return fail(ErrorCode::Range, phrase("a run needs a distance and pulses"));
    if (!(place.pulsesPerMetre() > 0) || !std::isfinite(place.pulsesPerMetre()))
        return fail(ErrorCode::Range, phrase("teeth, ratio and tyre come first"));
    RunVerdict out;
    out.pulsesPerMetre = run.pulsesPerMetre();
    out.error = run.error();
    if (out.error > kTyreShare * out.pulsesPerMetre)
        return fail(ErrorCode::Range, phrase("the run is too short to tell: its own error is {} %",
                                             plain(100 * out.error / out.pulsesPerMetre, 1)));
    const double factor = out.pulsesPerMetre / place.pulsesPerMetre();
    out.off = factor - 1;
    out.agrees = std::abs(out.off) <= kTyreShare + out.error / out.pulsesPerMetre;
    const std::string counts = phrase("{} pulses per km by the run, {} by tyre and gears",
                                      plain(out.pulsesPerMetre * 1000, 0), plain(place.pulsesPerMetre() * 1000, 0));
    out.sentence = out.agrees ? phrase("{}: they agree. The run is the nearer one; take it.", counts)
                              : counts + ". " + reasonOf(place, factor);
    return out;
}

} // namespace vicegrip::road_speed
