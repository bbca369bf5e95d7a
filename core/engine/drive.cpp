#include "core/engine/drive.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace vicegrip::engine {
namespace {

using Kind = Driver::Leg::Kind;

constexpr int kPullGear = 3, kTopGear = 5;
constexpr double kUp_rpm = 3200, kDown_rpm = 1500, kBegins_rpm = 2450, kShift_s = 0.4;

double rpmIn(int gear, double speed_m_s)
{
    return turns(speed_m_s / Body().way_m[gear - 1]);
}

} // namespace

std::vector<Driver::Leg> Driver::evening()
{
    const double ready_m_s = radians(kBegins_rpm) * Body().way_m[kPullGear - 1];
    std::vector<Leg> out = {{Kind::Stand, 25, 0, "Idle"}, {Kind::Cruise, 35, 13, "Town"}};
    for (int i = 0; i < 3; ++i) {
        out.push_back({Kind::Cruise, 14, ready_m_s, {}});
        out.push_back({Kind::Pull, 14, 6300, "Pull"});
        out.push_back({Kind::Slow, 20, ready_m_s, {}});
    }
    out.insert(out.end(), {{Kind::Cruise, 30, 22, "Home"},
                           {Kind::Stop, 15, 0, {}},
                           {Kind::Stand, 75, 0, "Traffic"},
                           {Kind::Cruise, 25, 13, {}},
                           {Kind::Stop, 15, 0, {}},
                           {Kind::Stand, 35, 0, "Idle"}});
    return out;
}

double Driver::share() const
{
    const auto seconds = [](double sum, const Leg& leg) { return sum + leg.seconds; };
    const auto at = m_legs.begin() + static_cast<std::ptrdiff_t>(std::min(m_leg, m_legs.size()));
    const double all = std::accumulate(m_legs.begin(), m_legs.end(), 0.0, seconds);
    return all > 0 ? std::accumulate(m_legs.begin(), at, isThere() ? 0.0 : m_in_s, seconds) / all : 1;
}

/// One up or down at a time, the foot off meanwhile.
void Driver::changeGear(const Plant& car, Moved& moved)
{
    int wanted = std::max(moved.gear, 1);
    if (moved.gear > 0 && moved.gear < kTopGear && rpmIn(moved.gear, car.speed_m_s()) > kUp_rpm)
        ++wanted;
    else if (moved.gear > 1 && rpmIn(moved.gear, car.speed_m_s()) < kDown_rpm)
        --wanted;
    if (wanted != moved.gear) {
        moved.gear = wanted;
        m_shifting_s = kShift_s;
    }
}

void Driver::hold(double speed_m_s, double seconds, const Plant& car, Moved& moved)
{
    constexpr double kFoot = 0.06, kLearns = 0.012, kMost = 0.45, kLaunch = 0.12;
    const double slow = speed_m_s - car.speed_m_s();
    m_foot = std::clamp(m_foot + kLearns * slow * seconds, 0.0, kMost);
    moved.throttle = std::clamp(kFoot * slow + m_foot, 0.0, kMost);
    if (slow > 2 && car.speed_m_s() < 3)
        moved.throttle = std::max(moved.throttle, kLaunch);
    moved.brake = slow < -2 ? std::clamp(-slow / 15, 0.0, 0.5) : 0;
}

void Driver::act(double seconds, const Plant& car, Moved& moved)
{
    m_begun = {};
    if (isThere())
        return;
    const Leg& leg = m_legs[m_leg];
    if (m_isNew)
        m_begun = leg.words;
    m_isNew = false;
    m_in_s += seconds;
    const double was = moved.throttle;
    moved.brake = 0;
    switch (leg.kind) {
    case Kind::Stand:
        moved.throttle = m_foot = 0;
        moved.gear = 0;
        break;
    case Kind::Cruise:
        changeGear(car, moved);
        hold(leg.goal, seconds, car, moved);
        break;
    case Kind::Pull:
        moved.gear = kPullGear;
        moved.throttle = 1;
        break;
    case Kind::Slow:
        moved.throttle = m_foot = 0;
        moved.brake = 0.25;
        break;
    case Kind::Stop:
        moved.throttle = m_foot = 0;
        moved.brake = 0.5;
        if (car.rpm() < 1100)
            moved.gear = 0;
        break;
    }
    // From a standstill the clutch comes as the car does; while the gear is changed it is down.
    m_shifting_s = std::max(0.0, m_shifting_s - seconds);
    constexpr double kSlips_rpm = 1500, kBites_rpm = 900, kWhole_rpm = 5000;
    const double wheels_rpm = moved.gear > 0 ? rpmIn(moved.gear, car.speed_m_s()) : 0;
    moved.clutch = m_shifting_s > 0 ? 0 : 1;
    if (moved.gear == 1 && wheels_rpm < kSlips_rpm && m_shifting_s <= 0)
        moved.clutch = std::clamp((car.rpm() - kBites_rpm) / kWhole_rpm, 0.0, 1.0);
    if (m_shifting_s > 0)
        moved.throttle = 0;
    constexpr double kPresses_per_s = 2.5, kLifts_per_s = 6; // a foot on a pedal (typical)
    moved.throttle = std::clamp(moved.throttle, was - kLifts_per_s * seconds, was + kPresses_per_s * seconds);
    const bool done = m_in_s >= leg.seconds || (leg.kind == Kind::Pull && car.rpm() > leg.goal) ||
                      (leg.kind == Kind::Slow && car.speed_m_s() < leg.goal) ||
                      (leg.kind == Kind::Stop && car.speed_m_s() <= 0);
    if (!done)
        return;
    ++m_leg;
    m_in_s = 0;
    m_isNew = true;
}

} // namespace vicegrip::engine
