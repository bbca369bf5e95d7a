#include "app/stages/start/run_sheet_view.h"

#include "app/desk/when.h"
#include "app/look/look.h"
#include "app/stages/start/line_card.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "app/widgets/state_glyph.h"

#include <QHBoxLayout>
#include <QPointer>
#include <QScrollArea>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {
namespace {

using proof::State;
using run_sheet::By;

constexpr int kSteady = 12; ///< readings within the window, one after the other, that pass a line: over a second

enum Column { Mark, What, Window };

} // namespace

RunSheetView::RunSheetView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_list(new ListTable("sheet-lines", tr("Lines of the run sheet"),
                           {{QString(), 34, false}, {tr("Line"), 0, false}, {tr("Must read"), 176, true}})),
      m_card(new LineCard),
      m_summary(label({}, look::Size::Small, false, true)),
      m_worked([this](const Made& made) { take(made); })
{
    m_summary->setObjectName(QStringLiteral("sheet-summary"));
    m_summary->setText(tr("The windows of this job's lines are worked out."));
    m_list->setItemDelegateForColumn(Mark, new StateDelegate(m_list));
    auto* left = new QVBoxLayout;
    left->setSpacing(6_px);
    left->addWidget(m_summary);
    left->addWidget(m_list, 1);
    auto* room = new QScrollArea; // in a small window, or with large letters
    room->setWidget(m_card);
    room->setWidgetResizable(true);
    room->setFrameShape(QFrame::NoFrame);
    room->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    room->setFocusPolicy(Qt::NoFocus);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, look::kGap, 0, 0);
    row->setSpacing(2 * look::kMargin);
    row->addLayout(left, 5);
    row->addWidget(room, 6);

    connect(m_list, &QTableWidget::currentCellChanged, this, [this](int now, int, int before, int) {
        if (now == before || now < 0 || !m_sheet)
            return;
        if (const auto line = m_rows[static_cast<size_t>(now)]) {
            choose(text(m_sheet->lines[*line].id));
            m_follows = line == run_sheet::nextOf(*m_sheet);
        }
    });
    connect(m_card, &LineCard::seen, this, [this] { pass({}); });
    connect(m_card, &LineCard::typed, this, [this](const job::Reading& reading) {
        pass({reading, job::ReadingSource::Typed});
    });
    connect(m_card, &LineCard::takeAsked, this, &RunSheetView::takeReading);
    connect(m_card, &LineCard::finderAsked, this, &RunSheetView::findFault);
    connect(m_card, &LineCard::conditionAsked, this, [this] {
        if (const auto at = line(); at && m_sheet->lines[*at].window)
            m_desk.selection.setCondition(m_sheet->lines[*at].window->condition);
    });
    connect(m_card, &LineCard::stageAsked, this, [this] {
        const auto at = line();
        if (!at)
            return;
        if (!m_sheet->lines[*at].circuit.value.empty())
            m_desk.selection.setCircuit(m_sheet->lines[*at].circuit);
        emit goTo(m_sheet->lines[*at].stage);
    });
    connect(m_card, &LineCard::takenBack, this, [this] {
        if (const auto at = line())
            m_desk.store.editOrSay(tr("Not any more: %1").arg(text(m_sheet->lines[*at].what)),
                                   [&](job::Job& job) { return run_sheet::takeBack(job, *m_sheet, *at); });
    });
    connect(&m_desk.live, &Live::linksChanged, this, [this] {
        if (isVisible())
            showLine();
    });
    constexpr int kAsks_ms = 200;
    m_ask.setInterval(kAsks_ms);
    connect(&m_ask, &QTimer::timeout, this, &RunSheetView::askProgram);
    handFocus(this, m_list);
}

std::optional<size_t> RunSheetView::line() const
{
    if (!m_sheet)
        return std::nullopt;
    const auto it = std::ranges::find(m_sheet->lines, m_id.toStdString(), &run_sheet::Line::id);
    return it == m_sheet->lines.end() ? std::nullopt : std::optional(static_cast<size_t>(it - m_sheet->lines.begin()));
}

/// Windows are promises of many circuits: worked out beside the window.
void RunSheetView::refresh()
{
    const AnalysisPtr analysis = m_desk.store.analysis();
    if (analysis == m_of) {
        showLine();
        return;
    }
    m_worked.ask([analysis, today = nowText()] {
        return Made{analysis, std::make_shared<const run_sheet::Sheet>(run_sheet::sheetOf(*analysis, today))};
    });
}

void RunSheetView::take(const Made& made)
{
    m_of = made.of;
    m_sheet = made.sheet;
    fill();
    goOn();
}

void RunSheetView::fill()
{
    std::vector<QStringList> rows;
    std::vector<int> headings;
    m_rows.clear();
    for (size_t i = 0; i < m_sheet->lines.size(); ++i) {
        const run_sheet::Line& line = m_sheet->lines[i];
        if (i == 0 || m_sheet->lines[i - 1].section != line.section) {
            headings.push_back(static_cast<int>(rows.size()));
            rows.push_back({QString(), said(run_sheet::sectionName(line.section)), QString()});
            m_rows.emplace_back();
        }
        const std::string& read = m_sheet->standings[i].read;
        rows.push_back({QString(), text(line.what), text(read.empty() ? run_sheet::windowText(line) : read)});
        m_rows.emplace_back(i);
    }
    m_list->fill(rows, headings);
    for (size_t row = 0; row < m_rows.size(); ++row) {
        QTableWidgetItem* mark = m_list->item(static_cast<int>(row), Mark);
        const auto& line = m_rows[row];
        mark->setData(kStateRole, line ? QVariant(static_cast<int>(m_sheet->standings[*line].state)) : QVariant());
        mark->setData(Qt::AccessibleTextRole,
                      line ? said(proof::stateName(m_sheet->standings[*line].state)) : QString());
        for (int column = 0; column < m_list->columnCount(); ++column)
            m_list->item(static_cast<int>(row), column)
                ->setFlags(line ? Qt::ItemIsEnabled | Qt::ItemIsSelectable : Qt::ItemIsEnabled);
        const bool waits = line && !m_sheet->standings[*line].waitsFor.empty();
        m_list->item(static_cast<int>(row), What)->setForeground(waits ? look::colours().inkSoft : look::colours().ink);
    }
    m_summary->setText(tr("%1 of %2 lines have passed. What waits is written lighter.")
                           .arg(run_sheet::passedOf(*m_sheet))
                           .arg(m_sheet->lines.size()));
}

/// What is in hand stays in hand; once it has passed, the next one comes.
void RunSheetView::goOn()
{
    const auto at = line();
    const auto next = run_sheet::nextOf(*m_sheet);
    if (next && (!at || (m_follows && m_sheet->standings[*at].state == State::Done)))
        m_id = text(m_sheet->lines[*next].id);
    m_follows = m_follows || line() == next;
    const auto now = line();
    for (size_t row = 0; row < m_rows.size(); ++row)
        if (m_rows[row] && m_rows[row] == now) {
            const QSignalBlocker quiet(m_list);
            m_list->setCurrentCell(static_cast<int>(row), What);
            m_list->scrollToItem(m_list->item(static_cast<int>(row), What));
        }
    choose(m_id);
}

void RunSheetView::choose(const QString& id)
{
    m_id = id;
    m_steady = 0;
    if (const auto at = line(); at && !m_sheet->lines[*at].circuit.value.empty())
        m_desk.selection.setCircuit(m_sheet->lines[*at].circuit); // the strip below is of what is in hand
    showLine();
}

void RunSheetView::showLine()
{
    if (!m_sheet)
        return;
    const auto at = line();
    if (!at) {
        m_card->showEnd(*m_sheet);
        return;
    }
    const auto& window = m_sheet->lines[*at].window;
    m_card->show(*m_sheet, *at,
                 {m_desk.live.meterReady(), m_desk.live.bench().isReady(),
                  !window || m_desk.selection.condition() == window->condition, isOfProgram()});
    m_program.reset();
    isOfProgram() ? m_ask.start() : m_ask.stop();
    refreshLive();
}

std::optional<job::Reading> RunSheetView::heard() const
{
    const auto at = line();
    if (!at || m_sheet->lines[*at].by != By::Ecu || !m_sheet->lines[*at].window)
        return std::nullopt;
    const run_sheet::Line& l = m_sheet->lines[*at];
    const auto job = m_desk.store.job();
    const job::Circuit* circuit = job::find(*job, l.circuit);
    if (circuit == nullptr || m_desk.selection.condition() != l.window->condition)
        return std::nullopt;
    return m_desk.live.now(*job, *circuit, *l.window);
}

/// Twelve readings within the window, and none of another sort between them.
bool RunSheetView::isSteady(const job::Reading& reading)
{
    if (!run_sheet::allows(m_sheet->lines[*line()], reading)) {
        m_steady = 0;
        return false;
    }
    return ++m_steady >= kSteady;
}

/// Whether the sheet is of the job as it is: what was passed a moment ago is not in it yet.
bool RunSheetView::isOfNow() const
{
    return m_of && m_of->job == m_desk.store.job();
}

bool RunSheetView::isOpen(size_t line) const
{
    const run_sheet::Standing& s = m_sheet->standings[line];
    return s.waitsFor.empty() && m_sheet->lines[line].barred.empty() && s.state != State::Done && isOfNow();
}

bool RunSheetView::isOfProgram() const
{
    const auto at = line();
    return at && m_sheet->lines[*at].shows != run_sheet::OfProgram::Nothing && m_desk.live.bench().isReady();
}

void RunSheetView::askProgram()
{
    if (!isVisible() || !isOfProgram())
        return;
    const run_sheet::Line& asked = m_sheet->lines[*line()];
    const bool setSo = m_desk.selection.condition() == asked.window->condition;
    m_desk.live.bench().askProgram([here = QPointer(this), id = m_id, setSo, shows = asked.shows](
                                       const link::BenchLink::Program& program, const QString& error) {
        if (here == nullptr || here->m_id != id || !here->isOfProgram())
            return;
        const double share = shows == run_sheet::OfProgram::IdleAir ? program.idleAir : program.correction;
        here->hearProgram(error.isEmpty() && setSo
                              ? std::optional(here->m_sheet->lines[*here->line()].window->reading(share))
                              : std::nullopt);
    });
}

/// The line passes itself like one of an input.
void RunSheetView::hearProgram(const std::optional<job::Reading>& reading)
{
    m_program = reading;
    m_card->showReading(reading, tr("silent"));
    if (reading && isOpen(*line()) && isSteady(*reading))
        pass({reading, job::ReadingSource::Ecu});
}

void RunSheetView::refreshLive()
{
    const auto at = line();
    if (!at || !isVisible())
        return;
    const run_sheet::Line& l = m_sheet->lines[*at];
    const bool open = isOpen(*at) && m_desk.live.notOfNow().isEmpty();
    if (l.by == By::Ecu && !l.window) {
        if (open && m_desk.live.ecuLive() && m_desk.selection.condition() == job::Condition::KeyOn)
            pass({});
        return;
    }
    if (l.by != By::Ecu)
        return;
    const auto reading = heard();
    const job::Circuit* circuit = job::find(*m_desk.store.job(), l.circuit);
    m_card->showReading(reading, circuit == nullptr ? QString()
                                                    : m_desk.live.missing(*m_desk.store.job(), *circuit,
                                                                          l.window->station.kind, tr("silent")));
    if (!reading || !open)
        return;
    // A promise at rest counts on a sensor that nobody moves.
    if (l.provesCircuit && !m_desk.live.untouched(*m_desk.store.job(), *circuit))
        return;
    if (isSteady(*reading))
        pass({reading, job::ReadingSource::Ecu});
}

void RunSheetView::pass(const run_sheet::Seen& seen)
{
    const auto at = line();
    if (!at || !isOfNow()) // a key that is pressed twice passes one line
        return;
    const SheetPtr of = m_sheet;
    m_steady = 0;
    m_desk.store.editOrSay(text(of->lines[*at].what),
                           [&](job::Job& job) { return run_sheet::pass(job, *of, *at, seen, nowText()); });
}

void RunSheetView::takeReading()
{
    const auto at = line();
    if (!at || !m_sheet->lines[*at].window)
        return;
    if (isOfProgram()) {
        if (m_program)
            pass({m_program, job::ReadingSource::Ecu});
        return;
    }
    const proof::Expectation& window = *m_sheet->lines[*at].window;
    m_card->say(tr("The meter is read."), false);
    m_desk.live.takeReading(text(window.station.point.text()), text(window.blackPoint.text()), window.condition,
                            [this, id = m_id](const std::optional<job::Reading>& reading, const QString& sentence) {
                                if (id != m_id)
                                    return;
                                if (reading)
                                    pass({reading, job::ReadingSource::Meter});
                                else
                                    m_card->say(sentence, true);
                            });
}

/// The reading goes with it: the finder begins at what fails.
void RunSheetView::findFault()
{
    const auto at = line();
    if (!at)
        return;
    const run_sheet::Line& l = m_sheet->lines[*at];
    const job::Circuit* circuit = job::find(*m_desk.store.job(), l.circuit);
    if (const auto reading = heard(); reading && l.provesCircuit && circuit != nullptr &&
                                      m_desk.live.notOfNow().isEmpty() &&
                                      m_desk.live.untouched(*m_desk.store.job(), *circuit))
        pass({reading, job::ReadingSource::Ecu});
    m_desk.selection.setCircuit(l.circuit);
    m_desk.selection.setCondition(l.window->condition);
    emit goTo(analysis::Stage::Meter);
}

} // namespace vicegrip::app
