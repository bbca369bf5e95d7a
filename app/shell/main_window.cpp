#include "app/shell/main_window.h"

#include "app/desk/part_library.h"
#include "app/look/look.h"
#include "app/shell/circuit_list.h"
#include "app/shell/command_finder.h"
#include "app/shell/findings_drawer.h"
#include "app/shell/header.h"
#include "app/shell/keeping.h"
#include "app/shell/missing.h"
#include "app/shell/notices.h"
#include "app/shell/opening_size.h"
#include "app/shell/stage_rail.h"
#include "app/stages/ahead/ahead_page.h"
#include "app/stages/board/board_page.h"
#include "app/stages/brief/brief_page.h"
#include "app/stages/handover/logbook_page.h"
#include "app/stages/inputs/inputs_page.h"
#include "app/stages/library/part_page.h"
#include "app/stages/meter/meter_page.h"
#include "app/stages/pins/pins_page.h"
#include "app/stages/scale/scale_page.h"
#include "app/store/whole_file.h"
#include "app/views/circuit_strip.h"
#include "app/widgets/signpost.h"
#include "core/harness/start.h"
#include "core/job/json.h"

#include <QAction>
#include <QApplication>
#include <QCloseEvent>
#include <QDir>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QScreen>
#include <QScrollArea>
#include <QStackedWidget>
#include <QStandardPaths>
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
    m_rail = new StageRail;
    m_list = new CircuitList(m_desk);
    m_stages = new QStackedWidget;
    m_signpost = new Signpost;
    m_signpost->setContentsMargins(look::kMargin, 0, look::kMargin, 0);
    m_stages->addWidget(m_signpost);
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
    for (int i = 0; i < analysis::kStageCount; ++i) {
        const auto stage = static_cast<Stage>(i);
        act(tr("Go to %1").arg(text(analysis::stageName(stage))), QKeySequence(tr("Ctrl+%1").arg(i)),
            [this, stage] { showStage(stage); });
    }
    act(tr("Previous circuit"), QKeySequence(tr("Alt+Up")), [this] { moveCircuit(-1); });
    act(tr("Next circuit"), QKeySequence(tr("Alt+Down")), [this] { moveCircuit(1); });
    act(tr("Open a job"), QKeySequence::Open, [this] { askToOpen(); });
    act(tr("New job"), QKeySequence::New, [this] { newJob(); });
    act(tr("Describe your own sensor"), {}, [this] { describePart(PartKind::Sensor); });
    act(tr("Describe your own ECU"), {}, [this] { describePart(PartKind::Ecu); });
    act(tr("Describe your own connector"), {}, [this] { describePart(PartKind::Connector); });
    act(tr("Save the job"), QKeySequence::Save, [this] { m_keeping->save(); });
    act(tr("Save a copy elsewhere"), QKeySequence(tr("Ctrl+Shift+S")), [this] { m_keeping->askForCopy(); });
    act(tr("Show findings"), QKeySequence(tr("Ctrl+F")), [this] { toggleFindings(); });
    act(tr("Battery off"), QKeySequence(tr("Ctrl+B")),
        [this] { m_selection.setCondition(job::Condition::BatteryOff); });
    act(tr("Key on"), QKeySequence(tr("Ctrl+Y")), [this] { m_selection.setCondition(job::Condition::KeyOn); });
    act(tr("Connect the links again"), {}, [this] { m_live.connectAgain(); });
    act(tr("Find an action"), QKeySequence(tr("Ctrl+K")), [this] { openFinder(); });
    act(tr("Quit"), QKeySequence::Quit, [this] { close(); });

    QAction* undo = m_store.undoStack().createUndoAction(this, tr("Undo"));
    undo->setShortcut(QKeySequence::Undo);
    QAction* redo = m_store.undoStack().createRedoAction(this, tr("Redo"));
    redo->setShortcut(QKeySequence(tr("Ctrl+Shift+Z")));
    addActions({undo, redo});
    QAction* night = act(tr("Night colours"), QKeySequence(tr("Ctrl+D")), [this] { setNight(!look::isNight()); });
    for (QAction* a : {undo, redo, night})
        m_rail->addAction(a);
}

void MainWindow::connectDesk()
{
    connect(m_rail, &StageRail::chosen, this, &MainWindow::showStage);
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
    if (m_store.isOpen(path)) { // its lock is ours, and what was edited stays
        m_notices->say(tr("This job is open here already."));
        return true;
    }
    if (!m_keeping->mayLeave(tr("Open without it"), [this, path] { openJob(path); }))
        return false;
    return openJob(JobStore::read(path));
}

bool MainWindow::openJob(Result<OpenedJob> read)
{
    if (!read) {
        m_notices->say(QString::fromStdString(read.error().text()));
        return false;
    }
    m_store.open(std::move(*read));
    const auto job = m_store.job();
    m_selection.setCircuit(job->circuits.empty() ? job::CircuitId{} : job->circuits.front().id);
    setWindowTitle(text(job->name) + QStringLiteral(" – Vicegrip"));
    if (!m_store.readOnlyReason().isEmpty())
        m_keeping->sayNotKept(m_store.readOnlyReason());
    return true;
}

/// A job in a file of its own from the first minute, so that nothing is lost; no dialog to fill in with gloves on.
void MainWindow::newJob()
{
    if (!m_keeping->mayLeave(tr("Begin without it"), [this] { newJob(); }))
        return;
    const QDir folder(QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation));
    QString path;
    for (int n = 1; path.isEmpty() || QFile::exists(path); ++n)
        path = folder.filePath(tr("New job %1.vicegrip").arg(n));
    parts::EcuProfile none;
    none.name = none.ecu.name = "ECU not chosen yet";
    const job::Job job = harness::startJob(QFileInfo(path).completeBaseName().toStdString(), none);
    folder.mkpath(QStringLiteral("."));
    if (const auto written = writeWhole(path, QByteArray::fromStdString(job::write(job))); !written) {
        m_notices->say(QString::fromStdString(written.error().text()));
        return;
    }
    if (openJob(path)) {
        m_notices->say(tr("The new job is kept in %1").arg(QDir::toNativeSeparators(path)));
        showStage(Stage::Brief);
    }
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
    m_stages->setCurrentWidget(m_part);
    m_list->setVisible(false);
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
    StagePage*& page = m_pages[static_cast<size_t>(stage)];
    if (page == nullptr) { // made when first asked for: the first window comes sooner
        page = makePage(m_desk, stage);
        m_stages->addWidget(page);
        if (stage != Stage::Board && !std::exchange(m_librarySaid, true))
            sayLibraryComplaints();
        connect(page, &StagePage::goTo, this, &MainWindow::showStage);
        connect(page, &StagePage::describePart, this, &MainWindow::describePart);
        connect(page, &StagePage::notice, this, [this](const QString& sentence) { m_notices->say(sentence); });
        connect(page, &StagePage::roomChanged, this, &MainWindow::makeRoom);
    }
    m_stage = stage;
    m_stages->setCurrentWidget(page);
    refresh();
}

/// The stage, or what leads to what it lacks; a part that is being described stays.
void MainWindow::showPage()
{
    if (m_part != nullptr && m_stages->currentWidget() == m_part)
        return;
    StagePage* page = m_pages[static_cast<size_t>(m_stage)];
    if (const auto missing = missingFor(m_stage, *m_store.job())) {
        m_signpost->show(missing->why, missing->detail, missing->step);
        m_stages->setCurrentWidget(m_signpost);
        m_list->hide();
        return;
    }
    m_stages->setCurrentWidget(page);
    page->refresh();
    makeRoom();
}

/// The circuit list stands beside a stage that has room for it.
void MainWindow::makeRoom()
{
    if (const StagePage* page = m_pages[static_cast<size_t>(m_stage)];
        page != nullptr && m_stages->currentWidget() == page)
        m_list->setVisible(page->wantsList());
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
    if (StagePage* page = m_pages[static_cast<size_t>(m_stage)]; m_stages->currentWidget() == page)
        page->refreshLive();
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

void MainWindow::askToOpen()
{
    const QString path =
        QFileDialog::getOpenFileName(this, tr("Open a job"), m_store.path(), tr("Vicegrip jobs (*.vicegrip)"));
    if (!path.isEmpty())
        openJob(path);
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
