#include "app/stages/scale/speed_view.h"

#include "app/views/selected.h"
#include "app/widgets/caution.h"
#include "app/widgets/circuit_text.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/typed_field.h"
#include "app/widgets/value_row.h"
#include "core/harness/edits.h"

#include <QGridLayout>
#include <QLineEdit>
#include <QShortcut>
#include <QVBoxLayout>

#include <cmath>

namespace vicegrip::app {
namespace {

using units::Dimension;

constexpr double kKilometre_m = 1000, kKmh = 1 / 3.6;

QString perKilometre(double pulsesPerMetre)
{
    return SpeedView::tr("%1 pulses/km").arg(text(units::formatNumber(pulsesPerMetre * kKilometre_m, 0)));
}

} // namespace

SpeedView::SpeedView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_tyre(new TypedField(
          tr("Tyre"),
          [](const QString& typed) {
              return road_speed::parseTyre(typed.toStdString()).map([](const road_speed::Tyre& t) {
                  return tr("rolls %1 in a turn").arg(text(units::format(t.rolling_m(), Dimension::Length, "m", 3)));
              });
          })),
      m_takePlan(new KeyButton(tr("Take tyre and gears"), tr("T"), false)),
      m_takeRun(new KeyButton(tr("Take the run"), tr("R"), true)),
      m_count(new KeyButton(tr("Begin to count"), tr("Space"), false)),
      m_planned(figure({}, look::Size::Title)),
      m_measured(figure({}, look::Size::Title)),
      m_verdict(label({}, look::Size::Title, true)),
      m_held(label({}, look::Size::Body)),
      m_caution(new Caution)
{
    auto* plan = new QGridLayout;
    auto* run = new QGridLayout;
    addFields(plan, run);
    m_planned->setObjectName(QStringLiteral("speed-planned"));
    m_measured->setObjectName(QStringLiteral("speed-measured"));
    m_verdict->setObjectName(QStringLiteral("speed-verdict"));
    m_held->setObjectName(QStringLiteral("speed-held"));
    m_takePlan->setObjectName(QStringLiteral("speed-take-plan"));
    m_takeRun->setObjectName(QStringLiteral("speed-take-run"));
    m_count->setObjectName(QStringLiteral("speed-count"));
    m_caution->setObjectName(QStringLiteral("speed-caution"));
    m_caution->setText(tr("The driver drives, a passenger counts. On a closed road or within the law; on a lift or a "
                          "dynamometer as its own rules say."));
    auto* columns = new QHBoxLayout;
    columns->setSpacing(2 * look::kMargin);
    const auto side = [&](const QString& name, QLabel* number, QGridLayout* fields,
                          std::initializer_list<QWidget*> keys) {
        auto* box = new QWidget;
        auto* column = new QVBoxLayout(box);
        column->setContentsMargins(0, 0, 0, 0);
        auto* caption = label(name, look::Size::Small, false, true);
        for (QLabel* l : {caption, number})
            l->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
        column->addWidget(caption);
        column->addWidget(number);
        column->addLayout(fields);
        auto* row = new QHBoxLayout;
        for (QWidget* k : keys)
            row->addWidget(k);
        row->addStretch();
        column->addLayout(row);
        column->addStretch(1);
        columns->addWidget(box, 1);
    };
    side(tr("by tyre and gears"), m_planned, plan, {m_takePlan});
    side(tr("by a measured run"), m_measured, run, {m_count, m_takeRun});
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, look::kGap, 0, 0);
    column->addLayout(columns);
    column->addWidget(m_verdict);
    column->addWidget(m_held);
    column->addStretch(1);
    column->addWidget(m_caution);
    connect(m_takePlan, &QAbstractButton::clicked, this, [this] {
        if (m_plan)
            take(*m_plan, tr("tyre and gears"));
    });
    connect(m_takeRun, &QAbstractButton::clicked, this, [this] {
        if (m_run)
            take(*m_run, tr("a measured run"));
    });
    connect(m_count, &QAbstractButton::clicked, this, &SpeedView::toggleCount);
    for (const auto& [key, button] :
         {std::pair(Qt::Key_T, m_takePlan), {Qt::Key_R, m_takeRun}, {Qt::Key_Space, m_count}})
        connect(new QShortcut(QKeySequence(key), this), &QShortcut::activated, button, &QAbstractButton::click);
}

void SpeedView::addFields(QGridLayout* plan, QGridLayout* run)
{
    for (QGridLayout* g : {plan, run}) {
        g->setHorizontalSpacing(look::kGap);
        g->setColumnStretch(1, 1);
    }
    const auto number = [](double most) { return readsValue(Dimension::Counts, "", 0, most); };
    const auto plainly = [](double v) { return text(units::shortest(v)); };
    m_tyre->edit()->setPlaceholderText(QStringLiteral("205/55 R16"));
    addCaptioned(plan, tr("Tyre"), "speed-tyre", m_tyre);
    connect(m_tyre, &TypedField::entered, this, [this](const QString& typed) {
        change(tr("Tyre"), [&](job::RoadSpeed& s) { s.tyre = typed.trimmed().toStdString(); });
    });
    m_teeth = addValueRow(plan, tr("Pulses in a turn"), "speed-teeth", number(1000), plainly, [this](double v) {
        change(tr("Pulses in a turn"), [=](job::RoadSpeed& s) { s.pulsesPerTurn = v; });
    });
    m_ratio = addValueRow(
        plan, tr("Its turns to one of the wheel"), "speed-ratio", readsValue(Dimension::Counts, "", 0.01, 100), plainly,
        [this](double v) { change(tr("Ratio"), [=](job::RoadSpeed& s) { s.turnsPerWheelTurn = v; }); });
    m_pulses = addValueRow(run, tr("Pulses counted"), "speed-pulses", number(1e9), plainly, [this](double v) {
        change(tr("Pulses of the run"), [=](job::RoadSpeed& s) { s.runPulses = v; });
    });
    const auto metres = saysValue(Dimension::Length, "m", 1);
    m_distance = addValueRow(
        run, tr("On a distance of"), "speed-distance", readsValue(Dimension::Length, "m", 1, 1e6), metres,
        [this](double v) { change(tr("Distance of the run"), [=](job::RoadSpeed& s) { s.runDistance_m = v; }); });
    m_distanceError = addValueRow(
        run, tr("Known within ±"), "speed-distance-error", readsValue(Dimension::Length, "m", 0, 1e5), metres,
        [this](double v) { change(tr("Distance of the run"), [=](job::RoadSpeed& s) { s.runDistanceError_m = v; }); });
}

job::RoadSpeed SpeedView::told() const
{
    const job::Circuit* c = selectedCircuit(m_desk);
    return c != nullptr && c->roadSpeed ? *c->roadSpeed : job::RoadSpeed{};
}

void SpeedView::change(const QString& what, const std::function<void(job::RoadSpeed&)>& change)
{
    const job::Circuit* c = selectedCircuit(m_desk);
    if (c == nullptr)
        return;
    const job::CircuitId id = c->id;
    m_desk.store.editOrSay(what, [&](job::Job& job) {
        auto& speed = job::find(job, id)->roadSpeed;
        if (!speed)
            speed.emplace();
        change(*speed);
    });
}

void SpeedView::refresh()
{
    const job::RoadSpeed s = told();
    const parts::Part* sensor = selectedSensor(m_desk);
    const auto number = [](double v) { return v > 0 ? text(units::shortest(v)) : QString(); };
    m_tyre->setText(text(s.tyre));
    m_teeth->setText(number(s.pulsesPerTurn));
    m_ratio->setText(number(s.turnsPerWheelTurn));
    m_pulses->setText(number(s.runPulses));
    m_distance->setText(text(units::format(s.runDistance_m, Dimension::Length, "m", 1)));
    m_distanceError->setText(text(units::format(s.runDistanceError_m, Dimension::Length, "m", 1)));
    const auto tyre = road_speed::parseTyre(s.tyre);
    const road_speed::SpeedPlace place{s.pulsesPerTurn, s.turnsPerWheelTurn, tyre ? tyre->rolling_m() : 0};
    const road_speed::MeasuredRun run{s.runPulses, s.runDistance_m, s.runDistanceError_m};
    m_plan = tyre && s.pulsesPerTurn > 0 ? std::optional(place.pulsesPerMetre()) : std::nullopt;
    m_run = s.runPulses > 0 ? std::optional(run.pulsesPerMetre()) : std::nullopt;
    m_planned->setText(m_plan ? perKilometre(*m_plan) : QStringLiteral("–"));
    m_measured->setText(m_run ? perKilometre(*m_run) : QStringLiteral("–"));
    m_verdict->setText(m_plan ? tr("Count the pulses of a known kilometre, and the tyre is checked.")
                              : tr("Say the tyre, the pulses in a turn, and where they are counted."));
    setInk(m_verdict, look::colours().inkSoft);
    if (m_plan && m_run) {
        const auto verdict = road_speed::compareRun(place, run);
        m_verdict->setText(text(verdict ? verdict->sentence : verdict.error().sentence));
        setInk(m_verdict, verdict && verdict->agrees ? look::colours().done : look::colours().failing);
        if (!verdict)
            m_run.reset();
    }
    m_takePlan->setEnabled(m_plan.has_value());
    m_takeRun->setEnabled(m_run.has_value());
    if (sensor != nullptr && parts::countsValue(*sensor)) {
        const double hz = parts::hertzAt(*sensor, 100 * kKmh);
        m_held->setText(tr("The sensor's line now: %1, so %2 at %3.")
                            .arg(perKilometre(hz / (100 * kKmh)),
                                 text(units::format(hz, Dimension::Frequency, "Hz", 1)),
                                 text(units::format(100 * kKmh, Dimension::Speed, "km/h", 0))));
    }
    refreshLive();
}

void SpeedView::take(double pulsesPerMetre, const QString& from)
{
    const job::Circuit* c = selectedCircuit(m_desk);
    const parts::Part* fitted = selectedSensor(m_desk);
    if (c == nullptr || fitted == nullptr)
        return;
    const job::CircuitId id = c->id;
    parts::Part sensor = *fitted;
    if (!parts::setRates(sensor, pulsesPerMetre * sensor.low, pulsesPerMetre * sensor.high))
        return;
    sensor.id = parts::PartId{id.value + "-as-counted"};
    m_desk.store.editOrSay(tr("%1: line by %2").arg(text(c->name), from),
                           [&](job::Job& job) { return harness::setSensor(job, id, sensor); });
}

void SpeedView::toggleCount()
{
    m_counting = !m_counting;
    if (m_counting) {
        m_counted = 0;
        m_since.start();
    } else if (m_counted >= 1) {
        const double pulses = std::round(m_counted);
        change(tr("Pulses of the run"), [=](job::RoadSpeed& s) { s.runPulses = pulses; });
    }
    m_count->setText(m_counting ? tr("End of the distance") : tr("Begin to count"));
    m_count->updateGeometry();
}

void SpeedView::refreshLive()
{
    const job::Circuit* c = selectedCircuit(m_desk);
    const auto told = c == nullptr ? std::nullopt : m_desk.live.sample(inputIndex(*m_desk.store.job(), c->id));
    const auto hz = told ? told->hertz : std::nullopt;
    m_count->setEnabled(m_counting || (hz && m_desk.live.notOfNow().isEmpty()));
    if (!m_counting)
        return;
    if (!hz) {
        m_counting = false;
        m_count->setText(tr("Begin to count"));
        m_verdict->setText(tr("The link was lost while counting: that run does not count."));
        setInk(m_verdict, look::colours().failing);
        return;
    }
    m_counted += *hz * static_cast<double>(m_since.restart()) * 1e-3;
    m_measured->setText(tr("%1 pulses").arg(text(units::formatNumber(m_counted, 0))));
}

} // namespace vicegrip::app
