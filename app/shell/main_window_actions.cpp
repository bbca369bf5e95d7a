#include "app/shell/main_window.h"

#include "app/desk/exports.h"
#include "app/desk/when.h"
#include "app/look/look.h"
#include "app/shell/findings_drawer.h"
#include "app/shell/header.h"
#include "app/shell/job_menu.h"
#include "app/shell/jobs.h"
#include "app/shell/keeping.h"
#include "app/shell/keys_and_about.h"
#include "app/shell/notices.h"
#include "app/shell/preferences_page.h"
#include "app/shell/stage_rail.h"
#include "app/stages/library/part_page.h"
#include "app/stages/links/links_page.h"
#include "app/stages/practice/practice_page.h"
#include "app/widgets/sheet.h"
#include "core/base/shipped.h"

#include <QAction>
#include <QApplication>
#include <QDateTime>
#include <QDir>
#include <QFile>
#include <QStackedWidget>

#include <algorithm>

/// What the window can be asked to do, by key, by menu and by name.
namespace vicegrip::app {

using analysis::Stage;

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
        inJob(act(tr("Go to %1").arg(said(analysis::stageName(stage))), QKeySequence(tr("Ctrl+%1").arg(i)),
                  [this, stage] { showStage(stage); }))
            ->setData(i);
    }
    inJob(act(tr("Previous circuit"), QKeySequence(tr("Alt+Up")), [this] { moveCircuit(-1); }));
    inJob(act(tr("Next circuit"), QKeySequence(tr("Alt+Down")), [this] { moveCircuit(1); }));
    QAction* open = act(tr("Open a job"), QKeySequence::Open, [this] { m_jobs->ask(); });
    QAction* fresh = act(tr("New job"), QKeySequence::New, [this] { m_jobs->begin(); });
    QAction* another = inJob(act(tr("Another like this"), {}, [this] { m_jobs->beginAnother(); }));
    for (const auto& [what, name] : {std::pair(PartKind::Sensor, tr("Describe your own sensor or actuator")),
                                     {PartKind::Ecu, tr("Describe your own ECU")},
                                     {PartKind::Connector, tr("Describe your own connector")}})
        inJob(act(name, {}, [this, kind = what] { describePart(kind); }));
    QAction* save = inJob(act(tr("Save the job"), QKeySequence::Save, [this] { m_keeping->save(); }));
    QAction* copy =
        inJob(act(tr("Save a copy elsewhere"), QKeySequence(tr("Ctrl+Shift+S")), [this] { m_keeping->askForCopy(); }));
    QAction* lists = inJob(act(tr("Write lists and tables"), {}, [this] {
        const auto folder = exportAll(m_desk);
        m_notices->say(folder ? tr("All lists and tables are in %1.").arg(QDir::toNativeSeparators(*folder))
                              : QString::fromStdString(folder.error().text()));
    }));
    inJob(act(tr("Show findings"), QKeySequence(tr("Ctrl+F")), [this] { toggleFindings(); }));
    const auto under = [&](job::Condition condition, const QString& name, const QString& keys) {
        inJob(act(name, QKeySequence(keys), [this, condition] { m_selection.setCondition(condition); }));
    };
    under(job::Condition::BatteryOff, tr("Battery off"), tr("Ctrl+B"));
    under(job::Condition::KeyOn, tr("Key on"), tr("Ctrl+Y"));
    under(job::Condition::Cranking, tr("Cranking"), tr("Ctrl+Shift+Y"));
    under(job::Condition::Running, tr("Running"), tr("Ctrl+R"));
    QAction* linked = inJob(act(tr("Links"), QKeySequence(tr("Ctrl+L")), [this] { showLinks(); }));
    QAction* links = inJob(act(tr("Connect the links again"), {}, [this] { m_live.connectAgain(); }));
    QAction* bench = inJob(act(tr("Connect a simulated bench"), {}, [this] { startBench({}); }));
    QAction* record =
        inJob(act(tr("Record what is live, or stop"), QKeySequence(Qt::Key_F4), [this] { toggleRecording(); }));
    inJob(act(tr("Mark this moment in the recording"), QKeySequence(Qt::Key_F5), [this] { markRecording(); }));
    QAction* practise = act(tr("Practise finding faults"), {}, [this] { showPractice(); });
    act(tr("Find anything"), QKeySequence(tr("Ctrl+K")), [this] { openFinder(); });
    act(tr("Job menu"), QKeySequence(Qt::Key_F10), [this] { openMenu(); });
    QAction* help = act(tr("Help on this view"), QKeySequence(Qt::Key_F1), [this] { toggleHelp(); });
    QAction* keys = act(tr("Keyboard sheet"), QKeySequence(tr("Shift+F1")), [this] { showKeys(); });
    QAction* words = act(tr("Glossary"), {}, [this] { showGlossary(); });
    QAction* about = act(tr("About Vicegrip"), {}, [this] { showAbout(); });
    QAction* prefer = act(tr("Preferences"), QKeySequence(tr("Ctrl+,")), [this] { showPreferences(); });
    QAction* quit = act(tr("Quit"), QKeySequence::Quit, [this] { close(); });

    QAction* undo = m_store.undoStack().createUndoAction(this, tr("Undo"));
    undo->setShortcut(QKeySequence::Undo);
    QAction* redo = m_store.undoStack().createRedoAction(this, tr("Redo"));
    redo->setShortcut(QKeySequence(tr("Ctrl+Shift+Z")));
    addActions({undo, redo});
    QAction* night = act(tr("Night colours"), QKeySequence(tr("Ctrl+D")), [this] { setNight(!look::isNight()); });
    night->setIconText(tr("Night")); // in the narrow rail
    m_railActions = {undo, redo, night};
    QAction* larger = act(tr("Larger text"), QKeySequence(Qt::CTRL | Qt::Key_Plus), [this] { changeTextSize(1); });
    larger->setShortcuts({QKeySequence(Qt::CTRL | Qt::Key_Plus), QKeySequence(Qt::CTRL | Qt::Key_Equal)});
    QAction* smaller = act(tr("Smaller text"), QKeySequence(Qt::CTRL | Qt::Key_Minus), [this] { changeTextSize(-1); });
    // Ctrl+0 is the Board.
    QAction* plain = act(tr("Text at 100 %"), QKeySequence(tr("Ctrl+Alt+0")), [this] { setTextSize(100); });
    m_menu = new JobMenu(*m_jobs,
                         {{fresh, another, open},
                          {save, copy, lists},
                          {linked, links, record, bench, practise},
                          {night, larger, smaller, plain, prefer},
                          {help, words, keys, about},
                          {quit}},
                         this);
    const auto enable = [ofAJob, this] {
        for (QAction* a : ofAJob)
            a->setEnabled(m_store.hasJob());
    };
    connect(&m_store, &JobStore::jobChanged, this, enable);
    enable();
}

void MainWindow::startBench(const QString& faults)
{
    if (m_practice.state() == Practice::State::Playing) { // it has one, with what is wrong
        m_live.connectAgain();
        return;
    }
    m_live.startBench(QApplication::applicationDirPath() + QStringLiteral("/vicegrip-bench"), m_store.path(), faults);
}

/// A demo job has a car as well.
void MainWindow::offerBench(const QString& demo)
{
    const QString faults = text((shippedFolder() / "faults" / (demo.toStdString() + ".json")).string());
    m_notices->say(tr("This is your own copy of the demo job. Its car can be simulated, to read and to prove it."),
                   {{tr("Connect it"), [this, faults] { startBench(QFile::exists(faults) ? faults : QString()); }}});
}

void MainWindow::openMenu()
{
    m_menu->popup(mapToGlobal(m_header->menuPlace()));
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

std::string MainWindow::helpSubject() const
{
    if (m_aside != nullptr && m_aside == m_preferring)
        return "preferences";
    if (m_aside != nullptr && m_aside == m_practising)
        return "practice";
    if (m_aside != nullptr && m_aside == m_links)
        return "links";
    if (!m_store.hasJob())
        return "first";
    const StagePage* page = m_pages[static_cast<size_t>(m_stage)];
    const QString view = page == nullptr ? QString() : page->view();
    return (view.isEmpty() ? text(analysis::stageName(m_stage)).toLower() : view).toStdString();
}

/// Beside the work where there is room; in its place where there is none.
void MainWindow::toggleHelp()
{
    if (width() < look::kNarrow) {
        const QWidget* page = m_pages[static_cast<size_t>(m_stage)];
        showSheet();
        m_sheet->show(tr("Help"), helpFor(helpSubject(), keysOn(page)), false);
        return;
    }
    m_help->setVisible(m_help->isHidden());
    refreshHelp();
    makeRoom();
}

void MainWindow::refreshHelp()
{
    const std::string subject = helpSubject();
    if (m_help->isHidden() || m_helpOn == subject)
        return;
    m_helpOn = subject;
    const QWidget* page = m_store.hasJob() ? m_pages[static_cast<size_t>(m_stage)] : nullptr;
    QWidget* keys = focusWidget();
    m_help->show(tr("Help"), helpFor(m_helpOn, keysOn(page)), true);
    if (keys != nullptr) // they stay where the work is
        keys->setFocus();
}

void MainWindow::showKeys()
{
    const auto parts = keysOf(actions(), m_pages[static_cast<size_t>(m_stage)], said(analysis::stageName(m_stage)));
    showSheet();
    m_sheet->show(tr("Keys"), parts, true);
}

void MainWindow::showGlossary()
{
    showSheet();
    m_sheet->show(tr("Words, as they are meant here"), glossary(), false);
}

void MainWindow::showAbout()
{
    showSheet();
    m_sheet->show(tr("About Vicegrip"), about(), false);
}

/// The part page stands in the stage's place until it is left.
void MainWindow::describePart(PartKind what)
{
    if (m_part == nullptr)
        makePart();
    showAside(m_part);
    m_part->describe(what);
}

void MainWindow::makePart()
{
    m_part = new PartPage(m_desk);
    m_stages->addWidget(m_part);
    connect(m_part, &StagePage::notice, this, [this](const QString& sentence) { m_notices->say(sentence); });
    connect(m_part, &PartPage::left, this, [this] { showStage(m_stage); });
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

void MainWindow::setNight(bool night)
{
    Preferred preferred = m_preferences->now();
    preferred.paper = night ? Paper::Night : Paper::Day;
    m_preferences->set(preferred);
}

/// To the next size that is offered, up or down.
void MainWindow::changeTextSize(int steps)
{
    const int now = m_preferences->now().textSize;
    const auto above = std::ranges::upper_bound(look::kTextSizes, now),
               from = std::ranges::lower_bound(look::kTextSizes, now);
    if (steps > 0 && above != std::end(look::kTextSizes))
        setTextSize(*above);
    if (steps < 0 && from != std::begin(look::kTextSizes))
        setTextSize(*std::prev(from));
}

void MainWindow::setTextSize(int percent)
{
    Preferred preferred = m_preferences->now();
    preferred.textSize = percent;
    m_preferences->set(preferred);
}

void MainWindow::showPreferences()
{
    if (m_preferring == nullptr) {
        m_preferring = new PreferencesPage(m_desk);
        m_stages->addWidget(m_preferring);
        connect(m_preferring, &PreferencesPage::left, this, [this] { showStage(m_stage); });
    }
    showAside(m_preferring);
    m_preferring->refresh();
    m_preferring->setFocus();
}

void MainWindow::showLinks()
{
    if (m_links == nullptr) {
        m_links = new LinksPage(m_desk);
        m_stages->addWidget(m_links);
        connect(m_links, &LinksPage::left, this, [this] {
            m_linking.endTrial();
            showStage(m_stage);
        });
        connect(m_links, &LinksPage::benchAsked, this, [this] { startBench({}); });
        connect(m_links, &LinksPage::recordAsked, this, &MainWindow::toggleRecording);
        connect(m_links, &LinksPage::markAsked, this, &MainWindow::markRecording);
    }
    showAside(m_links);
    m_links->refresh();
    m_links->setFocus();
}

/// Into a folder beside the job, by the time it began.
void MainWindow::toggleRecording()
{
    if (m_live.recorder().isRecording()) {
        m_live.stopRecording();
        return;
    }
    if (!m_live.ecuLive()) {
        m_notices->say(tr("Nothing is live to be recorded: connect the ECU on page Links."));
        return;
    }
    const QFileInfo job(m_store.path());
    m_live.record(QStringLiteral("%1/%2 recordings/%3.csv")
                      .arg(job.path(), job.completeBaseName(),
                           QDateTime::currentDateTime().toString(QStringLiteral("yyyy-MM-dd HHmmss"))));
}

void MainWindow::markRecording()
{
    if (m_live.mark() == 0)
        m_notices->say(tr("Nothing is recorded: F4 begins."));
}

void MainWindow::sayRecorded(const QString& file)
{
    const Recorder& recorder = m_live.recorder();
    m_notices->say(tr("Recorded: %1, %2 values, %3 marks, in %4.")
                       .arg(clockText(recorder.seconds()))
                       .arg(recorder.values())
                       .arg(recorder.marks())
                       .arg(QDir::toNativeSeparators(file)),
                   {{tr("Play it"), [this, file] {
                         showLinks();
                         m_links->offerRecording(file);
                     }}});
}

/// Headings and sentences were made in other units and from other habits: pages are made again when they are asked for,
/// and what the analysis says is said again.
void MainWindow::followPreferences(const Preferred& before)
{
    const Preferred& now = m_preferences->now();
    const bool resized = now.textSize != before.textSize;
    look::setTextSize(now.textSize);
    if (const bool night = m_preferences->night(look::desktopIsNight()); night != look::isNight() || resized)
        look::apply(*qApp, night);
    Preferred besidesLooks = before;
    besidesLooks.paper = now.paper;
    besidesLooks.textSize = now.textSize;
    if (besidesLooks != now)
        dropPages();
    if (now.shown != before.shown && m_store.hasJob())
        m_store.analyseAfresh();
    if (resized)
        furnishAgain();
    else
        refresh();
    for (QWidget* w : findChildren<QWidget*>())
        w->update();
}

} // namespace vicegrip::app
