#include "app/shell/main_window.h"

#include "app/desk/part_library.h"
#include "app/look/look.h"
#include "app/shell/circuit_list.h"
#include "app/shell/findings_drawer.h"
#include "app/shell/header.h"
#include "app/shell/jobs.h"
#include "app/shell/keeping.h"
#include "app/shell/missing.h"
#include "app/shell/notices.h"
#include "app/shell/opening_size.h"
#include "app/shell/stage_rail.h"
#include "app/shell/start_page.h"
#include "app/stages/stage_page.h"
#include "app/views/circuit_strip.h"
#include "app/widgets/sheet.h"
#include "app/widgets/signpost.h"
#include "core/brief/air_fuel.h"
#include "core/units/shown.h"

#include <QCloseEvent>
#include <QHBoxLayout>
#include <QScreen>
#include <QScrollArea>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace vicegrip::app {

using analysis::Stage;

namespace {

constexpr int kHelp = 300, kHelpTerms = 64;

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

MainWindow::MainWindow(std::unique_ptr<Preferences> preferences) : m_preferences(std::move(preferences))
{
    setObjectName(QStringLiteral("vicegrip"));
    resize(openingSize(screen()->availableGeometry().size()));
    if (restoreGeometry(m_remembered.place())) // never larger than the desk, which may be another one now
        resize(size().boundedTo(screen()->availableGeometry().size()));
    readLibraryAgain(); // the user's own parts may have changed since the last window
    buildLayout();
    buildActions();
    connectDesk();
    showStage(Stage::Board);
    sayConfigComplaints();
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
    m_jobs = new Jobs(m_store, *m_keeping, *m_notices, *m_preferences, this);
    m_start = new StartPage(*m_jobs);
    m_rail = new StageRail;
    m_list = new CircuitList(m_desk);
    m_stages = new QStackedWidget;
    m_signpost = new Signpost;
    m_signpost->setContentsMargins(look::kMargin, 0, look::kMargin, 0);
    m_stages->addWidget(m_signpost);
    m_stages->addWidget(m_start);
    m_strip = new CircuitStrip(m_desk);
    m_help = new Sheet;
    m_help->setObjectName(QStringLiteral("help"));
    m_help->setFixedWidth(kHelp);
    m_help->setTermWidth(kHelpTerms);
    m_help->hide();

    auto* right = new QVBoxLayout;
    right->setSpacing(0);
    auto* middle = new QHBoxLayout;
    middle->setSpacing(0);
    middle->addWidget(m_list);
    middle->addWidget(m_stages, 1);
    middle->addWidget(m_help);
    right->addLayout(middle, 1);
    right->addWidget(m_strip);

    auto* body = new QHBoxLayout;
    body->setSpacing(0);
    body->addWidget(m_rail);
    body->addLayout(right, 1);

    // On a desk that is smaller than the frame (twice the scale on a small screen) the frame is moved under the window.
    auto* frame = new Frame;
    auto* desk = new QScrollArea;
    desk->setObjectName(QStringLiteral("desk"));
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

void MainWindow::connectDesk()
{
    connect(m_preferences.get(), &Preferences::changed, this, &MainWindow::followPreferences);
    connect(&m_store, &JobStore::jobChanged, this, [this] {
        const double ratio = brief::airFuelRatio(*m_store.job());
        if (ratio == units::stoichiometricShown())
            return;
        units::setStoichiometric(ratio);
        if (units::shown().own.contains(units::Dimension::Lambda))
            m_store.analyseAfresh(); // what is said of mixtures is said in ratios of another fuel
    });
    connect(m_rail, &StageRail::chosen, this, &MainWindow::showStage);
    connect(m_help, &Sheet::left, this, &MainWindow::toggleHelp);
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

/// What of the user's configuration could not be understood, in one notice: they replace one another.
void MainWindow::sayConfigComplaints()
{
    QStringList said = {m_jobs->recent().complaint(), m_remembered.complaint(), m_taken.complaint(),
                        m_preferences->complaint()};
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
    const bool narrow = width() < look::kNarrow;
    m_rail->setFixedWidth(narrow ? look::kNarrowRail : look::kRail);
    m_list->setFixedWidth(narrow ? look::kNarrowList : look::kList);
    if (narrow)
        m_help->hide();
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
    m_remembered.setPlace(saveGeometry());
    event->accept();
}

} // namespace vicegrip::app
