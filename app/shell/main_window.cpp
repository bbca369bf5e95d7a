#include "app/shell/main_window.h"

#include "app/desk/part_library.h"
#include "app/look/look.h"
#include "app/shell/circuit_list.h"
#include "app/shell/findings_drawer.h"
#include "app/shell/header.h"
#include "app/shell/jobs.h"
#include "app/shell/keeping.h"
#include "app/shell/notices.h"
#include "app/shell/opening_size.h"
#include "app/shell/stage_rail.h"
#include "app/stages/links/links_page.h"
#include "app/stages/stage_page.h"
#include "app/views/circuit_strip.h"
#include "core/brief/air_fuel.h"
#include "core/units/shown.h"

#include <QCloseEvent>
#include <QScreen>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace vicegrip::app {

using analysis::Stage;

MainWindow::MainWindow(std::unique_ptr<Preferences> preferences) : m_preferences(std::move(preferences))
{
    setObjectName(QStringLiteral("vicegrip"));
    resize(openingSize(screen()->availableGeometry().size()));
    if (restoreGeometry(m_remembered.place())) // never larger than the desk, which may be another one now
        resize(size().boundedTo(screen()->availableGeometry().size()));
    readLibraryAgain(); // the user's own parts may have changed since the last window
    m_notices = new Notices(this);
    m_keeping = new Keeping(m_store, *m_notices, this);
    m_jobs = new Jobs(m_store, *m_keeping, *m_notices, *m_preferences, this);
    auto* whole = new QVBoxLayout(this);
    whole->setContentsMargins(0, 0, 0, 0);
    buildActions();
    furnish();
    connectDesk();
    showStage(Stage::Board);
    sayConfigComplaints();
}

/// Views outlive the desk they look at, as children do: nobody tells them of what ends.
MainWindow::~MainWindow()
{
    m_live.stopBench();
    for (QObject* teller : std::initializer_list<QObject*>{&m_store, &m_live, &m_selection, &m_promises, &m_practice,
                                                           &m_linking, m_preferences.get()})
        teller->disconnect();
}

void MainWindow::connectDesk()
{
    connect(m_preferences.get(), &Preferences::changed, this, &MainWindow::followPreferences);
    connect(&m_practice, &Practice::changed, this, &MainWindow::followPractice);
    connect(&m_store, &JobStore::jobChanged, this, [this] {
        m_live.follow(m_store.job(), m_store.path());
        m_linking.follow();
        const double ratio = brief::airFuelRatio(*m_store.job());
        if (ratio == units::stoichiometricShown())
            return;
        units::setStoichiometric(ratio);
        if (units::shown().own.contains(units::Dimension::Lambda))
            m_store.analyseAfresh(); // what is said of mixtures is said in ratios of another fuel
    });
    connect(m_jobs, &Jobs::opened, this, [this] {
        const auto job = m_store.job();
        m_aside = nullptr;
        if (m_practice.state() != Practice::State::Off && !isPractised(m_store.path())) {
            m_live.stopBench(); // another job was opened: its car is not this one
            m_practice.end();
        }
        m_selection.setCircuit(job->circuits.empty() ? job::CircuitId{} : job->circuits.front().id);
        setWindowTitle(text(job->name) + QStringLiteral(" – Vicegrip"));
        if (!m_store.readOnlyReason().isEmpty())
            m_keeping->sayNotKept(m_store.readOnlyReason());
        showStage(m_stage);
    });
    connect(m_jobs, &Jobs::begun, this, [this] { showStage(Stage::Brief); });
    connect(m_jobs, &Jobs::demoOpened, this, &MainWindow::offerBench);
    connect(&m_store, &JobStore::analysed, this, &MainWindow::refresh);
    connect(&m_promises, &Promises::arrived, this, [this](const job::CircuitId& circuit) {
        if (circuit == m_selection.circuit())
            refresh();
    });
    connect(m_keeping, &Keeping::theirsAsked, this, [this] { openJob(m_store.readAgain()); });
    connect(&m_store, &JobStore::refused, this, [this](const QString& sentence) { m_notices->say(sentence); });
    connect(&m_store, &JobStore::recoveryOffered, this, &MainWindow::offerRecovery);
    connect(&m_store, &JobStore::autosaveFailed, this, [this](const QString& sentence) {
        m_keeping->sayNotKept(tr("Your changes are not being kept on disk: %1").arg(sentence));
    });
    connect(&m_selection, &Selection::changed, this, &MainWindow::refresh);
    connect(&m_selection, &Selection::pointedChanged, this, [this] { m_strip->refresh(); });
    connect(&m_selection, &Selection::conditionChanged, &m_live, &Live::setCondition);
    connect(&m_live, &Live::sampled, this, &MainWindow::refreshLive);
    connect(&m_live.recorder(), &Recorder::ended, this, &MainWindow::sayRecorded);
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

/// What of the user's configuration could not be understood, in one notice: they replace one another.
void MainWindow::sayConfigComplaints()
{
    QStringList said = {m_jobs->recent().complaint(), m_remembered.complaint(), m_taken.complaint(),
                        m_preferences->complaint(),   m_practice.complaint(),   m_linking.profiles().complaint()};
    said.removeAll(QString());
    if (!said.isEmpty())
        m_notices->say(said.join(QLatin1Char(' ')));
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

void MainWindow::refresh()
{
    m_header->refresh();
    m_rail->show(m_stage, *m_store.analysis());
    m_list->refresh();
    showPage();
    m_strip->refresh();
    m_drawer->refresh();
    if (m_aside != nullptr && m_aside == m_links)
        m_links->refresh();
}

void MainWindow::refreshLive()
{
    m_strip->refreshLive();
    if (StagePage* shown = m_pages[static_cast<size_t>(m_stage)]; m_stages->currentWidget() == shown)
        shown->refreshLive();
}

void MainWindow::offerRecovery()
{
    m_notices->say(tr("The last session ended before its changes were saved. They are kept."),
                   {{tr("Take them"), [this] { m_store.takeRecovery(); }},
                    {tr("Drop them"), [this] { m_store.dismissRecovery(); }}});
}

void MainWindow::resizeEvent(QResizeEvent* event)
{
    QWidget::resizeEvent(event);
    share();
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
    m_remembered.setPlace(saveGeometry());
    event->accept();
}

} // namespace vicegrip::app
