#include "tests/core/review/driven_log.h"

#include <gmock/gmock.h>

/// What is no fault, however a logger writes it: nobody is accused. Where there is one beside it, it is found.
namespace vicegrip::review {
namespace {

using test::DrivenLog;
using test::found;
using test::reviewed;
using testing::HasSubstr;

/// Rounded as loggers round: a mixture that is held, oil at its valve and a rail at its regulator stand for long. A
/// manifold pressure that stands while the foot moves does not.
TEST(Review, WhatIsHeldMayStandInWholeCounts)
{
    const auto counts = [](double value, double of) { return std::round(value / of) * of; };
    for (const double stood : {0.0, 8.0}) {
        DrivenLog log(200, 20);
        log.engine();
        log.with("Lambda", "",
                 [&](double t) { return std::sin(t / 3) > 0.7 ? 0.82 : counts(1 + 0.01 * std::sin(9 * t), 0.01); });
        log.with("Oil pressure", "bar",
                 [&](double t) { return counts(std::min(4.5, 3.5 + 2 * std::sin(t / 3)), 0.1); });
        log.with("Fuel pressure", "bar", [&](double t) { return counts(2.3 + 0.06 * std::sin(t / 3), 0.1); });
        log.with("Coolant temp", "°C", [&](double t) { return counts(90 + 0.4 * std::sin(t / 40), 1); });
        log.with("Manifold pressure", "kPa", [&](double t) {
            const double at = t > 100 && t < 100 + stood ? 100 : t;
            return counts(90 + 60 * std::sin(at / 3), 1);
        });
        const Review r = reviewed(log.log());
        const Finding* f = found(r, Rule::Frozen);
        ASSERT_EQ(f != nullptr, stood > 0) << (f == nullptr ? "" : f->what);
        if (f != nullptr) {
            EXPECT_THAT(f->what, HasSubstr("Manifold pressure stood at"));
        }
    }
}

/// Twenty rows a second, as their clock has them. A gear is changed in half a second: the throttle shuts and opens, the
/// mixture goes lean with the fuel that is cut, and the manifold says that it was so. Where the manifold stands,
/// nothing was shut but a contact opened.
TEST(Review, AGearThatIsChangedIsNoContact)
{
    const auto shuts = [](double t) { return std::fmod(t, 12) > 6 && std::fmod(t, 12) < 6.4; };
    for (const bool really : {true, false}) {
        DrivenLog log(180, 20);
        log.with(
            "RPM", "rpm", [](double t) { return 2500 + 400 * std::sin(t / 20); }, 4);
        log.with(
            "Throttle", "%", [&](double t) { return shuts(t) ? 0.0 : 34.0; }, 0.05);
        log.with(
            "Lambda", "", [&](double t) { return really && shuts(t - 0.2) ? 1.3 : 1.0; }, 0.004);
        log.with(
            "Manifold pressure", "kPa", [&](double t) { return really && shuts(t - 0.05) ? 32.0 : 71.0; }, 0.3);
        const Review r = reviewed(log.log());
        const Finding* f = found(r, Rule::DropOut);
        ASSERT_EQ(f == nullptr, really) << (f == nullptr ? "" : f->what);
        EXPECT_EQ(found(r, Rule::Spikes), nullptr);
        if (f != nullptr) {
            EXPECT_THAT(f->what, HasSubstr("Throttle lets go: 15 times"));
        }
    }
}

/// Chance alone: a fan is switched while temperatures wander, now in the middle of a slope, now not. Nothing is
/// accused.
TEST(Review, AFanThatMovesNothingIsNotAccused)
{
    for (unsigned seed = 1; seed <= 60; ++seed) {
        DrivenLog log(400, 20, seed);
        const double shift = seed * 0.37;
        log.engine();
        log.with(
            "Coolant temp", "°C", [=](double t) { return 86 + 6 * std::sin(t / 9 + shift); }, 0.04);
        log.with(
            "Oil temp", "°C", [=](double t) { return 95 + 5 * std::sin(t / 11 + shift) * std::sin(t / 40); }, 0.04);
        log.with(
            "Gearbox temp", "°C", [=](double t) { return 60 + std::abs(std::fmod(t + shift, 40) - 20) / 4; }, 0.04);
        log.with("Fan", "", [=](double t) { return std::fmod(t + 3 * shift, 31) > 17 ? 1.0 : 0.0; });
        const Review r = reviewed(log.log());
        EXPECT_EQ(found(r, Rule::SharedGround), nullptr) << seed << ": " << found(r, Rule::SharedGround)->what;
    }
}

/// Many loggers write whole degrees. Temperatures that rise alike are rounded at the same moment: that is no ground.
/// What steps by more than a count is found there all the same.
TEST(Review, WholeDegreesThatTurnTogetherShareNoGround)
{
    for (unsigned seed = 1; seed <= 40; ++seed)
        for (const double step : {0.0, 3.0}) {
            DrivenLog log(600, 20, seed);
            log.engine();
            std::mt19937 chance(seed);
            std::normal_distribution<double> gauss(0, 0.1);
            const auto whole = [&](double above) {
                return [&, above](double t) {
                    const double turns = std::fmod(t, 40) / 40;
                    const double value = 88 + 4 * (turns < 0.6 ? turns / 0.6 : (1 - turns) / 0.4) + above;
                    return std::round(value + gauss(chance) - (t > 300 ? step : 0));
                };
            };
            log.with("Coolant temp", "°C", whole(seed % 2 == 0 ? 0 : 0.1), 0);
            log.with("Oil temp", "°C", whole(5), 0);
            const Review r = reviewed(log.log());
            const Finding* f = found(r, Rule::SharedGround);
            EXPECT_EQ(f != nullptr, step > 0) << seed << (f == nullptr ? "" : ": " + f->what);
        }
}

} // namespace
} // namespace vicegrip::review
