#include "app/stages/trigger/capture_view.h"

#include "app/desk/when.h"
#include "app/stages/trigger/scope_row.h"
#include "app/stages/trigger/setup.h"
#include "app/stages/trigger/wave_plot.h"
#include "app/stages/trigger/wheel_view.h"
#include "app/views/selected.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "app/widgets/state_glyph.h"
#include "app/widgets/typed_field.h"
#include "core/units/units.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QLineEdit>
#include <QShortcut>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <algorithm>
#include <utility>

namespace vicegrip::app {
namespace {

constexpr look::Px kWheel{140};

/// What names no file, and may be a scope's place.
bool isScope(const QString& typed)
{
    static const QStringList kFiles = {QStringLiteral("csv"), QStringLiteral("vcd"), QStringLiteral("wav")};
    const QFileInfo file(typed);
    return !file.exists() && !kFiles.contains(file.suffix().toLower()) && link::addressOf(typed);
}

/// A coil's volts are half of its proof, and a sound card knows none.
bool hasNoVolts(const Opened& opened)
{
    return opened.coil && opened.capture->seen.ofFullScale;
}

proof::State stateOf(trigger::Grade grade)
{
    return grade == trigger::Grade::Good  ? proof::State::Done
           : grade == trigger::Grade::Bad ? proof::State::Failing
                                          : proof::State::Untouched;
}

} // namespace

CaptureView::CaptureView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_wheel(new WheelView),
      m_wave(new WavePlot),
      m_scope(new ScopeRow(desk)),
      m_worked([this](const std::shared_ptr<const Opened>& opened) { take(opened); })
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, look::kGap, 0, 0);
    column->setSpacing(6_px);
    buildHow(column);
    m_title = label({}, look::Size::Title, true);
    m_title->setObjectName(QStringLiteral("capture-title"));
    column->addWidget(m_title);
    auto* drawn = new QVBoxLayout;
    drawn->setSpacing(2_px);
    drawn->addWidget(m_wave, 1);
    auto* turned = new QHBoxLayout;
    turned->setSpacing(look::kMargin);
    m_wheel->setFixedSize(kWheel, kWheel);
    turned->addWidget(m_wheel);
    m_at = label({}, look::Size::Body);
    m_at->setFont(look::numbers(look::Size::Body));
    m_at->setObjectName(QStringLiteral("capture-at"));
    turned->addWidget(m_at, 1);
    drawn->addLayout(turned);
    auto* says = new QVBoxLayout;
    says->setSpacing(6_px);
    m_table = new ListTable("verdicts", tr("What is right and what is wrong with it"),
                            {{{}, 34}, {tr("Looked at"), 182}, {tr("It is"), 0}});
    m_table->setItemDelegateForColumn(0, new StateDelegate(m_table));
    says->addWidget(m_table, 1);
    m_limit = label({}, look::Size::Body);
    m_limit->setObjectName(QStringLiteral("capture-limit"));
    says->addWidget(m_limit);
    m_todo = label({}, look::Size::Body, true);
    m_todo->setObjectName(QStringLiteral("capture-todo"));
    says->addWidget(m_todo);
    auto* columns = new QHBoxLayout;
    columns->setSpacing(look::kMargin);
    columns->addLayout(drawn, 1);
    columns->addLayout(says, 1);
    column->addLayout(columns, 1);
    connect(m_wave, &WavePlot::moved, this, &CaptureView::turnTo);
    connect(m_table, &QTableWidget::currentCellChanged, this, [this](int row) { showDetail(row); });
}

void CaptureView::buildHow(QVBoxLayout* column)
{
    auto* row = new QHBoxLayout;
    row->setSpacing(look::kGap);
    m_file = new TypedField(tr("Capture"), [](const QString& typed) -> Result<QString> {
        if (typed.trimmed().isEmpty() || QFileInfo(typed.trimmed()).isFile() || isScope(typed.trimmed()))
            return QString();
        return fail(ErrorCode::Io, tr("there is no such file, and no scope is called so").toStdString());
    });
    m_file->edit()->setObjectName(QStringLiteral("capture-file"));
    m_file->edit()->setPlaceholderText(tr("a file (CSV, VCD, WAV), or a scope: 192.168.1.30"));
    m_file->leaveLettersWhileEmpty();
    row->addWidget(m_file, 1);
    m_choose = KeyButton::bound(this, "capture-open", tr("Open a file"), Qt::Key_O, true);
    row->addWidget(m_choose, 0, Qt::AlignTop);
    row->addWidget(m_scope, 0, Qt::AlignTop);
    column->addLayout(row);
    auto* second = new QHBoxLayout;
    second->setSpacing(look::kGap);
    const auto box = [&](const QString& name, const char* objectName) {
        auto* out = new QComboBox;
        out->setObjectName(QLatin1String(objectName));
        out->setAccessibleName(name);
        out->setFont(look::textFont(look::Size::Small));
        out->setMinimumContentsLength(8);
        out->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        second->addWidget(label(name, look::Size::Small, false, true));
        second->addWidget(out);
        connect(out, &QComboBox::activated, this, &CaptureView::ask);
        return out;
    };
    m_channel = box(tr("Channel"), "capture-channel");
    m_beside = box(tr("Cam beside it"), "capture-beside");
    m_coil = new QCheckBox(tr("A coil's signal (C)"));
    m_coil->setObjectName(QStringLiteral("capture-coil"));
    m_coil->setFont(look::textFont(look::Size::Small));
    second->addWidget(m_coil);
    second->addStretch(1);
    m_take = KeyButton::bound(this, "capture-take", tr("Take its wheel"), Qt::Key_R, false);
    m_save = KeyButton::bound(this, "capture-save", tr("Write it"), Qt::Key_S, false);
    m_keep = KeyButton::bound(this, "capture-keep", tr("Keep as proof"), Qt::Key_K, false);
    for (KeyButton* b : {m_take, m_save, m_keep})
        second->addWidget(b);
    column->addLayout(second);
    connect(new QShortcut(QKeySequence(Qt::Key_C), this), &QShortcut::activated, m_coil, &QCheckBox::click);
    connect(m_coil, &QCheckBox::clicked, this, [this] {
        m_saysCoil = true;
        ask();
    });
    connect(m_file, &TypedField::entered, this, [this](const QString& typed) {
        m_scope->setPlace(isScope(typed.trimmed()) ? typed.trimmed() : QString());
        if (isScope(typed.trimmed()))
            m_scope->sweep();
        else if (!typed.trimmed().isEmpty())
            open(typed.trimmed());
    });
    connect(m_scope, &ScopeRow::troubled, m_file, &TypedField::refuse);
    connect(m_scope, &ScopeRow::tipsChanged, this, [this] { m_file->setHint(m_scope->tips()); });
    connect(m_choose, &QAbstractButton::clicked, this, [this] {
        const QString path = QFileDialog::getOpenFileName(this, tr("Open a capture"), m_desk.store.path(),
                                                          tr("Captures (*.csv *.vcd *.wav);;All files (*)"));
        if (!path.isEmpty())
            open(path);
    });
    connect(m_take, &QAbstractButton::clicked, this, &CaptureView::takeWheel);
    connect(m_save, &QAbstractButton::clicked, this, &CaptureView::save);
    connect(m_keep, &QAbstractButton::clicked, this, &CaptureView::keep);
    connect(m_scope, &ScopeRow::swept, this,
            [this](const std::shared_ptr<const Capture>& capture, const job::CircuitId& circuit) {
                if (circuit != m_circuit)
                    return; // another was selected meanwhile: its capture is taken again
                Looking first = begun();
                if (capture->seen.channels.size() > 1 && first.known.turn_deg == trigger::kCrankTurn_deg)
                    first.beside = 1; // a cam beside it; a cam is beside nothing
                m_worked.ask([capture, first] { return std::make_shared<const Opened>(lookForView(capture, first)); });
            });
}

Looking CaptureView::how() const
{
    Looking out;
    out.circuit = m_circuit;
    out.channel = static_cast<size_t>(std::max(0, m_channel->currentIndex()));
    if (m_beside->currentIndex() > 0)
        out.beside = static_cast<size_t>(m_beside->currentData().toInt());
    if (m_saysCoil)
        out.coil = m_coil->isChecked();
    const job::TriggerSetup setup = setupOf(m_desk);
    out.known.wheel = wheelOf(m_desk);
    out.wanted.wheel = setup.wheel;
    const parts::Part* sensor = selectedSensor(m_desk);
    const bool cam = sensor != nullptr && sensor->kind == parts::PartUse::CamTrigger;
    out.known.turn_deg = cam ? trigger::kCamTurn_deg : trigger::kCrankTurn_deg;
    if (setup.edge)
        out.known.rising = out.wanted.rising = *setup.edge == job::CountedEdge::Rising;
    return out;
}

/// Another capture is looked at as if nobody had said anything of it.
Looking CaptureView::begun()
{
    m_saysCoil = false;
    Looking out = how();
    out.channel = 0;
    out.beside.reset();
    return out;
}

void CaptureView::open(const QString& file)
{
    m_title->setText(tr("Reading %1").arg(QFileInfo(file).fileName()));
    const Looking first = begun();
    m_worked.ask([file, first] { return std::make_shared<const Opened>(lookForView(readForView(file), first)); });
}

/// The same capture, looked at otherwise.
void CaptureView::ask()
{
    if (m_reading != nullptr)
        m_worked.ask(
            [capture = m_reading, as = how()] { return std::make_shared<const Opened>(lookForView(capture, as)); });
}

void CaptureView::take(std::shared_ptr<const Opened> opened)
{
    const bool shown = opened->how.circuit == m_circuit; // else another was selected meanwhile
    if (!opened->capture->trouble.isEmpty()) { // what was shown before stays
        if (shown) {
            show();
            m_file->refuse(opened->capture->trouble);
        }
        return;
    }
    const auto capture = opened->capture;
    m_opened[opened->how.circuit] = std::move(opened);
    if (!shown)
        return;
    m_file->refuse({});
    m_reading = capture;
    showChannels();
    show();
}

void CaptureView::refresh()
{
    const job::Circuit* circuit = selectedCircuit(m_desk);
    if (circuit == nullptr)
        return;
    if (m_circuit != circuit->id) {
        m_circuit = circuit->id;
        const auto it = m_opened.find(m_circuit);
        m_reading = it == m_opened.end() ? nullptr : it->second->capture;
        m_saysCoil = it != m_opened.end() && it->second->how.coil.has_value();
        showChannels();
    }
    m_scope->refresh();
    m_file->setHint(m_scope->tips());
    const auto it = m_opened.find(m_circuit);
    const Looking as = how();
    if (it != m_opened.end() &&
        (it->second->how.wanted.wheel != as.wanted.wheel || it->second->how.known.rising != as.known.rising))
        ask(); // another wheel or edge was said
    show();
}

void CaptureView::showChannels()
{
    const QSignalBlocker quiet(m_channel), still(m_beside);
    m_channel->clear();
    m_beside->clear();
    m_beside->addItem(tr("none"));
    const auto it = m_opened.find(m_circuit);
    if (it == m_opened.end())
        return;
    const auto& channels = it->second->capture->seen.channels;
    for (size_t i = 0; i < channels.size(); ++i) {
        m_channel->addItem(text(channels[i].name));
        if (i != it->second->how.channel)
            m_beside->addItem(text(channels[i].name), static_cast<int>(i));
    }
    m_channel->setCurrentIndex(static_cast<int>(it->second->how.channel));
    if (it->second->how.beside)
        m_beside->setCurrentIndex(m_beside->findData(static_cast<int>(*it->second->how.beside)));
}

void CaptureView::show()
{
    const auto& c = look::colours();
    const auto it = m_opened.find(m_circuit);
    const Opened* o = it == m_opened.end() ? nullptr : it->second.get();
    for (QWidget* w : std::initializer_list<QWidget*>{m_channel, m_beside, m_coil})
        w->setEnabled(o != nullptr);
    m_take->setVisible(o != nullptr && !o->recognised.isEmpty() && text(setupOf(m_desk).wheel) != o->recognised);
    m_save->setVisible(o != nullptr && o->capture->file.isEmpty());
    m_keep->setVisible(o != nullptr && o->look.has_value() && !hasNoVolts(*o));
    m_wave->setVisible(o != nullptr);
    m_wheel->setVisible(o != nullptr && o->look.has_value());
    m_table->setVisible(o != nullptr && o->look.has_value());
    setInk(m_title, c.ink);
    if (o == nullptr) {
        m_title->setText(tr("Open a capture, or sweep a scope: the engine on the starter, plugs out, is enough"));
        for (QLabel* l : {m_at, m_todo, m_limit})
            l->clear();
        return;
    }
    if (!o->capture->file.isEmpty())
        m_file->setText(o->capture->file);
    const QSignalBlocker quiet(m_coil);
    m_coil->setChecked(o->coil);
    m_wave->show(it->second);
    if (!o->look) {
        m_title->setText(tr("It says nothing: %1").arg(o->trouble));
        setInk(m_title, c.failing);
        m_todo->clear();
        m_limit->clear();
        return;
    }
    showVerdicts();
    m_wheel->show(o->look->report.wheel, {}, {}, {});
    turnTo(m_wave->now_s());
}

void CaptureView::showVerdicts()
{
    const auto& c = look::colours();
    const Opened& o = *m_opened.at(m_circuit);
    QStringList wrong;
    std::vector<QStringList> rows;
    int first = -1;
    for (const trigger::Verdict& v : o.verdicts) {
        if (v.grade == trigger::Grade::Bad) {
            wrong << text(v.what).replace(0, 1, text(v.what).left(1).toLower());
            first = first < 0 ? static_cast<int>(rows.size()) : first;
        }
        rows.push_back({QString(), text(v.what), text(v.is)});
    }
    m_title->setText(wrong.isEmpty() ? hasNoVolts(o) ? tr("It decodes; whether its volts arm an input no sound says")
                                                     : tr("It decodes, with margin")
                                     : tr("Wrong: %1").arg(wrong.join(QStringLiteral(", "))));
    setInk(m_title, wrong.isEmpty() ? c.done : c.failing);
    const QSignalBlocker quiet(m_table);
    m_table->fill(rows);
    for (int row = 0; row < m_table->rowCount(); ++row) {
        const trigger::Verdict& v = o.verdicts[static_cast<size_t>(row)];
        m_table->item(row, 0)->setData(kStateRole, static_cast<int>(stateOf(v.grade)));
        m_table->item(row, 0)->setData(Qt::AccessibleTextRole, v.grade == trigger::Grade::Good  ? tr("right")
                                                               : v.grade == trigger::Grade::Bad ? tr("wrong")
                                                                                                : tr("not judged"));
        m_table->item(row, 2)->setForeground(inkOf(stateOf(v.grade)));
        m_table->item(row, 2)->setToolTip(text(v.is));
    }
    m_table->setCurrentCell(std::max(0, first), 1);
    showDetail(std::max(0, first));
}

/// What the row in hand may be, and what hands do.
void CaptureView::showDetail(int row)
{
    const auto opened = m_opened.find(m_circuit);
    if (opened == m_opened.end() || row < 0 || static_cast<size_t>(row) >= opened->second->verdicts.size())
        return;
    const trigger::Verdict& v = opened->second->verdicts[static_cast<size_t>(row)];
    m_limit->setText(text(v.is) + (v.limit.empty() ? QString() : QStringLiteral(" (%1)").arg(text(v.limit))));
    m_todo->setText(text(v.todo));
}

void CaptureView::turnTo(double time_s)
{
    const auto it = m_opened.find(m_circuit);
    if (it == m_opened.end() || !it->second->look)
        return;
    const auto angle = trigger::wheelAngle(it->second->look->report, time_s);
    if (angle)
        m_wheel->setTurned(*angle);
    const trigger::Report& report = it->second->look->report;
    m_at->setText(tr("%1 at %2 rpm\n%3 s\n%4\n%5")
                      .arg(report.line.empty() ? text(setupOf(m_desk).wheel) : text(report.line),
                           text(units::formatNumber(report.rpm, 0)), text(units::formatNumber(time_s, 4)),
                           angle ? tr("wheel at %1°").arg(text(units::formatNumber(*angle, 1))) : tr("not known where"),
                           it->second->capture->name));
}

void CaptureView::takeWheel()
{
    const auto it = m_opened.find(m_circuit);
    if (it == m_opened.end() || it->second->recognised.isEmpty())
        return;
    changeSetup(m_desk, tr("wheel by a capture"),
                [wheel = it->second->recognised.toStdString()](job::TriggerSetup& s) { s.wheel = wheel; });
}

/// A sweep is gone with the window unless somebody wants it.
void CaptureView::save()
{
    const auto it = m_opened.find(m_circuit);
    if (it == m_opened.end())
        return;
    QString path =
        QFileDialog::getSaveFileName(this, tr("Save the capture"), m_desk.store.path(), tr("Columns (*.csv)"));
    if (path.isEmpty())
        return;
    if (QFileInfo(path).suffix().isEmpty())
        path += QStringLiteral(".csv");
    const auto written = capture::writeCapture(it->second->capture->seen, path.toStdString());
    m_file->refuse(written ? QString() : text(written.error().text()));
    if (written)
        open(path);
}

void CaptureView::keep()
{
    const auto it = m_opened.find(m_circuit);
    const job::Circuit* circuit = selectedCircuit(m_desk);
    if (it == m_opened.end() || !it->second->look || circuit == nullptr)
        return;
    const job::Decoded kept =
        decoded::record(*m_desk.store.job(), m_desk.store.analysis()->facts, *circuit, *it->second->look,
                        it->second->verdicts, it->second->capture->name.toStdString(), nowText());
    m_desk.store.editOrSay(tr("%1: capture kept as proof").arg(text(circuit->name)),
                           [&](job::Job& job) { job.decoded.push_back(kept); });
}

} // namespace vicegrip::app
