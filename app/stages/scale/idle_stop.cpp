#include "app/stages/scale/idle_stop.h"

#include "app/desk/when.h"
#include "app/views/selected.h"
#include "app/widgets/circuit_text.h"
#include "core/throttle/limits.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace vicegrip::app {
namespace {

constexpr size_t kRestSamples = 8; ///< of ten a second
constexpr double kStill_v = 0.008; ///< a hand that holds still, with the counts' own flicker (typical)

} // namespace

IdleStop::IdleStop(Desk& desk, QWidget* parent) : KeyButton(tr("Screw turned"), tr("M"), false, parent), m_desk(desk) {}

void IdleStop::hear(std::optional<double> volts)
{
    if (!volts) {
        m_lately.clear();
        return;
    }
    m_lately.push_back(*volts);
    if (m_lately.size() > kRestSamples)
        m_lately.pop_front();
}

/// Turned, then zeroed: the two ends of the idle-stop loop on one key.
void IdleStop::press()
{
    const job::Circuit* c = selectedCircuit(m_desk);
    if (c != nullptr && c->limits && !c->limits->screwMoved.empty())
        zeroHere();
    else
        screwMoved();
}

void IdleStop::zeroHere()
{
    const job::Circuit* c = selectedCircuit(m_desk);
    const auto at = rest();
    if (c == nullptr || !c->limits || !at)
        return;
    const auto limits = throttle::zeroed(*c->limits, *at, nowText());
    if (!limits) {
        emit said(app::text(limits.error().sentence), true);
        return;
    }
    const QString what =
        tr("zeroed at %1 after the stop screw, limit %2").arg(voltsText(*at), voltsText(limits->closed_v));
    const auto kept = m_desk.store.edit(tr("Zero of %1").arg(app::text(c->name)), [&](job::Job& job) {
        job::Circuit& changed = *job::find(job, c->id);
        changed.limits = *limits;
        job::note(job, limits->when, c->id.value, c->name + ": " + what.toStdString());
    });
    emit said(kept
                  ? tr("Shut reads 0 % again. Send the table to the ECU; when the idle is not right yet, turn and zero "
                       "again.")
                  : app::text(kept.error().sentence),
              !kept);
}

std::optional<double> IdleStop::rest() const
{
    const job::Circuit* c = selectedCircuit(m_desk);
    if (c == nullptr || !c->limits || m_lately.size() < kRestSamples)
        return std::nullopt;
    const auto [least, most] = std::ranges::minmax(m_lately);
    const double still = std::max(8 * c->limits->noise_v, kStill_v);
    if (most - least > still)
        return std::nullopt;
    return std::accumulate(m_lately.begin(), m_lately.end(), 0.0) / static_cast<double>(m_lately.size());
}

/// While the screw is being turned: how far the shut throttle stands from the calibration, and what to do.
void IdleStop::tell()
{
    const job::Circuit* c = selectedCircuit(m_desk);
    const bool turning = c != nullptr && c->limits && !c->limits->screwMoved.empty();
    const QString name = turning ? tr("Zero here") : tr("Screw turned");
    if (text() != name) {
        setText(name);
        updateGeometry();
    }
    const auto at = rest();
    setEnabled(c != nullptr && c->limits && (!turning || at));
    if (!turning)
        return;
    if (!at) {
        emit said(tr("Turn the screw until the idle is right, with the throttle left shut; then zero it, or stroke it "
                     "again."),
                  false);
        return;
    }
    const double moved = *at - c->limits->closedRest_v, travel = c->limits->openRest_v - c->limits->closedRest_v;
    emit said(tr("It rests at %1, %2 %3 of the travel from the calibration. Shut and still: zero it here.")
                  .arg(voltsText(*at), app::text(units::formatNumber(100 * std::abs(moved / travel), 1)),
                       QStringLiteral("%")),
              false);
}

void IdleStop::screwMoved()
{
    const job::Circuit* c = selectedCircuit(m_desk);
    if (c == nullptr || !c->limits)
        return;
    const auto kept = m_desk.store.edit(tr("Stop screw of %1 turned").arg(app::text(c->name)), [&](job::Job& job) {
        job::Circuit& changed = *job::find(job, c->id);
        changed.limits->screwMoved = nowText();
        job::note(job, changed.limits->screwMoved, c->id.value, c->name + ": stop screw turned");
    });
    if (!kept)
        emit said(app::text(kept.error().sentence), true);
}

} // namespace vicegrip::app
