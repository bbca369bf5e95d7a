#include "app/stages/trigger/setup.h"

#include "app/views/selected.h"
#include "core/units/units.h"

#include <QCoreApplication>

#include <algorithm>

namespace vicegrip::app {
namespace {

struct Wheels
{
    Q_DECLARE_TR_FUNCTIONS(Wheels)
};

} // namespace

job::TriggerSetup setupOf(const Desk& desk)
{
    const job::Circuit* c = selectedCircuit(desk);
    return c != nullptr && c->trigger ? *c->trigger : job::TriggerSetup{};
}

std::optional<trigger::Wheel> wheelOf(const Desk& desk)
{
    auto wheel = trigger::readWheel(setupOf(desk).wheel);
    return wheel ? std::optional(std::move(*wheel)) : std::nullopt;
}

void changeSetup(const Desk& desk, const QString& what, const std::function<void(job::TriggerSetup&)>& change)
{
    const job::Circuit* c = selectedCircuit(desk);
    if (c == nullptr)
        return;
    const job::CircuitId id = c->id;
    desk.store.editOrSay(QStringLiteral("%1: %2").arg(text(c->name), what), [&](job::Job& job) {
        auto& setup = job::find(job, id)->trigger;
        if (!setup)
            setup.emplace();
        change(*setup);
    });
}

bool readsCoil(const Desk& desk)
{
    const parts::Part* sensor = selectedSensor(desk);
    return sensor != nullptr && !parts::pulsesOf(*sensor);
}

trigger::AirGap airGapOf(const Desk& desk)
{
    const job::TriggerSetup s = setupOf(desk);
    const auto feelers = trigger::feelersSay(s.feelers_m);
    trigger::AirGap gap{s.gap_m, s.gapLeast_m, s.gapMost_m, s.pitch_m, feelers ? feelers->runOut_m : 0};
    if (!(gap.least_m > 0 || gap.most_m > 0)) {
        const bool coil = readsCoil(desk);
        gap.least_m = coil ? trigger::kCoilLeast_m : trigger::kHallLeast_m;
        gap.most_m = coil ? trigger::kCoilMost_m : trigger::kHallMost_m;
    }
    const auto wheel = wheelOf(desk);
    if (!wheel || !(s.across_m > 0) || !(s.lies_deg || s.beside_m))
        return gap;
    trigger::Strip& strip = gap.strip.emplace();
    strip.tooth_m = trigger::toothPitch(*wheel, s.across_m);
    strip.wide_m = s.stripWide_m > 0 ? s.stripWide_m : strip.wide_m;
    strip.long_m = s.stripLong_m > 0 ? s.stripLong_m : strip.long_m;
    strip.lies_deg = s.lies_deg.value_or(0);
    strip.beside_m = s.beside_m.value_or(0);
    strip.thick_m = s.thick_m;
    return gap;
}

QString wheelText(const trigger::Wheel& wheel)
{
    const auto teeth = wheel.teeth.size();
    const std::vector<double> steps = trigger::stepsOf(wheel, false);
    const auto widest = std::ranges::max_element(steps);
    const auto at = static_cast<size_t>(widest - steps.begin());
    const QString count =
        teeth == 1 ? Wheels::tr("1 tooth") : Wheels::tr("%1 teeth").arg(static_cast<qulonglong>(teeth));
    const QString turn = wheel.onCam() ? Wheels::tr(", on the cam") : QString();
    if (teeth < 2 || *widest < 1.2 * *std::ranges::min_element(steps))
        return count + turn + (teeth > 1 ? Wheels::tr(", all alike") : QString());
    return count + turn +
           Wheels::tr(", longest step %1° from tooth %2 to %3")
               .arg(text(units::formatNumber(*widest, 1)))
               .arg(static_cast<qulonglong>(at) + 1)
               .arg(static_cast<qulonglong>((at + 1) % teeth) + 1);
}

} // namespace vicegrip::app
