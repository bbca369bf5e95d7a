#include "app/stages/scale/verifier.h"

#include "app/stages/scale/budget_place.h"
#include "app/widgets/circuit_text.h"
#include "core/electrics/sensor_model.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::app {
namespace {

constexpr int kPlaces = 10, kSettle_ms = 160;
constexpr int kMostLooks = 7; ///< on a busy machine the sample at hand may still be the last place's: about a second

} // namespace

Verifier::Verifier(Desk& desk, QObject* parent) : QObject(parent), m_desk(desk)
{
    m_timer.setSingleShot(true);
    m_timer.setInterval(kSettle_ms);
    connect(&m_timer, &QTimer::timeout, this, &Verifier::compare);
}

QString Verifier::obstacle() const
{
    const auto job = m_desk.store.job();
    const job::Circuit* c = job::find(*job, m_desk.selection.circuit());
    if (c == nullptr)
        return tr("choose a circuit");
    if (!m_desk.live.bench().isReady())
        return tr("only the bench can move the sensor by itself");
    const auto sample = m_desk.live.sample(inputIndex(*job, c->id));
    if (!sample)
        return tr("the ECU sends nothing");
    if (!sample->value)
        return tr("send the table first");
    return {};
}

void Verifier::toggle()
{
    if (isRunning()) {
        end(tr("Given up after %1 of %2 places.").arg(m_places.size()).arg(kPlaces), false);
        return;
    }
    if (const QString why = obstacle(); !why.isEmpty()) {
        emit finished(tr("Not now: %1.").arg(why), false);
        return;
    }
    m_analysis = m_desk.store.analysis();
    m_circuit = m_desk.selection.circuit();
    const job::Circuit& c = *job::find(*m_analysis->job, m_circuit);
    m_places.clear();
    m_values.clear();
    for (int i = 0; i < kPlaces; ++i)
        m_values.push_back(std::lerp(c.scaling.low, c.scaling.high, (i + 0.5) / kPlaces));
    m_running = true;
    m_worked.ask([analysis = m_analysis, id = m_circuit, values = m_values] {
        Allowed out{analysis, id, {}};
        const job::Circuit& circuit = *job::find(*analysis->job, id);
        const double step = scaling::outputStep(*job::sensorOf(*analysis->job, circuit), circuit.scaling);
        for (const double value : values) {
            const auto budget = budgetPlace(analysis, id, value).budget;
            out.errors.push_back((budget ? budget->worst : 0) + step);
        }
        return out;
    });
}

void Verifier::begin(const Allowed& allowed)
{
    if (!m_running || allowed.analysis != m_analysis || allowed.circuit != m_circuit)
        return; // given up, or begun anew
    m_allowed = allowed.errors;
    applyNext();
}

void Verifier::applyNext()
{
    m_desk.live.bench().setMeasurand(text(m_circuit.value), m_values[m_places.size()]);
    m_looks = 0;
    m_timer.start();
}

void Verifier::compare()
{
    const job::Job& job = *m_analysis->job;
    const job::Circuit& c = *job::find(job, m_circuit);
    const auto* view = analysis::find(*m_analysis, m_circuit);
    const auto sample = m_desk.live.sample(inputIndex(job, m_circuit));
    const auto reading = m_desk.live.reading(job, c);
    if (!sample || !sample->value || view == nullptr || !view->table) {
        end(tr("The ECU stopped sending."), false);
        return;
    }
    const parts::Part& sensor = *job::sensorOf(job, c);
    const Place place{m_values[m_places.size()], *sample->value, m_allowed[m_places.size()], reading.value_or(0)};
    if (!place.right() && ++m_looks < kMostLooks) {
        m_timer.start();
        return;
    }
    m_places.push_back(place);
    emit progressed();
    if (m_places.size() < m_values.size()) {
        applyNext();
        return;
    }
    const auto worst = std::ranges::max_element(
        m_places, {}, [](const Place& p) { return std::abs(p.returned - p.applied) / p.allowed; });
    const auto right = std::ranges::count_if(m_places, &Place::right);
    end(tr("%1 of %2 within the error stated; farthest %3 off of %4 at %5.")
            .arg(right)
            .arg(kPlaces)
            .arg(errorText(sensor, std::abs(worst->returned - worst->applied)).mid(2),
                 errorText(sensor, worst->allowed),
                 text(units::format(worst->applied, sensor.measures, sensor.unit, 1))),
        right == kPlaces);
}

/// The sensor goes back to its rest.
void Verifier::end(const QString& verdict, bool good)
{
    m_timer.stop();
    m_running = false;
    const job::Circuit& c = *job::find(*m_analysis->job, m_circuit);
    m_desk.live.bench().setMeasurand(text(m_circuit.value), electrics::atRest(c, m_analysis->job->surroundings).value);
    emit finished(verdict, good);
}

} // namespace vicegrip::app
