#include "app/stages/scale/table_view.h"

#include "app/desk/exports.h"
#include "app/desk/part_library.h"
#include "app/desk/when.h"
#include "app/stages/scale/circuit_form.h"
#include "app/stages/scale/old_table.h"
#include "app/stages/scale/points_panel.h"
#include "app/stages/scale/verifier.h"
#include "app/stages/scale/verify_round.h"
#include "app/store/whole_file.h"
#include "app/views/selected.h"
#include "app/widgets/circuit_text.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/state_glyph.h"
#include "app/widgets/transfer_plot.h"
#include "app/widgets/typed_field.h"
#include "core/electrics/sensor_model.h"
#include "core/findings/scale_checks.h"
#include "core/units/shown.h"

#include <QDir>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QShortcut>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace vicegrip::app {
namespace {

using proof::StationKind;

constexpr look::Px kFormWidth{250}, kLeastForm{200};

} // namespace

TableView::TableView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_form(new CircuitForm(desk)),
      m_plot(new TransferPlot),
      m_points(new PointsPanel(desk)),
      m_stack(new QStackedWidget),
      m_old(new OldTable(desk)),
      m_verifier(new Verifier(desk, this)),
      m_round(new VerifyRound(desk, *m_verifier, this))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    auto* upper = new QHBoxLayout;
    upper->setSpacing(look::kMargin);
    auto* left = new QWidget;
    left->setMinimumWidth(kLeastForm);
    left->setMaximumWidth(kFormWidth);
    auto* leftColumn = new QVBoxLayout(left);
    leftColumn->setContentsMargins(0, 0, 0, 0);
    leftColumn->addWidget(m_form);
    leftColumn->addStretch(1);
    buildStimulus(leftColumn);
    upper->addWidget(left);
    upper->addWidget(m_plot, 1);
    upper->addWidget(m_points);
    auto* shown = new QWidget;
    shown->setLayout(upper);
    upper->setContentsMargins(0, 0, 0, 0);
    m_stack->addWidget(shown);
    m_stack->addWidget(m_old);
    column->addWidget(m_stack, 1);
    connect(m_old, &OldTable::left, this, [this] { showOld(false); });
    connect(m_verifier, &Verifier::progressed, this, &TableView::showVerified);
    connect(m_verifier, &Verifier::finished, this, [this](const QString& verdict, bool good) {
        m_verify->setText(tr("Verify"));
        if (!m_round->isRunning())
            say(verdict, !good);
    });
    connect(m_round, &VerifyRound::said, this, &TableView::say);
    connect(m_round, &VerifyRound::ended, this, [this] { m_verifyAll->setText(allText()); });
    column->addSpacing(look::kGap);
    buildVerify(column);
    connect(m_points, &PointsPanel::copied, this, [this](const QString& sentence) { say(sentence); });
}

/// Hands on the simulated car, and what goes in and out as text.
void TableView::buildStimulus(QVBoxLayout* column)
{
    m_stimulus = valueField(m_desk, tr("Stimulus on the bench"), "stimulus");
    m_stimulus->edit()->setPlaceholderText(tr("bench: stimulus"));
    column->addWidget(m_stimulus);
    connect(m_stimulus, &TypedField::entered, this, &TableView::apply);
    m_compare = new QPushButton(tr("Compare   O"));
    m_compare->setObjectName(QStringLiteral("compare"));
    m_compare->setAccessibleName(tr("Compare with the table the ECU holds now"));
    m_export = new QPushButton(tr("Write   X"));
    m_export->setObjectName(QStringLiteral("export"));
    m_export->setAccessibleName(tr("Write what the ECU takes, as CSV and JSON"));
    auto* row = new QHBoxLayout;
    for (QPushButton* b : {m_compare, m_export}) {
        b->setFont(look::textFont(look::Size::Small));
        row->addWidget(b);
    }
    row->addStretch();
    column->addLayout(row);
    m_verifyAll = new QPushButton(allText());
    m_verifyAll->setObjectName(QStringLiteral("verify-all"));
    m_verifyAll->setAccessibleName(tr("Send every table and compare each at ten places on the bench"));
    m_verifyAll->setFont(look::textFont(look::Size::Small));
    connect(m_verifyAll, &QAbstractButton::clicked, this, [this] {
        letGo();
        m_round->toggle();
        m_verifyAll->setText(allText());
    });
    connect(new QShortcut(QKeySequence(Qt::SHIFT | Qt::Key_V), this), &QShortcut::activated, m_verifyAll,
            &QAbstractButton::click);
    connect(m_compare, &QAbstractButton::clicked, this, [this] { showOld(m_stack->currentIndex() == 0); });
    connect(m_export, &QAbstractButton::clicked, this, &TableView::exportBeside);
    connect(new QShortcut(QKeySequence(Qt::Key_O), this), &QShortcut::activated, m_compare, &QAbstractButton::click);
    connect(new QShortcut(QKeySequence(Qt::Key_X), this), &QShortcut::activated, m_export, &QAbstractButton::click);
}

QString TableView::allText() const
{
    return m_round->isRunning() ? tr("Stop   Shift+V") : tr("Verify all   Shift+V");
}

void TableView::buildVerify(QVBoxLayout* column)
{
    auto* row = new QHBoxLayout;
    row->setSpacing(6_px); // the numbers are long where people read psi
    const auto block = [&](const QString& name, const char* objectName) {
        auto* inside = new QVBoxLayout;
        inside->setSpacing(0);
        auto* caption = label(name, look::Size::Small, false, true);
        caption->setWordWrap(false);
        inside->addWidget(caption);
        QLabel* number = figure({}, look::Size::Title);
        number->setObjectName(QLatin1String(objectName));
        inside->addWidget(number);
        row->addLayout(inside);
        row->addSpacing(6_px);
        return std::pair(caption, number);
    };
    std::tie(m_mustReturn, m_expected) = block(tr("must return"), "expected-value");
    m_returned = block(tr("ECU returns"), "returned-value").second;
    m_said = label({}, look::Size::Small);
    m_said->setObjectName(QStringLiteral("said"));
    m_mixUp = label({}, look::Size::Body, true);
    m_mixUp->setObjectName(QStringLiteral("mix-up"));
    setInk(m_mixUp, look::colours().failing);
    m_mixUp->hide();
    column->addWidget(m_mixUp);
    auto* saying = new QHBoxLayout;
    saying->addWidget(m_said, 1);
    saying->addWidget(m_verifyAll);
    column->addLayout(saying);
    row->addStretch(1);
    m_send = new KeyButton(tr("Send to ECU"), tr("E"), true);
    m_send->setObjectName(QStringLiteral("send"));
    m_record = new KeyButton(tr("Record"), tr("R"), false);
    m_record->setObjectName(QStringLiteral("record"));
    m_verify = new KeyButton(tr("Verify"), tr("V"), false);
    m_verify->setObjectName(QStringLiteral("verify"));
    m_verify->setAccessibleName(tr("Compare at ten places on the bench"));
    for (KeyButton* b : {m_send, m_record, m_verify})
        row->addWidget(b);
    connect(m_verify, &QAbstractButton::clicked, this, [this] {
        m_plot->showPlaces({});
        letGo();
        m_verifier->toggle();
        if (m_verifier->isRunning()) {
            m_verify->setText(tr("Stop"));
            say(tr("Moving the sensor over its range"));
        }
    });
    connect(new QShortcut(QKeySequence(Qt::Key_V), this), &QShortcut::activated, m_verify, &QAbstractButton::click);
    column->addLayout(row);
    connect(m_send, &QAbstractButton::clicked, this, &TableView::send);
    connect(m_record, &QAbstractButton::clicked, this, &TableView::record);
    connect(new QShortcut(QKeySequence(Qt::Key_E), this), &QShortcut::activated, this, &TableView::send);
    connect(new QShortcut(QKeySequence(Qt::Key_R), this), &QShortcut::activated, this, &TableView::record);
}

std::optional<InputNow> TableView::sample() const
{
    return m_analysis ? m_desk.live.sample(inputIndex(*m_analysis->job, m_desk.selection.circuit())) : std::nullopt;
}

std::optional<double> TableView::readingNow() const
{
    const job::Circuit* c = m_analysis ? job::find(*m_analysis->job, m_desk.selection.circuit()) : nullptr;
    return c == nullptr ? std::nullopt : m_desk.live.reading(*m_analysis->job, *c);
}

const proof::Expectation* TableView::expected(StationKind kind) const
{
    for (const proof::Judged& j : m_stations)
        if (j.expectation.station.kind == kind)
            return &j.expectation;
    return nullptr;
}

void TableView::refresh()
{
    const bool sameCircuit =
        m_analysis && m_said->property("circuit").toString() == text(m_desk.selection.circuit().value);
    if (!sameCircuit && m_verifier->isRunning())
        m_verifier->toggle();
    if (!sameCircuit || m_analysis != m_desk.store.analysis())
        letGo(); // what must come back was worked out for the job as it was
    m_analysis = m_desk.store.analysis();
    m_stations = m_desk.promises.of(m_desk.selection.circuit(), m_desk.selection.heardUnder());
    m_form->refresh();
    const job::Circuit* circuit = job::find(*m_analysis->job, m_desk.selection.circuit());
    const auto* view = analysis::find(*m_analysis, m_desk.selection.circuit());
    const parts::Part* sensor = circuit == nullptr ? nullptr : job::sensorOf(*m_analysis->job, *circuit);
    if (!sameCircuit && !m_round->isRunning())
        say({});
    m_said->setProperty("circuit", text(m_desk.selection.circuit().value));
    if (view == nullptr || sensor == nullptr) {
        m_plot->clear();
        m_points->clear(tr("Choose a circuit on the left."));
        return;
    }
    if (!sameCircuit)
        showOld(false);
    m_plot->show(*view, analysis::curve(*m_analysis, view->id), *sensor);
    std::vector<TransferPlot::Place> captured;
    for (const job::Captured& c : circuit->captured)
        if (!c.setAside)
            captured.push_back({c.volts, units::toShown(c.value, sensor->measures, sensor->unit)});
    m_plot->showCaptured(captured);
    m_compare->setEnabled(view->table.has_value());
    m_points->show(*m_analysis->job, *view, *circuit, *sensor);
    m_send->setEnabled(view->table.has_value());
    m_export->setEnabled(view->table.has_value());
    refreshLive();
}

void TableView::refreshLive()
{
    const auto& c = look::colours();
    const auto now = sample();
    const proof::Expectation* value = m_held ? &*m_held : expected(StationKind::Value);
    m_plot->showNow(readingNow());
    m_expected->setText(value != nullptr && value->promises() ? text(job::readingText(value->due, value->unit))
                                                              : QStringLiteral("–"));
    const QString onEcu =
        value != nullptr && value->promises() ? text(job::readingTextOnEcu(value->due, value->unit)) : QString();
    m_mustReturn->setText(onEcu.isEmpty() ? tr("must return") : tr("must return %1").arg(onEcu));
    m_expected->setToolTip(value != nullptr && value->promises() ? text(proof::boundsText(*value)) : QString());
    const bool bench = m_desk.live.bench().isReady();
    m_stimulus->setVisible(bench);
    m_verify->setEnabled(!m_round->isRunning() && (m_verifier->isRunning() || m_verifier->obstacle().isEmpty()));
    m_verifyAll->setEnabled(m_round->isRunning() || (bench && m_desk.live.ecuLive() && !m_verifier->isRunning()));
    m_mixUp->hide();
    const bool still =
        m_desk.selection.condition() == job::Condition::KeyOn; // a table is proved with the engine stopped
    m_record->setEnabled(still && m_desk.live.notOfNow().isEmpty() && now && now->value && value != nullptr &&
                         value->promises() && !m_held);
    if (!now || !now->value || value == nullptr) {
        const job::Circuit* of = job::find(*m_analysis->job, m_desk.selection.circuit());
        m_returned->setText(
            of == nullptr ? QString() : m_desk.live.missing(*m_analysis->job, *of, StationKind::Value, tr("no link")));
        setInk(m_returned, c.inkSoft);
        return;
    }
    const job::Circuit* circuit = job::find(*m_analysis->job, m_desk.selection.circuit());
    const auto read = m_desk.live.now(*m_analysis->job, *circuit, *value);
    const bool right = value->allows(*read);
    m_returned->setText(text(job::readingText(*read, value->unit)) +
                        (right ? QStringLiteral(" ✓") : QStringLiteral(" ✗")));
    m_returned->setToolTip(value->promises() ? text(proof::verdictText(*value, *read)) : QString());
    setInk(m_returned, right ? c.done : c.failing);
    const auto mixUp = right || !value->promises() || m_held
                           ? std::nullopt
                           : findings::mixUpOf(*m_analysis->job, *job::sensorOf(*m_analysis->job, *circuit), *value,
                                               read->si(), library().parts);
    m_mixUp->setText(mixUp ? tr("It %1. %2").arg(text(mixUp->what), text(mixUp->todo)) : QString());
    m_mixUp->setVisible(mixUp.has_value());
}

void TableView::send()
{
    const auto* view = m_analysis ? analysis::find(*m_analysis, m_desk.selection.circuit()) : nullptr;
    const job::Circuit* circuit = m_analysis ? job::find(*m_analysis->job, m_desk.selection.circuit()) : nullptr;
    if (view == nullptr || circuit == nullptr || !view->table)
        return;
    say(tr("Sending"));
    m_desk.live.sendTable(inputIndex(*m_analysis->job, circuit->id), *view->table,
                          job::sensorOf(*m_analysis->job, *circuit)->measures, [this](const QString& trouble) {
                              if (trouble.isEmpty())
                                  say(tr("The ECU took the table. Compare what it returns, then record it."));
                              else
                                  say(trouble, true);
                          });
}

void TableView::record()
{
    const job::Circuit* circuit = m_analysis ? job::find(*m_analysis->job, m_desk.selection.circuit()) : nullptr;
    if (circuit == nullptr)
        return;
    std::vector<job::Proof> proofs;
    const std::string when = nowText();
    for (StationKind kind : {StationKind::Input, StationKind::Counts, StationKind::Value}) {
        const proof::Expectation* e = expected(kind);
        const auto value = e == nullptr ? std::nullopt : m_desk.live.now(*m_analysis->job, *circuit, *e);
        if (value && e->promises())
            proofs.push_back(proof::record(m_analysis->facts, circuit->id, *e, *value, job::ReadingSource::Ecu, when));
    }
    if (proofs.empty())
        return;
    const auto kept = m_desk.store.edit(tr("What the ECU returned"), [&](job::Job& job) {
        job.proofs.insert(job.proofs.end(), proofs.begin(), proofs.end());
    });
    say(kept ? tr("Recorded.") : QString::fromStdString(kept.error().sentence), !kept);
}

/// Hands on the simulated car.
void TableView::apply(const QString& typed)
{
    const parts::Part* s = selectedSensor(m_desk);
    if (s == nullptr)
        return;
    const auto value = units::parseShown(typed.toStdString(), s->measures, s->unit);
    const job::Circuit* c = selectedCircuit(m_desk);
    const auto* view = analysis::find(*m_analysis, c->id);
    if (!value || view == nullptr || !view->table)
        return;
    m_applied.ask([analysis = m_analysis, id = c->id, value = *value] { return budgetPlace(analysis, id, value); });
}

void TableView::hold(const BudgetPlace& applied)
{
    const proof::Expectation* atRest = expected(StationKind::Value);
    if (applied.analysis != m_analysis || applied.circuit != m_desk.selection.circuit() || atRest == nullptr)
        return; // it was meant for the job as it was
    if (!applied.budget) {
        m_stimulus->refuse(text(applied.budget.error().sentence));
        return;
    }
    const job::Circuit& c = *job::find(*m_analysis->job, applied.circuit);
    const double step = scaling::outputStep(*job::sensorOf(*m_analysis->job, c), c.scaling);
    m_held = *atRest;
    m_held->trouble.clear();
    m_held->due = m_held->reading(applied.budget->shown);
    m_held->low = applied.value - applied.budget->worst - step;
    m_held->high = applied.value + applied.budget->worst + step;
    m_heldCircuit = c.id;
    m_desk.live.bench().setMeasurand(text(c.id.value), applied.value, [this](const QString& error) {
        if (!error.isEmpty())
            say(error, true);
    });
    say(tr("The bench holds it there until another circuit is chosen, or the job changes."));
    refreshLive();
}

/// The stimulus goes back to rest.
void TableView::letGo()
{
    if (!m_held)
        return;
    m_held.reset();
    m_stimulus->setText({});
    const auto job = m_desk.store.job();
    if (const job::Circuit* c = job::find(*job, m_heldCircuit))
        m_desk.live.bench().setMeasurand(text(c->id.value), electrics::atRest(*c, job->surroundings).value);
}

void TableView::showVerified()
{
    const job::Circuit* c = m_analysis ? job::find(*m_analysis->job, m_desk.selection.circuit()) : nullptr;
    if (c == nullptr)
        return;
    const parts::Part& s = *job::sensorOf(*m_analysis->job, *c);
    std::vector<TransferPlot::Place> places;
    for (const Verifier::Place& p : m_verifier->places())
        places.push_back({p.reading, units::toShown(p.returned, s.measures, s.unit)});
    m_plot->showPlaces(places);
}

void TableView::showOld(bool shown)
{
    m_stack->setCurrentIndex(shown ? 1 : 0);
    m_compare->setText(shown ? tr("Back   O") : tr("Compare   O"));
    if (shown)
        m_old->begin();
}

/// Beside the job, under a name that says what it is: no dialog to fill in with gloves on.
void TableView::exportBeside()
{
    const QFileInfo job(m_desk.store.path());
    const QString name =
        job.completeBaseName() + QLatin1Char('-') + text(m_desk.selection.circuit().value) + QStringLiteral("-table");
    const QString path = job.dir().filePath(name);
    Result<void> done;
    for (const bool json : {false, true})
        if (done)
            done = tableText(*m_analysis, m_desk.selection.circuit(), json).and_then([&](const std::string& written) {
                return writeWhole(path + (json ? QStringLiteral(".json") : QStringLiteral(".csv")),
                                  QByteArray::fromStdString(written));
            });
    say(done ? tr("%1.csv and %1.json are beside the job.").arg(name) : QString::fromStdString(done.error().sentence),
        !done);
}

void TableView::say(const QString& sentence, bool bad)
{
    m_said->setText(sentence);
    setInk(m_said, bad ? look::colours().failing : look::colours().ink);
}

} // namespace vicegrip::app
