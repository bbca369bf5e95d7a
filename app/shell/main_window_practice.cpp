#include "app/desk/fault_families.h"
#include "app/desk/part_library.h"
#include "app/desk/when.h"
#include "app/shell/jobs.h"
#include "app/shell/keeping.h"
#include "app/shell/main_window.h"
#include "app/shell/notices.h"
#include "app/stages/practice/practice_bar.h"
#include "app/stages/practice/practice_page.h"
#include "app/store/whole_file.h"
#include "core/base/shipped.h"
#include "core/job/json.h"

#include <QApplication>
#include <QDir>
#include <QRandomGenerator>
#include <QStackedWidget>
#include <QStandardPaths>

/// The practice bench: a copy of the job, a car with faults that the window does not know, and the way back.
namespace vicegrip::app {
namespace {

/// Of its own: rounds are no jobs of anybody's.
QDir practiceFolder()
{
    return QDir(QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + QStringLiteral("/practice"));
}

} // namespace

using analysis::Stage;

bool MainWindow::isPractised(const QString& path)
{
    return !path.isEmpty() && QFileInfo(path).absoluteDir() == practiceFolder();
}

void MainWindow::makePractising()
{
    if (m_practising != nullptr)
        return;
    m_practising = new PracticePage(m_desk);
    m_stages->addWidget(m_practising);
    connect(m_practising, &PracticePage::beginAsked, this, &MainWindow::beginRound);
    connect(m_practising, &PracticePage::left, this, [this] { showStage(m_stage); });
    connect(m_practising, &PracticePage::overAsked, this, &MainWindow::leavePractice);
}

void MainWindow::showPractice()
{
    makePractising();
    showAside(m_practising);
    if (m_practice.state() == Practice::State::Over)
        m_practising->debrief();
    else
        m_practising->choose(m_store.hasJob() ? text(m_store.job()->name) : tr("Petrel, the demo car"));
}

void MainWindow::showNaming()
{
    makePractising();
    showAside(m_practising);
    m_practising->name();
}

/// Once a round is over its debrief stands in the stage's place.
void MainWindow::followPractice()
{
    if (m_practice.state() == Practice::State::Over && m_practice.debrief() == nullptr)
        showPractice();
    refresh();
}

/// The job that is open, or that was before the last round; else the demo car.
Result<job::Job> MainWindow::jobToPractise() const
{
    if (m_practice.state() != Practice::State::Off || m_store.hasJob())
        return *m_store.job();
    return job::readFile(shippedFolder() / "jobs" / "petrel.vicegrip");
}

void MainWindow::beginRound(practice::Level level)
{
    if (!m_keeping->mayLeave(tr("Practise without it"), [this, level] { beginRound(level); }))
        return;
    const auto like = jobToPractise();
    if (!like || !faultFamilies()) {
        m_notices->say(QString::fromStdString(like ? faultFamilies().error().text() : like.error().text()));
        return;
    }
    const auto of = std::make_shared<const analysis::Analysis>(
        analysis::analyse(std::make_shared<const job::Job>(practice::practiceJob(*like))));
    const auto round =
        practice::makeRound(*of, *faultFamilies(), library(), level,
                            m_seed.value_or(QRandomGenerator::global()->generate()), m_practice.record());
    if (!round) {
        m_notices->say(text(round.error().sentence) + QLatin1Char('.'));
        return;
    }
    const bool again = isPractised(m_store.path());
    const QString before = again ? m_practice.before() : m_store.path();
    m_beforeIsKept = again ? m_beforeIsKept : m_store.hasJob() && !m_store.isSaved();
    m_live.stopBench();
    const QDir folder = practiceFolder();
    folder.mkpath(QStringLiteral("."));
    // The last round's file is open still; what is left of those before it goes.
    const QString one = folder.filePath(QStringLiteral("round 1.vicegrip"));
    const QString path = m_store.isOpen(one) ? folder.filePath(QStringLiteral("round 2.vicegrip")) : one;
    for (const QFileInfo& old : folder.entryInfoList(QDir::Files | QDir::Hidden))
        if (old.fileName().contains(QFileInfo(path).completeBaseName()))
            QFile::remove(old.filePath());
    const auto written =
        writeWhole(path, QByteArray::fromStdString(job::write(practice::startOf(*of, *round, nowText()))));
    if (!written) {
        m_notices->say(QString::fromStdString(written.error().text()));
        return;
    }
    if (!m_jobs->openAside(JobStore::read(path)))
        return;
    m_practice.begin(*round, of, before);
    m_live.startPractice(QApplication::applicationDirPath() + QStringLiteral("/vicegrip-bench"), path,
                         QByteArray::fromStdString(faults::writeFaults(round->faults())));
    m_selection.setCondition(job::Condition::KeyOn);
    m_selection.setCircuit(round->circuits.front());
    showStage(Stage::Meter);
}

void MainWindow::leavePractice()
{
    m_live.stopBench();
    const QString before = m_practice.before();
    m_practice.end();
    if (before.isEmpty() || !m_jobs->open(JobStore::read(before))) {
        showPractice();
        return;
    }
    if (m_beforeIsKept && m_store.hasRecovery()) { // what was not saved when the round began, and nobody else's
        m_store.takeRecovery();
        m_notices->hide();
    }
    showStage(Stage::Board);
}

} // namespace vicegrip::app
