#include "app/stages/scale/scale_page.h"

#include "app/stages/scale/circuit_form.h"
#include "app/widgets/circuit_text.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/state_glyph.h"
#include "app/widgets/transfer_plot.h"

#include <QDateTime>
#include <QDir>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QShortcut>
#include <QTableWidget>
#include <QVBoxLayout>

namespace vicegrip::app {
namespace {

using proof::StationKind;

constexpr int kFormWidth = 250, kTableWidth = 166, kLeastForm = 200;

} // namespace

ScalePage::ScalePage(Desk& desk, QWidget* parent)
    : StagePage(desk, parent), m_form(new CircuitForm(desk)), m_plot(new TransferPlot), m_table(new QTableWidget(0, 2))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(look::kMargin, look::kMargin, look::kMargin, look::kGap);
    auto* upper = new QHBoxLayout;
    upper->setSpacing(look::kMargin);
    m_form->setMinimumWidth(kLeastForm);
    m_form->setMaximumWidth(kFormWidth);
    upper->addWidget(m_form);
    upper->addWidget(m_plot, 1);
    auto* right = new QVBoxLayout;
    m_table->setObjectName(QStringLiteral("points-table"));
    m_table->setAccessibleName(tr("Table for the ECU"));
    m_table->setFixedWidth(kTableWidth);
    m_table->setShowGrid(false);
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setTabKeyNavigation(false);
    m_table->verticalHeader()->hide();
    m_table->verticalHeader()->setDefaultSectionSize(24);
    m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    m_table->horizontalHeader()->setHighlightSections(false);
    m_table->horizontalHeader()->setFont(look::words(look::Size::Small));
    m_table->horizontalHeader()->setDefaultAlignment(Qt::AlignRight | Qt::AlignVCenter);
    right->addWidget(m_table, 1);
    m_worst = label({}, look::Size::Small, false, true);
    m_worst->setObjectName(QStringLiteral("worst-error"));
    m_worst->setFixedWidth(kTableWidth);
    right->addWidget(m_worst);
    upper->addLayout(right);
    column->addLayout(upper, 1);
    column->addSpacing(look::kGap);
    buildVerify(column);
    connect(m_form, &CircuitForm::notice, this, &StagePage::notice);
}

void ScalePage::buildVerify(QVBoxLayout* column)
{
    auto* row = new QHBoxLayout;
    row->setSpacing(look::kGap);
    const auto block = [&](const QString& name, const char* objectName) {
        auto* inside = new QVBoxLayout;
        inside->setSpacing(0);
        inside->addWidget(label(name, look::Size::Small, false, true));
        QLabel* number = figure({}, look::Size::Title);
        number->setObjectName(QLatin1String(objectName));
        inside->addWidget(number);
        row->addLayout(inside);
        row->addSpacing(look::kMargin);
        return number;
    };
    m_expected = block(tr("must return"), "expected-value");
    m_returned = block(tr("ECU returns"), "returned-value");
    m_said = label({}, look::Size::Small);
    m_said->setObjectName(QStringLiteral("said"));
    column->addWidget(m_said);
    row->addStretch(1);
    m_send = new KeyButton(tr("Send to ECU"), tr("E"), true);
    m_send->setObjectName(QStringLiteral("send"));
    m_record = new KeyButton(tr("Record"), tr("R"), false);
    m_record->setObjectName(QStringLiteral("record"));
    m_export = new KeyButton(tr("CSV"), tr("X"), false);
    m_export->setObjectName(QStringLiteral("export"));
    m_export->setAccessibleName(tr("Export the table as CSV"));
    for (KeyButton* b : {m_send, m_record, m_export})
        row->addWidget(b);
    column->addLayout(row);
    connect(m_send, &QAbstractButton::clicked, this, &ScalePage::send);
    connect(m_record, &QAbstractButton::clicked, this, &ScalePage::record);
    connect(m_export, &QAbstractButton::clicked, this, &ScalePage::exportBeside);
    connect(new QShortcut(QKeySequence(Qt::Key_E), this), &QShortcut::activated, this, &ScalePage::send);
    connect(new QShortcut(QKeySequence(Qt::Key_R), this), &QShortcut::activated, this, &ScalePage::record);
    connect(new QShortcut(QKeySequence(Qt::Key_X), this), &QShortcut::activated, this, &ScalePage::exportBeside);
}

std::optional<link::EcuSample> ScalePage::sample() const
{
    return m_analysis ? m_desk.live.sample(inputIndex(*m_analysis->job, m_desk.selection.circuit())) : std::nullopt;
}

const proof::Expectation* ScalePage::expected(StationKind kind) const
{
    const auto* view = m_analysis ? analysis::find(*m_analysis, m_desk.selection.circuit()) : nullptr;
    if (view == nullptr)
        return nullptr;
    for (const proof::Judged& j : analysis::stations(*view, job::Condition::KeyOn))
        if (j.expectation.station.kind == kind)
            return &j.expectation;
    return nullptr;
}

void ScalePage::refresh()
{
    const bool sameCircuit =
        m_analysis && m_said->property("circuit").toString() == text(m_desk.selection.circuit().value);
    m_analysis = m_desk.store.analysis();
    m_form->refresh();
    const job::Circuit* circuit = job::find(*m_analysis->job, m_desk.selection.circuit());
    const auto* view = analysis::find(*m_analysis, m_desk.selection.circuit());
    const parts::Sensor* sensor = circuit == nullptr ? nullptr : job::sensorOf(*m_analysis->job, *circuit);
    if (!sameCircuit)
        say({});
    m_said->setProperty("circuit", text(m_desk.selection.circuit().value));
    if (view == nullptr || sensor == nullptr) {
        m_plot->clear();
        m_table->setRowCount(0);
        m_worst->setText(tr("Choose a circuit on the left."));
        return;
    }
    m_plot->show(*view, *sensor);
    showTable(*view, *circuit, *sensor);
    m_send->setEnabled(view->table.has_value());
    m_export->setEnabled(view->table.has_value());
    refreshLive();
}

void ScalePage::showTable(const analysis::CircuitView& view, const job::Circuit& circuit, const parts::Sensor& sensor)
{
    m_table->setHorizontalHeaderLabels({tr("input (V)"), tr("value (%1)").arg(text(sensor.unit))});
    if (!view.table) {
        m_table->setRowCount(0);
        m_worst->setText(tr("No table: %1.").arg(text(view.tableTrouble)));
        setInk(m_worst, look::colours().failing);
        return;
    }
    const auto& points = view.table->points;
    m_table->setRowCount(static_cast<int>(points.size()));
    for (int i = 0; i < m_table->rowCount(); ++i) {
        const scaling::TablePoint& p = points[static_cast<size_t>(i)];
        const double shown = units::toUnit(p.value, sensor.measures, sensor.unit);
        int column = 0;
        for (const std::string& number :
             {units::formatNumber(p.volts, scaling::decimalsOf(circuit.scaling.inputStep_v)),
              units::formatNumber(shown, scaling::decimalsOf(circuit.scaling.outputStep))}) {
            auto* item = new QTableWidgetItem(text(number));
            item->setFont(look::numbers(look::Size::Small));
            item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            m_table->setItem(i, column++, item);
        }
    }
    const double worst = units::toUnit(view.table->worstError, sensor.measures, sensor.unit) -
                         units::toUnit(0, sensor.measures, sensor.unit);
    const int decimals = std::min(4, scaling::decimalsOf(circuit.scaling.outputStep) + 1);
    m_worst->setText(tr("Worst error between points: %1 %2, at %3 (%4)")
                         .arg(text(units::formatNumber(worst, decimals)), text(sensor.unit),
                              text(units::format(view.table->worstAt, sensor.measures, sensor.unit, decimals - 1)),
                              text(units::format(view.table->worstAtVolts, units::Dimension::Voltage, "V", 3))));
    setInk(m_worst, look::colours().inkSoft);
}

void ScalePage::refreshLive()
{
    const auto& c = look::colours();
    const auto now = sample();
    const proof::Expectation* value = expected(StationKind::Value);
    m_plot->showNow(now ? std::optional(now->volts) : std::nullopt);
    m_expected->setText(value != nullptr && value->promises() ? text(proof::readingText(*value, value->value))
                                                              : QStringLiteral("–"));
    m_expected->setToolTip(value != nullptr && value->promises() ? text(proof::boundsText(*value)) : QString());
    m_record->setEnabled(now && now->value && value != nullptr && value->promises());
    if (!now || !now->value || value == nullptr) {
        m_returned->setText(!now ? tr("no link") : tr("no table"));
        setInk(m_returned, c.inkSoft);
        return;
    }
    const double si = units::fromUnit(*now->value, value->dimension, value->unit);
    const bool right = value->promises() && si >= value->low && si <= value->high;
    m_returned->setText(text(proof::readingText(*value, si)) + (right ? QStringLiteral(" ✓") : QStringLiteral(" ✗")));
    m_returned->setToolTip(value->promises() ? text(proof::verdictText(*value, si)) : QString());
    setInk(m_returned, right ? c.done : c.failing);
}

void ScalePage::send()
{
    const auto* view = m_analysis ? analysis::find(*m_analysis, m_desk.selection.circuit()) : nullptr;
    const job::Circuit* circuit = m_analysis ? job::find(*m_analysis->job, m_desk.selection.circuit()) : nullptr;
    if (view == nullptr || circuit == nullptr || !view->table)
        return;
    say(tr("Sending"));
    m_desk.live.sendTable(inputIndex(*m_analysis->job, circuit->id), *view->table,
                          *job::sensorOf(*m_analysis->job, *circuit), [this](const QString& trouble) {
                              if (trouble.isEmpty())
                                  say(tr("The ECU took the table. Compare what it returns, then record it."));
                              else
                                  say(trouble, true);
                          });
}

void ScalePage::record()
{
    const auto now = sample();
    if (!now || !now->value)
        return;
    std::vector<job::Proof> proofs;
    const std::string when = QDateTime::currentDateTimeUtc().toString(Qt::ISODate).toStdString();
    for (StationKind kind : {StationKind::Input, StationKind::Counts, StationKind::Value}) {
        const proof::Expectation* e = expected(kind);
        if (e == nullptr || !e->promises())
            continue;
        const double value = kind == StationKind::Input    ? now->volts
                             : kind == StationKind::Counts ? now->counts
                                                           : units::fromUnit(*now->value, e->dimension, e->unit);
        proofs.push_back(proof::record(m_analysis->facts, m_desk.selection.circuit(), job::Condition::KeyOn, *e, value,
                                       job::ReadingSource::Ecu, when));
    }
    const auto kept = m_desk.store.edit(tr("What the ECU returned"), [&](job::Job& job) {
        job.proofs.insert(job.proofs.end(), proofs.begin(), proofs.end());
    });
    say(kept ? tr("Recorded.") : QString::fromStdString(kept.error().sentence), !kept);
}

Result<void> ScalePage::exportCsv(const QString& path) const
{
    const auto* view = m_analysis ? analysis::find(*m_analysis, m_desk.selection.circuit()) : nullptr;
    const job::Circuit* circuit = m_analysis ? job::find(*m_analysis->job, m_desk.selection.circuit()) : nullptr;
    if (view == nullptr || circuit == nullptr || !view->table)
        return fail(ErrorCode::Reference, tr("There is no table to export.").toStdString());
    const std::string csv = scaling::toCsv(*view->table, *job::sensorOf(*m_analysis->job, *circuit), circuit->scaling);
    return writeWhole(path, QByteArray::fromStdString(csv));
}

/// Beside the job, under a name that says what it is: no dialog to fill in with gloves on.
void ScalePage::exportBeside()
{
    const QFileInfo job(m_desk.store.path());
    const QString name = job.completeBaseName() + QLatin1Char('-') + text(m_desk.selection.circuit().value) +
                         QStringLiteral("-table.csv");
    const auto done = exportCsv(job.dir().filePath(name));
    say(done ? tr("%1 is beside the job.").arg(name) : QString::fromStdString(done.error().sentence), !done);
}

void ScalePage::say(const QString& sentence, bool bad)
{
    m_said->setText(sentence);
    setInk(m_said, bad ? look::colours().failing : look::colours().ink);
}

} // namespace vicegrip::app
