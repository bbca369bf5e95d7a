#include "app/shell/main_window.h"

#include "app/desk/part_library.h"
#include "app/look/look.h"
#include "app/shell/circuit_list.h"
#include "app/shell/command_finder.h"
#include "app/shell/findings_drawer.h"
#include "app/shell/header.h"
#include "app/shell/job_menu.h"
#include "app/shell/jobs.h"
#include "app/shell/keeping.h"
#include "app/shell/keys_and_about.h"
#include "app/shell/missing.h"
#include "app/shell/notices.h"
#include "app/shell/opening_size.h"
#include "app/shell/stage_rail.h"
#include "app/shell/start_page.h"
#include "app/stages/ahead/ahead_page.h"
#include "app/stages/board/board_page.h"
#include "app/stages/brief/brief_page.h"
#include "app/stages/handover/logbook_page.h"
#include "app/stages/inputs/inputs_page.h"
#include "app/stages/library/part_page.h"
#include "app/stages/meter/meter_page.h"
#include "app/stages/pins/pins_page.h"
#include "app/stages/scale/scale_page.h"
#include "app/views/circuit_strip.h"
#include "app/widgets/sheet.h"
#include "app/widgets/signpost.h"

#include <QAction>
#include <QApplication>
#include <QCloseEvent>
#include <QFile>
#include <QHBoxLayout>
#include <QScreen>
#include <QScrollArea>
#include <QStackedWidget>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {
namespace {

using analysis::Stage;

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
    case Stage::Handover:
        return new LogbookPage(desk);
    default:
        return new AheadPage(desk, stage);
    }
}

/// What the window shows. Its content fills it and has no say in its size: texts that wrap would ask for more height
/// than they need.
class Frame : public QWidget
{
  public:
    Frame() : m_content(new QWidget(this))
    {
        setObjectName(QStringLiteral("frame"));
        setMinimumSize(1024, 700);
    }
    [[nodiscard]] QWidget* content() const { return m_content; }

  protected:
    void resizeEvent(QResizeEvent*) override { m_content->resize(size()); }

  private:
    QWidget* m_content;
};

} // namespace

MainWindow::MainWindow(QWidget* parent) : QWidget(parent)
{
    setObjectName(QStringLiteral("vicegrip"));
    resize(openingSize(screen()->availableGeometry().size()));
    readLibraryAgain(); // the user's own parts may have changed since the last window
    buildLayout();
    buildActions();
    connectDesk();
    showStage(Stage::Board);
}

MainWindow::~MainWindow()
{
    m_live.stopBench();
}

void MainWindow::buildLayout()
{
    m_header = new Header(m_desk);
    m_notices = new Notices;
    m_keeping = new Keeping(m_store, *m_notices, this);
    m_jobs = new Jobs(m_store, *m_keeping, *m_notices, this);
    m_start = new StartPage(*m_jobs);
    m_rail = new StageRail;
    m_list = new CircuitList(m_desk);
    m_stages = new QStackedWidget;
    m_signpost = new Signpost;
    m_signpost->setContentsMargins(look::kMargin, 0, look::kMargin, 0);
    m_stages->addWidget(m_signpost);
    m_stages->addWidget(m_start);
    m_strip = new CircuitStrip(m_desk);

    auto* right = new QVBoxLayout;
    right->setSpacing(0);
    auto* middle = new QHBoxLayout;
    middle->setSpacing(0);
    middle->addWidget(m_list);
    middle->addWidget(m_stages, 1);
    right->addLayout(middle, 1);
    right->addWidget(m_strip);

    auto* body = new QHBoxLayout;
    body->setSpacing(0);
    body->addWidget(m_rail);
    body->addLayout(right, 1);

    // On a desk that is smaller than the frame (twice the scale on a small screen) the frame is moved under the window.
    auto* frame = new Frame;
    auto* desk = new QScrollArea;
    desk->setFrameShape(QFrame::NoFrame);
    desk->setWidgetResizable(true);
    desk->setWidget(frame);
    desk->setFocusPolicy(Qt::NoFocus);
    auto* whole = new QVBoxLayout(this);
    whole->setContentsMargins(0, 0, 0, 0);
    whole->addWidget(desk);
    setMinimumSize(openingSize(screen()->availableGeometry().size()).boundedTo(frame->minimumSize()));

    auto* column = new QVBoxLayout(frame->content());
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(m_header);
    column->addWidget(m_notices);
    column->addLayout(body, 1);
    m_drawer = new FindingsDrawer(m_desk, this);
}

QAction* MainWindow::act(const QString& name, const QKeySequence& key, const std::function<void()>& what)
{
    auto* action = new QAction(name, this);
    action->setShortcut(key);
    connect(action, &QAction::triggered, this, what);
    addAction(action);
    return action;
}

void MainWindow::buildActions()
{
    QList<QAction*> ofAJob; // what there is nothing to do with before one is open
    const auto inJob = [&](QAction* action) {
        ofAJob << action;
        return action;
    };
    for (int i = 0; i < analysis::kStageCount; ++i) {
        const auto stage = static_cast<Stage>(i);
        inJob(act(tr("Go to %1").arg(text(analysis::stageName(stage))), QKeySequence(tr("Ctrl+%1").arg(i)),
                  [this, stage] { showStage(stage); }))
            ->setData(i);
    }
    inJob(act(tr("Previous circuit"), QKeySequence(tr("Alt+Up")), [this] { moveCircuit(-1); }));
    inJob(act(tr("Next circuit"), QKeySequence(tr("Alt+Down")), [this] { moveCircuit(1); }));
    QAction* open = act(tr("Open a job"), QKeySequence::Open, [this] { m_jobs->ask(); });
    QAction* fresh = act(tr("New job"), QKeySequence::New, [this] { m_jobs->begin(); });
    QAction* another = inJob(act(tr("Another like this"), {}, [this] { m_jobs->beginAnother(); }));
    for (const auto& [what, name] : {std::pair(PartKind::Sensor, tr("Describe your own sensor")),
                                     {PartKind::Ecu, tr("Describe your own ECU")},
                                     {PartKind::Connector, tr("Describe your own connector")}})
        inJob(act(name, {}, [this, what] { describePart(what); }));
    QAction* save = inJob(act(tr("Save the job"), QKeySequence::Save, [this] { m_keeping->save(); }));
    QAction* copy =
        inJob(act(tr("Save a copy elsewhere"), QKeySequence(tr("Ctrl+Shift+S")), [this] { m_keeping->askForCopy(); }));
    inJob(act(tr("Show findings"), QKeySequence(tr("Ctrl+F")), [this] { toggleFindings(); }));
    inJob(act(tr("Battery off"), QKeySequence(tr("Ctrl+B")),
              [this] { m_selection.setCondition(job::Condition::BatteryOff); }));
    inJob(act(tr("Key on"), QKeySequence(tr("Ctrl+Y")), [this] { m_selection.setCondition(job::Condition::KeyOn); }));
    QAction* links = inJob(act(tr("Connect the links again"), {}, [this] { m_live.connectAgain(); }));
    QAction* bench = inJob(act(tr("Connect a simulated bench"), {}, [this] { startBench({}); }));
    act(tr("Find an action"), QKeySequence(tr("Ctrl+K")), [this] { openFinder(); });
    act(tr("Job menu"), QKeySequence(Qt::Key_F10), [this] { openMenu(); });
    QAction* keys = act(tr("Keyboard sheet"), QKeySequence(tr("Shift+F1")), [this] { showKeys(); });
    QAction* about = act(tr("About Vicegrip"), {}, [this] { showAbout(); });
    QAction* quit = act(tr("Quit"), QKeySequence::Quit, [this] { close(); });

    QAction* undo = m_store.undoStack().createUndoAction(this, tr("Undo"));
    undo->setShortcut(QKeySequence::Undo);
    QAction* redo = m_store.undoStack().createRedoAction(this, tr("Redo"));
    redo->setShortcut(QKeySequence(tr("Ctrl+Shift+Z")));
    addActions({undo, redo});
    QAction* night = act(tr("Night colours"), QKeySequence(tr("Ctrl+D")), [this] { setNight(!look::isNight()); });
    for (QAction* a : {undo, redo, night})
        m_rail->addAction(a);
    m_menu = new JobMenu(*m_jobs, {{fresh, another, open}, {save, copy}, {links, bench}, {night, keys, about}, {quit}},
                         this);
    const auto enable = [ofAJob, this] {
        for (QAction* a : ofAJob)
            a->setEnabled(m_store.hasJob());
    };
    connect(&m_store, &JobStore::jobChanged, this, enable);
    enable();
}

void MainWindow::connectDesk()
{
    connect(m_rail, &StageRail::chosen, this, &MainWindow::showStage);
    connect(m_header, &Header::menuAsked, this, &MainWindow::openMenu);
    connect(m_jobs, &Jobs::opened, this, [this] {
        const auto job = m_store.job();
        m_aside = nullptr;
        m_selection.setCircuit(job->circuits.empty() ? job::CircuitId{} : job->circuits.front().id);
        setWindowTitle(text(job->name) + QStringLiteral(" – Vicegrip"));
        if (!m_store.readOnlyReason().isEmpty())
            m_keeping->sayNotKept(m_store.readOnlyReason());
        showStage(m_stage);
    });
    connect(m_jobs, &Jobs::begun, this, [this] { showStage(Stage::Brief); });
    connect(m_jobs, &Jobs::demoOpened, this, &MainWindow::offerBench);
    connect(m_header, &Header::findingsAsked, this, &MainWindow::toggleFindings);
    connect(m_header, &Header::finderAsked, this, [this] { openFinder(); });
    connect(m_signpost, &Signpost::taken, this, [this] {
        if (const auto missing = missingFor(m_stage, *m_store.job()))
            showStage(missing->leadsTo);
    });
    connect(m_strip, &CircuitStrip::stationChosen, this,
            [this](const QString& key) { m_selection.setStation(key.toStdString()); });
    connect(&m_store, &JobStore::analysed, this, &MainWindow::refresh);
    connect(&m_promises, &Promises::arrived, this, [this](const job::CircuitId& circuit) {
        if (circuit == m_selection.circuit())
            refresh();
    });
    connect(&m_store, &JobStore::savedChanged, m_header, &Header::refresh);
    connect(m_keeping, &Keeping::theirsAsked, this, [this] { openJob(m_store.readAgain()); });
    connect(&m_store, &JobStore::refused, this, [this](const QString& sentence) { m_notices->say(sentence); });
    connect(&m_store, &JobStore::recoveryOffered, this, &MainWindow::offerRecovery);
    connect(&m_store, &JobStore::autosaveFailed, this, [this](const QString& sentence) {
        m_keeping->sayNotKept(tr("Your changes are not being kept on disk: %1").arg(sentence));
    });
    connect(&m_selection, &Selection::changed, this, &MainWindow::refresh);
    connect(&m_selection, &Selection::conditionChanged, &m_live, &Live::setCondition);
    connect(&m_live, &Live::sampled, this, &MainWindow::refreshLive);
    connect(&m_live, &Live::linksChanged, m_header, &Header::refresh);
    connect(&m_live, &Live::troubled, this, [this](const QString& sentence) {
        m_notices->say(sentence, {{tr("Connect again"), [this] { m_live.connectAgain(); }}});
    });
    connect(&m_live, &Live::benchSaid, this, [this](const QString& sentence) { m_notices->say(sentence); });
}

bool MainWindow::openJob(const QString& path)
{
    return m_jobs->open(path);
}

bool MainWindow::openJob(Result<OpenedJob> read)
{
    return m_jobs->open(std::move(read));
}

void MainWindow::startBench(const QString& faults)
{
    m_live.startBench(QApplication::applicationDirPath() + QStringLiteral("/vicegrip-bench"), m_store.path(), faults);
}

/// A demo job has a car as well.
void MainWindow::offerBench(const QString& demo)
{
    const QString faults = QStringLiteral(VICEGRIP_DATA_DIR) + QStringLiteral("/faults/%1.json").arg(demo);
    m_notices->say(tr("This is your own copy of the demo job. Its car can be simulated, to read and to prove it."),
                   {{tr("Connect it"), [this, faults] { startBench(QFile::exists(faults) ? faults : QString()); }}});
}

void MainWindow::openMenu()
{
    m_menu->popup(mapToGlobal(m_header->menuPlace()));
}

void MainWindow::showAside(QWidget* page)
{
    m_aside = page;
    m_stages->setCurrentWidget(page);
    m_list->setVisible(false);
    m_strip->setVisible(m_store.hasJob() && page == m_part); // a sheet is read, and takes the room
}

void MainWindow::showSheet()
{
    if (m_sheet == nullptr) {
        m_sheet = new Sheet;
        m_sheet->setObjectName(QStringLiteral("sheet"));
        m_stages->addWidget(m_sheet);
        connect(m_sheet, &Sheet::left, this, [this] { showStage(m_stage); });
    }
    showAside(m_sheet);
}

void MainWindow::showKeys()
{
    const auto parts = keysOf(actions(), m_pages[static_cast<size_t>(m_stage)], text(analysis::stageName(m_stage)));
    showSheet();
    m_sheet->show(tr("Keys"), parts, true);
}

void MainWindow::showAbout()
{
    showSheet();
    m_sheet->show(tr("About Vicegrip"), about(), false);
}

/// The part page stands in the stage's place until it is left.
void MainWindow::describePart(PartKind what)
{
    if (m_part == nullptr) {
        m_part = new PartPage(m_desk);
        m_stages->addWidget(m_part);
        connect(m_part, &StagePage::notice, this, [this](const QString& sentence) { m_notices->say(sentence); });
        connect(m_part, &PartPage::left, this, [this] { showStage(m_stage); });
    }
    showAside(m_part);
    m_part->describe(what);
}

/// Library files that were left out are said once.
void MainWindow::sayLibraryComplaints()
{
    const auto& complaints = library().complaints;
    if (complaints.empty())
        return;
    QString sentence = tr("Left out of the library: %1").arg(QString::fromStdString(complaints.front().text()));
    if (complaints.size() > 1)
        sentence += tr(" (and %1 more)").arg(complaints.size() - 1);
    m_notices->say(sentence);
}

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
    connect(page, &StagePage::notice, this, [this](const QString& sentence) { m_notices->say(sentence); });
    connect(page, &StagePage::roomChanged, this, &MainWindow::makeRoom);
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
        return;
    }
    if (const auto missing = missingFor(m_stage, *m_store.job())) {
        m_signpost->show(missing->why, missing->detail, missing->step);
        m_stages->setCurrentWidget(m_signpost);
        m_list->hide();
        return;
    }
    StagePage& shown = page(m_stage);
    m_stages->setCurrentWidget(&shown);
    shown.refresh();
    makeRoom();
}

/// The circuit list stands beside a stage that has room for it.
void MainWindow::makeRoom()
{
    if (const StagePage* shown = m_pages[static_cast<size_t>(m_stage)];
        shown != nullptr && m_stages->currentWidget() == shown)
        m_list->setVisible(shown->wantsList());
}

void MainWindow::refresh()
{
    m_header->refresh();
    m_rail->show(m_stage, *m_store.analysis());
    m_list->refresh();
    showPage();
    m_strip->refresh();
    m_drawer->refresh();
}

void MainWindow::refreshLive()
{
    m_strip->refreshLive();
    if (StagePage* shown = m_pages[static_cast<size_t>(m_stage)]; m_stages->currentWidget() == shown)
        shown->refreshLive();
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

void MainWindow::toggleFindings()
{
    m_drawer->setVisible(!m_drawer->isVisible());
    if (!m_drawer->isVisible())
        return;
    m_drawer->place();
    m_drawer->refresh();
    m_drawer->setFocus();
}

void MainWindow::openFinder()
{
    if (m_finder == nullptr)
        m_finder = new CommandFinder(this);
    m_finder->open(actions());
}

void MainWindow::offerRecovery()
{
    m_notices->say(tr("The last session ended before its changes were saved. They are kept."),
                   {{tr("Take them"), [this] { m_store.takeRecovery(); }},
                    {tr("Drop them"), [this] { m_store.dismissRecovery(); }}});
}

void MainWindow::setNight(bool night)
{
    look::apply(*qApp, night);
    refresh();
    for (QWidget* w : findChildren<QWidget*>())
        w->update();
}

void MainWindow::resizeEvent(QResizeEvent* event)
{
    QWidget::resizeEvent(event);
    const bool narrow = width() < look::kNarrow;
    m_rail->setFixedWidth(narrow ? look::kNarrowRail : look::kRail);
    m_list->setFixedWidth(narrow ? look::kNarrowList : look::kList);
    makeRoom();
    if (m_drawer->isVisible())
        m_drawer->place();
}

/// What is not saved stays in the autosave and is offered next time: closing never loses work, and asks only where it
/// can be kept nowhere.
void MainWindow::closeEvent(QCloseEvent* event)
{
    if (!m_keeping->mayLeave(tr("Close without it"), [this] { close(); })) {
        event->ignore();
        return;
    }
    m_live.stopBench();
    event->accept();
}

} // namespace vicegrip::app
