#include "app/shell/main_window.h"

#include "app/shell/circuit_list.h"
#include "app/shell/command_finder.h"
#include "app/shell/destinations.h"
#include "app/shell/findings_drawer.h"
#include "app/shell/missing.h"
#include "app/shell/notices.h"
#include "app/shell/stage_rail.h"
#include "app/shell/start_page.h"
#include "app/stages/board/board_page.h"
#include "app/stages/brief/brief_page.h"
#include "app/stages/handover/handover_page.h"
#include "app/stages/inputs/inputs_page.h"
#include "app/stages/library/part_page.h"
#include "app/stages/meter/meter_page.h"
#include "app/stages/pins/pins_page.h"
#include "app/stages/scale/scale_page.h"
#include "app/stages/start/start_stage.h"
#include "app/stages/trigger/trigger_page.h"
#include "app/views/circuit_strip.h"
#include "app/widgets/sheet.h"
#include "app/widgets/signpost.h"
#include "app/widgets/view_bar.h"

#include <QAction>
#include <QScrollArea>
#include <QStackedWidget>

#include <algorithm>

/// Where the window goes: from stage to stage, from circuit to circuit, to what the finder found.
namespace vicegrip::app {

using analysis::Stage;

namespace {

StagePage* makePage(Desk& desk, Stage stage)
{
    switch (stage) {
    case Stage::Board:
        return new BoardPage(desk);
    case Stage::Brief:
        return new BriefPage(desk);
    case Stage::Inputs:
        return new InputsPage(desk);
    case Stage::Pins:
        return new PinsPage(desk);
    case Stage::Meter:
        return new MeterPage(desk);
    case Stage::Scale:
        return new ScalePage(desk);
    case Stage::Trigger:
        return new TriggerPage(desk);
    case Stage::Handover:
        return new HandoverPage(desk);
    case Stage::Start:
        return new StartStage(desk);
    }
    return nullptr;
}

/// Of an entry of the library: "ecu/large-standalone".
PartKind partKindOf(const std::string& id)
{
    return id.starts_with("ecu/")         ? PartKind::Ecu
           : id.starts_with("connector/") ? PartKind::Connector
                                          : PartKind::Sensor;
}

} // namespace

void MainWindow::showStage(Stage stage)
{
    m_stage = stage;
    m_aside = nullptr;
    refresh();
}

/// Made when first asked for: the first window comes sooner.
StagePage& MainWindow::page(Stage stage)
{
    StagePage*& page = m_pages[static_cast<size_t>(stage)];
    if (page != nullptr)
        return *page;
    page = makePage(m_desk, stage);
    m_stages->addWidget(page);
    if (stage != Stage::Board && !std::exchange(m_librarySaid, true))
        sayLibraryComplaints();
    connect(page, &StagePage::goTo, this, &MainWindow::showStage);
    connect(page, &StagePage::describePart, this, &MainWindow::describePart);
    connect(page, &StagePage::practiceAsked, this, &MainWindow::showPractice);
    connect(page, &StagePage::notice, this, [this](const QString& sentence) { m_notices->say(sentence); });
    connect(page, &StagePage::roomChanged, this, &MainWindow::makeRoom);
    if (const QString view = std::exchange(m_views[static_cast<size_t>(stage)], QString()); !view.isEmpty())
        page->goToSpot(view);
    if (const auto* views = page->findChild<ViewBar*>())
        connect(views, &ViewBar::changed, this, &MainWindow::refreshHelp, Qt::QueuedConnection); // once it is shown
    return *page;
}

/// The stage, or what leads to what it lacks; what stands in its place stays until it is left.
void MainWindow::showPage()
{
    const bool any = m_store.hasJob();
    m_rail->setVisible(any);
    m_strip->setVisible(any && (m_aside == nullptr || m_aside == m_part));
    if (m_aside != nullptr)
        return;
    if (!any) {
        m_start->refresh();
        m_stages->setCurrentWidget(m_start);
        m_list->hide();
        makeRoom();
        return;
    }
    if (const auto missing = missingFor(m_stage, *m_store.job())) {
        m_signpost->show(missing->why, missing->detail, missing->step);
        m_stages->setCurrentWidget(m_signpost);
        m_list->hide();
        makeRoom();
        return;
    }
    StagePage& shown = page(m_stage);
    m_stages->setCurrentWidget(&shown);
    shown.refresh();
    refreshHelp();
    makeRoom();
}

void MainWindow::showAside(QWidget* page)
{
    m_aside = page;
    m_stages->setCurrentWidget(page);
    m_list->setVisible(false);
    m_strip->setVisible(m_store.hasJob() && page == m_part); // a sheet is read, and takes the room
    makeRoom();
    refreshHelp();
}

/// The circuit list stands beside a stage that has room for it; what needs more than a small window has is moved under
/// it.
void MainWindow::makeRoom()
{
    const StagePage* page = m_pages[static_cast<size_t>(m_stage)];
    const StagePage* shown = page != nullptr && m_stages->currentWidget() == page ? page : nullptr;
    const bool wide = m_stages->currentWidget() == m_part || (shown != nullptr && !shown->fitsTight());
    m_frame->widget()->setMinimumWidth(isTight() && !wide ? look::kTightFrame : look::kLeastFrameWide);
    if (shown != nullptr)
        m_list->setVisible(shown->wantsList() && m_help->isHidden() && !isTight()); // there is room for one of them
}

void MainWindow::moveCircuit(int step)
{
    const auto& circuits = m_store.job()->circuits;
    const auto now = std::ranges::find(circuits, m_selection.circuit(), &job::Circuit::id);
    if (now == circuits.end()) { // nothing is selected: from either end
        if (!circuits.empty())
            m_selection.setCircuit(step > 0 ? circuits.front().id : circuits.back().id);
        return;
    }
    const auto to = now - circuits.begin() + step;
    if (to >= 0 && to < std::ssize(circuits))
        m_selection.setCircuit(circuits[static_cast<size_t>(to)].id);
}

void MainWindow::openFinder()
{
    if (m_finder == nullptr) {
        m_finder = new CommandFinder(m_taken, this);
        connect(m_finder, &CommandFinder::taken, this, &MainWindow::goTo);
    }
    std::vector<std::pair<Stage, StagePage*>> pages;
    if (m_store.hasJob())
        for (const Stage stage : {Stage::Brief, Stage::Pins, Stage::Scale}) {
            StagePage& of = page(stage);
            of.refresh(); // what it offers is this job's
            pages.emplace_back(stage, &of);
        }
    m_finder->open(offers(actions(), pages, m_store.hasJob() ? &*m_store.analysis() : nullptr));
}

void MainWindow::goTo(const lookup::Entry& entry)
{
    using lookup::Kind;
    const auto analysis = m_store.analysis();
    const auto show = [&](Stage stage) {
        showStage(stage);
        page(stage).goToEntry(entry);
    };
    switch (entry.kind) {
    case Kind::Action:
        for (QAction* a : actions())
            if (a->text().toStdString() == entry.id) {
                a->trigger();
                return;
            }
        return;
    case Kind::Term:
        showGlossary();
        return;
    case Kind::Spot:
        for (int i = 0; i < analysis::kStageCount; ++i) {
            const std::string stage(analysis::stageName(static_cast<Stage>(i)));
            if (entry.id.starts_with(stage + "/")) {
                showStage(static_cast<Stage>(i));
                page(static_cast<Stage>(i)).goToSpot(text(entry.id.substr(stage.size() + 1)));
            }
        }
        return;
    case Kind::Circuit: // it stays in a stage that shows one circuit
        m_selection.setCircuit(job::CircuitId{entry.id});
        showStage(m_stage == Stage::Inputs || m_stage == Stage::Scale || m_stage == Stage::Pins ? m_stage
                                                                                                : Stage::Meter);
        return;
    case Kind::Cavity:
    case Kind::Wire:
        show(Stage::Pins);
        return;
    case Kind::Place:
        if (const auto at = readAt(*analysis, entry.id)) {
            m_selection.setCircuit(at->circuit);
            m_selection.setStation(at->station);
            showStage(Stage::Meter);
        } else {
            m_notices->say(tr("No conductor of a circuit goes through %1.").arg(text(entry.text)));
        }
        return;
    case Kind::Part:
        for (const job::Circuit& c : analysis->job->circuits)
            if (const parts::Part* s = job::sensorOf(*analysis->job, c); s != nullptr && s->id.value == entry.id) {
                m_selection.setCircuit(c.id);
                break;
            }
        showStage(Stage::Inputs);
        return;
    case Kind::Library:
        describePart(partKindOf(entry.id));
        m_part->startFrom(text(entry.id.substr(entry.id.find('/') + 1)));
        return;
    case Kind::Finding:
        if (m_drawer->isHidden())
            toggleFindings();
        m_drawer->showFinding(QString::fromStdString(entry.id).toInt());
        return;
    case Kind::Log:
        show(Stage::Handover);
        return;
    }
}

} // namespace vicegrip::app
