#include "core/base/phrase.h"
#include "core/fuel/fuel.h"
#include "core/review/rules.h"

#include <algorithm>

/// What a flex-fuel sensor shows after a fill: the line is purged, then the tank mixes (core/fuel).
namespace vicegrip::review {

using log_columns::Quantity;

namespace {

constexpr double kFill = 0.03; // of ethanol: less is the sensor's own
constexpr double kSettled = 0.005;
constexpr double kBubble = 0.04; // in one row
constexpr double kSlow = 4; // times as long as the mixing of the model

} // namespace

void ethanol(const Rows& rows, Findings& out)
{
    const auto column = rows.column(Quantity::Ethanol);
    if (!column)
        return;
    const Samples s = rows.samples(*column);
    const auto& m = rows.meanings()[*column];
    if (s.size() < 10)
        return;
    const auto tail = std::max<std::size_t>(1, s.size() / 50);
    double began = 0, ended = 0;
    for (std::size_t i = 0; i < tail; ++i) {
        began += m.toSi(s.values[i]) / static_cast<double>(tail);
        ended += m.toSi(s.values[s.size() - 1 - i]) / static_cast<double>(tail);
    }
    std::size_t bubbles = 0;
    Finding jumps{Rule::EthanolSettles, Weight::Doubtful, {*column}, {}, 0, {}, {}, {}};
    for (std::size_t i = 1; i < s.size(); ++i)
        if (std::abs(m.toSi(s.values[i]) - m.toSi(s.values[i - 1])) > kBubble) {
            ++bubbles;
            keep(jumps, {s.row(i - 1), s.row(i)});
        }
    const auto percent = [](double share) { return units::formatNumber(share * 100, 1) + " %"; };
    if (bubbles > 1) {
        jumps.what =
            phrase("{} jumps {} times by more than {}", rows.name(*column), std::to_string(bubbles), percent(kBubble));
        jumps.todo = phrase("Fuel mixes, it does not jump: air in the line, a sensor that stands, or a contact");
        out.push_back(std::move(jumps));
    }
    if (std::abs(ended - began) < kFill)
        return;
    // When it leaves where it was, and when it has gone 63 % of the way.
    const auto share = [&](std::size_t i) { return (m.toSi(s.values[i]) - began) / (ended - began); };
    std::size_t leaves = 0, most = 0, settles = s.size() - 1;
    while (leaves + 1 < s.size() && share(leaves) < 0.05)
        ++leaves;
    for (most = leaves; most + 1 < s.size() && share(most) < 1 - std::exp(-1.0); ++most) {
    }
    while (settles > 0 && std::abs(m.toSi(s.values[settles]) - ended) <= kSettled)
        --settles;
    const auto at = [&](std::size_t i) { return rows.log().time_s[s.row(i)]; };
    const double tau = at(most) - at(leaves), settled = at(settles) - at(leaves);
    Finding f{Rule::EthanolSettles, Weight::Fine, {*column}, {}, 0, {}, {}, {}};
    keep(f, {s.row(leaves), s.row(settles)});
    f.what = phrase("{} goes from {} to {}: settled after {}, two thirds of it after {}", rows.name(*column),
                    percent(began), percent(ended), secondsText(settled), secondsText(tau));
    if (tau > kSlow * fuel::Settling::kMixing_s) {
        f.weight = Weight::Doubtful;
        f.todo = phrase("A tank mixes in about {}: is the return closed, or does the sensor lie where little flows?",
                        secondsText(fuel::Settling::kMixing_s));
    }
    out.push_back(std::move(f));
}

} // namespace vicegrip::review
