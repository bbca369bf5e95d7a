#include "app/stages/scale/fuel_view.h"

#include "app/desk/when.h"
#include "app/stages/scale/fill_watch_row.h"
#include "app/stages/scale/settling_plot.h"
#include "app/views/selected.h"
#include "app/widgets/caution.h"
#include "app/widgets/circuit_text.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/typed_field.h"
#include "app/widgets/value_row.h"
#include "core/base/phrase.h"
#include "core/fuel/flex.h"
#include "core/units/shown.h"

#include <QGridLayout>
#include <QLineEdit>
#include <QShortcut>

namespace vicegrip::app {
namespace {

using units::Dimension;

constexpr look::Px kSensorWidth{300};
constexpr double kLitre = 1e-3, kPerHour = kLitre / 3600;

QString litres(double m3)
{
    return text(units::format(m3, Dimension::Volume, "l", m3 < 2 * kLitre ? 2 : 1));
}

QString flowText(double m3_per_s)
{
    return text(units::format(m3_per_s * 3600, Dimension::Volume, "l", 0)) + QStringLiteral("/h");
}

/// "60 l/h": a volume in an hour.
Result<double> flowTyped(const QString& typed)
{
    QString volume = typed.trimmed();
    if (volume.endsWith(QLatin1String("/h")))
        volume.chop(2);
    return units::parseShown(volume.toStdString(), Dimension::Volume, "l").and_then([](double m3) -> Result<double> {
        if (!(m3 > 0) || m3 > 1)
            return fail(ErrorCode::Range, phrase("expected a flow such as {}", flowText(60 * kPerHour).toStdString()));
        return m3 / 3600;
    });
}

} // namespace

FuelView::FuelView(Desk& desk, QWidget* parent)
    : QWidget(parent), m_desk(desk), m_caution(new Caution), m_plot(new SettlingPlot), m_watch(new FillWatchRow(desk))
{
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, look::kGap, 0, 0);
    grid->setHorizontalSpacing(look::kMargin);
    QWidget* sensor = buildSensor();
    sensor->setFixedWidth(kSensorWidth);
    grid->addWidget(sensor, 0, 0, 2, 1);
    grid->addWidget(buildTank(), 0, 1);
    grid->addWidget(m_plot, 1, 1);
    m_caution->setObjectName(QStringLiteral("fuel-caution"));
    grid->addWidget(m_watch, 2, 0, 1, 2);
    grid->addWidget(m_caution, 3, 0, 1, 2);
    grid->setRowStretch(1, 1);
    grid->setColumnStretch(1, 1);
    connect(m_watch, &FillWatchRow::moved, this, [this] { m_plot->showSeen(m_watch->shown()); });
}

QWidget* FuelView::buildSensor()
{
    auto* box = new QWidget;
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6_px);
    column->addWidget(label(tr("the sensor says"), look::Size::Small, false, true));
    m_now = figure({}, look::Size::Big);
    m_now->setObjectName(QStringLiteral("flex-now"));
    m_verdict = label({}, look::Size::Body);
    m_verdict->setObjectName(QStringLiteral("flex-verdict"));
    column->addWidget(m_now);
    column->addWidget(m_verdict);
    auto* grid = new QGridLayout;
    grid->setColumnStretch(1, 1);
    m_hz = addValueRow(
        grid, tr("Frequency"), "flex-hz", readsValue(Dimension::Frequency, "Hz", 0, 1000),
        [](double hz) { return text(units::format(hz, Dimension::Frequency, "Hz", 1)); },
        [this](double hz) {
            m_typedHz = hz;
            refreshLive();
        });
    m_pulse = addValueRow(
        grid, tr("Low for"), "flex-pulse",
        [](const QString& typed) {
            QString number = typed.trimmed();
            if (number.endsWith(QLatin1String("ms")))
                number.chop(2);
            return units::parse(number.toStdString(), Dimension::Counts).map([](double ms) { return ms * 1e-3; });
        },
        [](double s) { return QStringLiteral("%1 ms").arg(text(units::formatNumber(s * 1e3, 2))); },
        [this](double s) {
            m_typedPulse_s = s;
            refreshLive();
        });
    column->addLayout(grid);
    m_setBaseline = new KeyButton(tr("This is the baseline"), tr("B"), true);
    m_setBaseline->setObjectName(QStringLiteral("flex-set-baseline"));
    column->addWidget(m_setBaseline, 0, Qt::AlignLeft);
    m_baseline = label({}, look::Size::Body);
    m_baseline->setObjectName(QStringLiteral("flex-baseline"));
    column->addWidget(m_baseline);
    column->addStretch();
    connect(m_setBaseline, &QAbstractButton::clicked, this, &FuelView::setBaseline);
    connect(new QShortcut(QKeySequence(Qt::Key_B), this), &QShortcut::activated, m_setBaseline,
            &QAbstractButton::click);
    return box;
}

QWidget* FuelView::buildTank()
{
    auto* box = new QWidget;
    auto* grid = new QGridLayout(box);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(look::kMargin);
    auto* fills = new QGridLayout;
    auto* tank = new QGridLayout;
    for (QGridLayout* g : {fills, tank}) {
        g->setHorizontalSpacing(look::kGap);
        g->setVerticalSpacing(6_px);
        g->setColumnStretch(1, 1);
    }
    m_in = addFill(fills, tr("In the tank"), "fill-in", &Plan::in);
    m_add = addFill(fills, tr("Goes in"), "fill-add", &Plan::add);
    const auto volume = [](double m3) { return litres(m3); };
    m_capacity =
        addValueRow(tank, tr("Tank holds"), "tank-capacity", readsValue(Dimension::Volume, "l", kLitre, 1), volume,
                    [this](double m3) { change(tr("Tank"), [=](job::Tank& t) { t.capacity_m3 = m3; }); });
    m_line = addValueRow(tank, tr("Line to the sensor"), "tank-line", readsValue(Dimension::Volume, "l", 0, 0.05),
                         volume, [this](double m3) { change(tr("Fuel line"), [=](job::Tank& t) { t.line_m3 = m3; }); });
    m_flow = addValueRow(tank, tr("Flow at idle"), "tank-flow", flowTyped, flowText, [this](double flow) {
        change(tr("Fuel flow"), [=](job::Tank& t) { t.flow_m3_per_s = flow; });
    });
    m_ready = addValueRow(
        tank, tr("Calibrated up to"), "tank-ready", readsValue(Dimension::Ratio, "%", 0, 1),
        [](double share) { return percentText(share, 0); },
        [this](double share) { change(tr("Calibrated up to"), [=](job::Tank& t) { t.readyFor = share; }); });
    auto* outcome = new QVBoxLayout;
    m_outcome = figure({}, look::Size::Title);
    m_outcome->setObjectName(QStringLiteral("fill-outcome"));
    m_detail = label({}, look::Size::Small);
    m_detail->setObjectName(QStringLiteral("fill-detail"));
    outcome->addWidget(m_outcome);
    outcome->addWidget(m_detail);
    outcome->addStretch();
    auto* left = new QVBoxLayout;
    left->addLayout(fills);
    left->addLayout(outcome);
    auto* right = new QVBoxLayout;
    right->addLayout(tank);
    right->addStretch();
    grid->addLayout(left, 0, 0);
    grid->addLayout(right, 0, 1);
    grid->setColumnStretch(0, 1);
    grid->setColumnStretch(1, 1);
    return box;
}

TypedField* FuelView::addFill(QGridLayout* grid, const QString& name, const char* objectName,
                              std::optional<fuel::Fill> Plan::*fill)
{
    auto* field = new TypedField(name, [](const QString& typed) {
        return fuel::parseFill(typed.toStdString()).map([](const fuel::Fill& f) {
            return tr("%1 with %2 ethanol").arg(litres(f.volume_m3), percentText(f.ethanol, 0));
        });
    });
    field->edit()->setPlaceholderText(tr("20 l E10"));
    addCaptioned(grid, name, objectName, field);
    connect(field, &TypedField::entered, this, [this, fill](const QString& typed) {
        if (const auto f = fuel::parseFill(typed.toStdString())) {
            m_plan.*fill = *f;
            showPlan();
        }
    });
    return field;
}

job::Tank FuelView::tank() const
{
    return m_desk.store.job()->tank.value_or(job::Tank{});
}

void FuelView::change(const QString& what, const std::function<void(job::Tank&)>& change)
{
    m_desk.store.editOrSay(what, [&](job::Job& job) {
        if (!job.tank)
            job.tank.emplace();
        change(*job.tank);
    });
}

void FuelView::refresh()
{
    const job::Tank t = tank();
    m_capacity->setText(litres(t.capacity_m3));
    m_line->setText(litres(t.line_m3));
    m_flow->setText(t.flow_m3_per_s > 0 ? flowText(t.flow_m3_per_s) : QString());
    m_ready->setText(percentText(t.readyFor, 0));
    showSignal();
    showPlan();
}

void FuelView::refreshLive()
{
    showSignal();
    m_watch->hear(m_content);
}

void FuelView::showSignal()
{
    const auto& c = look::colours();
    const auto told = m_desk.live.sample(inputIndex(*m_desk.store.job(), m_desk.selection.circuit()));
    const auto liveHz = told ? told->hertz : std::nullopt, liveLow_s = told ? told->low_s : std::nullopt;
    m_hz->setEnabled(!liveHz);
    m_pulse->setEnabled(!liveLow_s);
    m_content.reset();
    if (liveHz)
        m_hz->setText(text(units::format(*liveHz, Dimension::Frequency, "Hz", 1)));
    if (liveLow_s)
        m_pulse->setText(QStringLiteral("%1 ms").arg(text(units::formatNumber(*liveLow_s * 1e3, 2))));
    const auto hz = liveHz ? liveHz : m_typedHz;
    if (!hz) {
        const job::Circuit* of = selectedCircuit(m_desk);
        m_now->setText(of == nullptr ? QStringLiteral("–")
                                     : m_desk.live.missing(*m_desk.store.job(), *of, proof::StationKind::Input,
                                                           QStringLiteral("–")));
        setInk(m_now, c.inkSoft);
        m_verdict->setText(tr("Type the frequency a meter shows at the signal wire, or connect the ECU."));
        setInk(m_verdict, c.inkSoft);
    } else if (const auto signal = fuel::readSignal(*hz, liveLow_s.value_or(m_typedPulse_s.value_or(0))); signal) {
        m_now->setText(signal->usable ? percentText(signal->content, 1) : QStringLiteral("✗"));
        setInk(m_now, signal->usable ? c.ink : c.failing);
        m_verdict->setText(text(signal->verdict));
        setInk(m_verdict, signal->usable ? c.ink : c.failing);
        if (signal->usable)
            m_content = signal->content;
    } else {
        m_verdict->setText(text(signal.error().sentence));
    }
    m_setBaseline->setEnabled(m_content.has_value());
    const job::Tank t = tank();
    if (!t.baseline) {
        m_baseline->setText(
            tr("No baseline yet. On ordinary pump fuel, engine warm and idling, take what the sensor shows: "
               "there the ethanol correction must read 100 %."));
        return;
    }
    QString said = tr("Baseline %1, taken %2: there the ethanol correction must read 100 %.")
                       .arg(percentText(*t.baseline, 1), text(t.when.substr(0, 10)));
    if (m_content) {
        const auto now = fuel::correction(*m_content, *t.baseline);
        said += tr(" Now it must read %1 by mass (%2 through the injectors).")
                    .arg(percentText(now.mass, 1), percentText(now.volume, 1));
    }
    m_baseline->setText(said);
}

void FuelView::setBaseline()
{
    if (!m_content)
        return;
    const double content = *m_content;
    const std::string when = nowText();
    m_desk.store.editOrSay(tr("Flex baseline %1").arg(percentText(content, 1)), [&](job::Job& job) {
        if (!job.tank)
            job.tank.emplace();
        job.tank->baseline = content;
        job.tank->when = when;
        job::note(job, when, m_desk.selection.circuit().value,
                  "Flex fuel: baseline " + percentText(content, 1).toStdString());
    });
}

void FuelView::showPlan()
{
    const job::Tank t = tank();
    m_detail->clear();
    m_caution->setText(
        tr("Fuel: no flame, engine cool, extinguisher at hand, ventilate. Never run a blend the calibration "
           "is not ready for; keep to the fuel it was tuned on until it is."));
    m_watch->plan({}, {});
    if (!m_plan.in || !m_plan.add) {
        m_outcome->setText(QStringLiteral("–"));
        m_plot->clear(tr("Say what is in the tank and what goes in."));
        return;
    }
    const auto mixed = fuel::blend({*m_plan.in, *m_plan.add}, t.capacity_m3);
    if (!mixed) {
        m_outcome->setText(QStringLiteral("✗"));
        m_detail->setText(text(mixed.error().sentence));
        setInk(m_detail, look::colours().failing);
        m_plot->clear({});
        return;
    }
    setInk(m_detail, look::colours().ink);
    m_outcome->setText(
        tr("%1 of E%2").arg(litres(mixed->volume_m3), text(units::formatNumber(mixed->ethanol * 100, 1))));
    const auto needs = fuel::correction(mixed->ethanol, t.baseline.value_or(0.10));
    m_detail->setText(tr("The sensor will show %1. Stoichiometric %2 to 1. Fuel against %3: %4 by mass, %5 through the "
                         "injectors. What is sold as E85 may hold 51 to 83 %: believe the sensor.")
                          .arg(text(units::format(fuel::frequencyAt(mixed->ethanol), Dimension::Frequency, "Hz", 1)),
                               text(units::formatNumber(fuel::stoichiometric(mixed->ethanol), 2)),
                               t.baseline ? tr("the baseline") : tr("E10"), percentText(needs.mass, 1),
                               percentText(needs.volume, 1)));
    if (mixed->ethanol > t.readyFor)
        m_caution->setText(
            tr("Stop: this gives %1 ethanol, and the calibration is ready for %2. Do not start it on this "
               "fuel: it would run lean and could hole a piston.")
                .arg(percentText(mixed->ethanol, 1), percentText(t.readyFor, 0)));
    const auto settling = fuel::Settling::of(m_plan.in->ethanol, mixed->ethanol, t.line_m3, t.flow_m3_per_s);
    if (settling) {
        m_plot->show(*settling, m_plan.in->ethanol, mixed->ethanol);
        m_watch->plan(fuel::Pour{*m_plan.in, *m_plan.add}, *settling);
    } else {
        m_plot->clear(tr("Say the flow at idle to see how the reading will climb."));
    }
}

} // namespace vicegrip::app
