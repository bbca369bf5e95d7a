#include "app/stages/scale/readings_view.h"

#include "app/desk/when.h"
#include "app/views/selected.h"
#include "app/widgets/circuit_text.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "app/widgets/off_plot.h"
#include "app/widgets/paste_panel.h"
#include "app/widgets/typed_field.h"
#include "core/harness/edits.h"
#include "core/scaling/pairs.h"
#include "core/units/shown.h"

#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QShortcut>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace vicegrip::app {
namespace {

using units::Dimension;

constexpr look::Px kReadingWidth{120};
constexpr int kAllowedPlaces = 8;

QString terms(const parts::SteinhartHartCurve& curve)
{
    scaling::Formula formula;
    formula.takes = job::Takes::SteinhartHart;
    formula.terms = {curve.a, curve.b, curve.c};
    QStringList out;
    for (const auto& [name, number] : scaling::termsOf(formula))
        out << text(name) + QLatin1Char(' ') + text(number);
    return out.join(QStringLiteral("  "));
}

} // namespace

ReadingsView::ReadingsView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_value(valueField(desk, tr("The other instrument says"), "captured-value")),
      m_volts(new TypedField(tr("The input shows"),
                             [](const QString& typed) {
                                 return units::parse(typed.toStdString(), Dimension::Voltage, "V").map([](double v) {
                                     return voltsText(v);
                                 });
                             })),
      m_within(new TypedField(tr("The other instrument is good to"),
                              [this](const QString& typed) -> Result<QString> {
                                  const parts::Part* s = selectedSensor(m_desk);
                                  return s == nullptr || typed.trimmed().isEmpty()
                                             ? Result<QString>(QString())
                                             : differenceTyped(typed, shownUnit(*s)).map([s](double d) {
                                                   return tr("± %1 %2").arg(text(units::shortest(d)), shownUnit(*s));
                                               });
                              })),
      m_capture(new KeyButton(tr("Keep"), tr("K"), true)),
      m_aside(new QPushButton(tr("Set aside   S"))),
      m_remove(new QPushButton(tr("Remove   Del"))),
      m_pasting(new QPushButton(tr("Paste   P"))),
      m_curve(new QPushButton(tr("Make it the sensor's curve   M"))),
      m_plot(new OffPlot("readings-plot", tr("How far each reading is from the sheet"))),
      m_paste(new PastePanel("readings-paste", tr("Readings written down elsewhere"),
                             tr("Paste readings, a line each: what the other instrument said, and the volts."))),
      m_stack(new QStackedWidget),
      m_table(new ListTable("readings", tr("Readings beside another instrument"),
                            {{tr("Other instrument"), 150, true},
                             {tr("Input"), 90, true},
                             {tr("By the sheet"), 96, true},
                             {tr("Off"), 96, true},
                             {tr("Allowed"), 96, true},
                             {tr("Verdict"), 0, false}})),
      m_verdict(label({}, look::Size::Title, true)),
      m_fit(label({}, look::Size::Small))
{
    m_volts->leaveLettersWhileEmpty();
    m_volts->edit()->setObjectName(QStringLiteral("captured-volts"));
    m_within->leaveLettersWhileEmpty();
    m_within->edit()->setObjectName(QStringLiteral("captured-within"));
    m_within->setToolTip(tr("Half its range of error; it is kept with each reading. Empty: not known."));
    m_verdict->setObjectName(QStringLiteral("captured-verdict"));
    m_fit->setObjectName(QStringLiteral("captured-fit"));
    m_fit->setFont(look::numbers(look::Size::Small));
    layOut();
    connect(m_capture, &QAbstractButton::clicked, this, &ReadingsView::capture);
    connect(m_pasting, &QAbstractButton::clicked, this, [this] { showPaste(true); });
    connect(m_curve, &QAbstractButton::clicked, this, &ReadingsView::makeCurve);
    connect(m_paste, &PastePanel::typed, this, &ReadingsView::readPasted);
    connect(m_paste, &PastePanel::taken, this, &ReadingsView::takePasted);
    connect(m_paste, &PastePanel::left, this, [this] { showPaste(false); });
    connect(m_value, &TypedField::entered, this, [this] {
        if (!m_volts->text().isEmpty())
            capture();
        else
            m_volts->setFocus();
    });
    connect(m_volts, &TypedField::entered, this, [this] {
        if (!m_value->text().isEmpty())
            capture();
    });
    connect(m_aside, &QAbstractButton::clicked, this, [this] {
        change(tr("Reading set aside, or taken back"),
               [](std::vector<job::Captured>& all, size_t i) { all[i].setAside = !all[i].setAside; });
    });
    connect(m_remove, &QAbstractButton::clicked, this, [this] {
        change(tr("Reading removed"), [](std::vector<job::Captured>& all, size_t i) {
            all.erase(all.begin() + static_cast<std::ptrdiff_t>(i));
        });
    });
    connect(m_table, &QTableWidget::itemSelectionChanged, this, [this] {
        const bool any = m_table->currentRow() >= 0;
        m_aside->setEnabled(any);
        m_remove->setEnabled(any);
    });
}

void ReadingsView::layOut()
{
    auto* row = new QHBoxLayout;
    row->setSpacing(look::kMargin);
    for (const auto& [field, name] : {std::pair(m_value, tr("Other instrument")),
                                      {m_within, tr("Is good to ±")},
                                      {m_volts, tr("The input shows")}}) {
        auto* block = new QVBoxLayout;
        block->setSpacing(2);
        block->addWidget(label(name, look::Size::Small, false, true));
        field->setFixedWidth(kReadingWidth);
        block->addWidget(field);
        block->addStretch();
        row->addLayout(block);
    }
    auto* below = new QHBoxLayout; // what is done with what stands in the table
    for (const auto& [button, name, key] :
         {std::tuple(static_cast<QAbstractButton*>(m_capture), "capture", QKeySequence(Qt::Key_K)),
          {m_aside, "set-aside", QKeySequence(Qt::Key_S)},
          {m_remove, "remove-reading", QKeySequence(Qt::Key_Delete)},
          {m_pasting, "paste-readings", QKeySequence(Qt::Key_P)},
          {m_curve, "make-curve", QKeySequence(Qt::Key_M)}}) {
        button->setObjectName(QLatin1String(name));
        (button == m_capture ? row : below)->addWidget(button, 0, Qt::AlignVCenter);
        connect(new QShortcut(key, this), &QShortcut::activated, button, &QAbstractButton::click);
    }
    for (QPushButton* small : {m_aside, m_remove, m_pasting, m_curve})
        small->setFont(look::textFont(look::Size::Small));
    row->addStretch();
    below->addStretch();
    auto* readings = new QWidget;
    auto* column = new QVBoxLayout(readings);
    column->setContentsMargins(0, look::kGap, 0, 0);
    column->addLayout(row);
    column->addWidget(m_verdict);
    column->addWidget(m_table, 1);
    column->addWidget(m_plot, 1);
    column->addWidget(m_fit);
    column->addLayout(below);
    m_stack->addWidget(readings);
    m_stack->addWidget(m_paste);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(m_stack);
}

void ReadingsView::capture()
{
    const parts::Part* s = selectedSensor(m_desk);
    if (s == nullptr)
        return;
    const auto value = units::parseShown(m_value->text().toStdString(), s->measures, s->unit);
    const auto shown = units::parse(m_volts->text().toStdString(), Dimension::Voltage, "V");
    if (!value) {
        m_value->refuse(text(value.error().sentence));
        return;
    }
    if (!shown) {
        m_volts->refuse(text(shown.error().sentence));
        return;
    }
    const job::CircuitId id = selectedCircuit(m_desk)->id;
    const auto kept =
        m_desk.store.edit(tr("Reading of %1").arg(text(selectedCircuit(m_desk)->name)), [&](job::Job& job) {
            job::find(job, id)->captured.push_back({.value = *value,
                                                    .volts = *shown,
                                                    .when = nowText(),
                                                    .setAside = false,
                                                    .within = within(),
                                                    .extra = nlohmann::json::object()});
        });
    if (!kept) {
        m_value->refuse(text(kept.error().sentence));
        return;
    }
    m_value->edit()->clear();
    m_value->setFocus();
}

/// What was typed of the other instrument, SI.
double ReadingsView::within() const
{
    const parts::Part* s = selectedSensor(m_desk);
    const auto typed = s == nullptr ? fail(ErrorCode::Range, {}) : differenceTyped(m_within->text(), shownUnit(*s));
    return typed ? units::differenceFromShown(*typed, s->measures, s->unit) : 0;
}

void ReadingsView::change(const QString& what, const std::function<void(std::vector<job::Captured>&, size_t)>& change)
{
    const job::Circuit* c = selectedCircuit(m_desk);
    const int row = m_table->currentRow();
    if (c == nullptr || row < 0 || static_cast<size_t>(row) >= c->captured.size())
        return;
    const job::CircuitId id = c->id;
    m_desk.store.editOrSay(what,
                           [&](job::Job& job) { change(job::find(job, id)->captured, static_cast<size_t>(row)); });
}

void ReadingsView::refresh()
{
    const auto analysis = m_desk.store.analysis();
    const auto* view = analysis::find(*analysis, m_desk.selection.circuit());
    const bool another = m_shown != m_desk.selection.circuit();
    if (another) {
        showPaste(false);
        m_within->setText({}); // another circuit, another instrument
    }
    m_shown = m_desk.selection.circuit();
    m_measured.reset(); // what the readings made of it may be different now
    m_curve->setEnabled(false);
    if (view == nullptr || !view->table) {
        showNothing(tr("There is no table to compare with."));
        return;
    }
    if (another)
        showNothing({});
    m_compared.ask([analysis, id = m_shown] { return compare(analysis, id); });
    refreshLive();
}

ReadingsView::Verdict ReadingsView::compare(const AnalysisPtr& analysis, const job::CircuitId& id)
{
    const job::Job& job = *analysis->job;
    const job::Circuit& circuit = *job::find(job, id);
    const parts::Part& sensor = *job::sensorOf(job, circuit);
    const scaling::Table& table = *analysis::find(*analysis, id)->table;
    const auto compared = scaling::compareCaptured(job, circuit, table);
    Verdict out{analysis,
                id,
                compared,
                compared.and_then([&](const auto& v) { return scaling::asMeasured(circuit, sensor, v); }),
                scaling::budgetOver(job, circuit, table, kAllowedPlaces),
                {}};
    const auto car = electrics::build(job, {.surroundings = job.surroundings});
    const auto transfer = car ? scaling::Transfer::of(job, *car, circuit) : std::nullopt;
    if (compared && transfer)
        out.curve = scaling::fitAlong(*compared, *transfer, sensor, circuit.scaling);
    return out;
}

void ReadingsView::showNothing(const QString& why)
{
    m_fit->clear();
    m_plot->clear();
    m_table->fill({});
    m_verdict->setText(why);
}

void ReadingsView::showVerdict(const Verdict& verdict)
{
    if (verdict.analysis != m_desk.store.analysis() || verdict.circuit != m_desk.selection.circuit())
        return; // another is on its way
    if (!verdict.compared) {
        showNothing(text(verdict.compared.error().sentence));
        return;
    }
    const job::Job& job = *verdict.analysis->job;
    const job::Circuit& c = *job::find(job, verdict.circuit);
    const parts::Part& s = *job::sensorOf(job, c);
    const scaling::CapturedVerdict& compared = *verdict.compared;
    const auto& measured = verdict.measured;
    fillTable(c, s, compared);
    showPlot(c, s, verdict);
    const bool already = measured && measured->id == s.id && compared.agrees;
    m_measured = measured && !already ? std::optional(*measured) : std::nullopt;
    m_curve->setEnabled(m_measured.has_value());
    m_curve->setToolTip(measured ? tr("Tables, promises and budgets then follow it in place of the sheet.")
                                 : text(measured.error().sentence));
    m_verdict->setText(text(compared.sentence));
    setInk(m_verdict, !compared.enough   ? look::colours().inkSoft
                      : compared.suspect ? look::colours().stale
                      : compared.agrees  ? look::colours().done
                                         : look::colours().failing);
    m_fit->setText(fitText(s, compared));
}

/// What is off, with what is allowed, and the curve through the readings with its band of two standard deviations.
void ReadingsView::showPlot(const job::Circuit& circuit, const parts::Part& sensor, const Verdict& verdict)
{
    const auto shown = [&](double si) { return units::toShown(si, sensor.measures, sensor.unit); };
    const auto off = [&](double si) { return shown(si) - shown(0); };
    std::vector<OffPlot::Place> allowed, curve;
    for (const scaling::Budget& b : verdict.allowed)
        allowed.push_back({shown(b.value), 0, off(b.ahead)});
    for (const scaling::FitPlace& p : verdict.curve)
        curve.push_back({shown(p.value + p.off), -off(p.off), off(2 * p.sigma)});
    std::vector<OffPlot::Point> points;
    const auto& pairs = verdict.compared->pairs;
    for (size_t i = 0; i < circuit.captured.size(); ++i)
        points.push_back({shown(circuit.captured[i].value), off(pairs[i].off),
                          circuit.captured[i].setAside ? OffPlot::Mark::Aside
                          : pairs[i].agrees            ? OffPlot::Mark::Good
                                                       : OffPlot::Mark::Bad});
    m_plot->setAxes(tr("other instrument (%1)").arg(shownHeading(sensor)), tr("off (%1)").arg(shownUnit(sensor)));
    m_plot->show(curve, allowed, points);
}

void ReadingsView::showPaste(bool shown)
{
    m_stack->setCurrentIndex(shown ? 1 : 0);
    if (!shown)
        return;
    m_paste->setText({});
    readPasted();
    m_paste->setFocus();
}

void ReadingsView::readPasted()
{
    const parts::Part* s = selectedSensor(m_desk);
    if (s == nullptr)
        return;
    std::vector<PastePanel::Line> lines;
    qsizetype good = 0;
    for (const scaling::PairLine& l : scaling::readPairs(m_paste->text().toStdString(), *s, {})) {
        lines.push_back({l.line, text(l.sentence), l.pair.has_value()});
        good += l.pair ? 1 : 0;
    }
    m_paste->show(lines, tr("%1 readings understood, %2 left out.").arg(good).arg(qsizetype(lines.size()) - good),
                  good == 0 ? QString() : tr("Keep %1").arg(good));
}

void ReadingsView::takePasted()
{
    const parts::Part* s = selectedSensor(m_desk);
    if (s == nullptr)
        return;
    const auto lines = scaling::readPairs(m_paste->text().toStdString(), *s, nowText());
    const job::CircuitId id = selectedCircuit(m_desk)->id;
    const auto kept =
        m_desk.store.edit(tr("Readings of %1").arg(text(selectedCircuit(m_desk)->name)), [&](job::Job& job) {
            for (const scaling::PairLine& l : lines)
                if (l.pair) {
                    job::find(job, id)->captured.push_back(*l.pair);
                    job::find(job, id)->captured.back().within = within();
                }
        });
    if (kept)
        showPaste(false);
    else
        m_paste->show({}, text(kept.error().sentence), {});
}

void ReadingsView::makeCurve()
{
    if (!m_measured)
        return;
    const job::CircuitId id = selectedCircuit(m_desk)->id;
    const parts::Part measured = *m_measured;
    m_desk.store.editOrSay(tr("%1 as measured").arg(text(selectedCircuit(m_desk)->name)),
                           [&](job::Job& job) { return harness::setSensor(job, id, measured); });
}

void ReadingsView::fillTable(const job::Circuit& circuit, const parts::Part& sensor,
                             const scaling::CapturedVerdict& verdict)
{
    std::vector<QStringList> rows;
    const auto value = [&](double si) {
        return text(units::format(si, sensor.measures, sensor.unit, sensor.measures == Dimension::Lambda ? 3 : 1));
    };
    for (size_t i = 0; i < circuit.captured.size(); ++i) {
        const job::Captured& c = circuit.captured[i];
        const scaling::CapturedView& v = verdict.pairs[i];
        rows.push_back(
            {value(c.value) + (c.within > 0 ? QLatin1Char(' ') + errorText(sensor, c.within) : QString()),
             voltsText(c.volts), value(v.said),
             (v.off < 0 ? QStringLiteral("-") : QStringLiteral("+")) + errorText(sensor, std::abs(v.off)).mid(2),
             errorText(sensor, v.allowed),
             c.setAside             ? tr("set aside")
             : verdict.suspect == i ? tr("✗ the others contradict it")
             : v.agrees             ? tr("✓ as its sheet says")
                                    : tr("✗ not as its sheet says")});
    }
    m_table->fill(rows);
    const bool any = m_table->currentRow() >= 0;
    m_aside->setEnabled(any);
    m_remove->setEnabled(any);
}

QString ReadingsView::fitText(const parts::Part& sensor, const scaling::CapturedVerdict& verdict) const
{
    if (verdict.thermistor && verdict.thermistor->straight)
        return tr("A beta curve through them: %1 (K, Ω); worst %2 K off. With a third term it would turn back: look "
                  "whether a reading is off.")
            .arg(terms(verdict.thermistor->curve), text(units::formatNumber(verdict.thermistor->worst_k, 2)));
    if (verdict.thermistor)
        return tr("Steinhart-Hart through them: %1 (K, Ω); worst %2 K off.")
            .arg(terms(verdict.thermistor->curve), text(units::formatNumber(verdict.thermistor->worst_k, 2)));
    if (verdict.bent)
        return tr("A smooth curve through all of them, which never turns back, from %1 to %2.")
            .arg(text(units::format(verdict.bent->breakpoints().front().y, sensor.measures, sensor.unit, 1)),
                 text(units::format(verdict.bent->breakpoints().back().y, sensor.measures, sensor.unit, 1)));
    if (verdict.line) {
        const auto shown = [&](double si) { return units::toShown(si, sensor.measures, sensor.unit); };
        const double slope = shown(verdict.line->slope) - shown(0);
        QString said = tr("A line through them: %1 %2 at 0 V, and %3 %2 more for every volt (one sigma %4).")
                           .arg(text(units::formatNumber(shown(verdict.line->intercept), 3)), shownUnit(sensor),
                                text(units::formatNumber(slope, 4)),
                                text(units::formatNumber(shown(verdict.line->sigmaSlope) - shown(0), 4)));
        if (verdict.weighed && verdict.line->chiSquared > fit::chiSquaredLimit(verdict.line->freedom))
            said += tr(" They scatter more than the other instrument's error explains.");
        return said;
    }
    return {};
}

/// The input's volts come by themselves while the ECU sends.
void ReadingsView::refreshLive()
{
    const job::Circuit* c = selectedCircuit(m_desk);
    const bool past = !m_desk.live.notOfNow().isEmpty(); // it stood beside no instrument of now
    const auto volts = c == nullptr || past ? std::nullopt : m_desk.live.volts(*m_desk.store.job(), *c);
    if (volts && !m_volts->edit()->hasFocus())
        m_volts->setText(voltsText(*volts));
    m_volts->setEnabled(!volts);
}

} // namespace vicegrip::app
