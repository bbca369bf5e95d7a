#include "app/stages/start/bench_drive.h"

#include <QFileInfo>

#include <utility>

namespace vicegrip::app {
namespace {

constexpr int kAsks_ms = 300;

/// Beside the job: "petrel-drive-2.csv".
QString nextFile(const QString& job)
{
    const QFileInfo file(job);
    for (int n = 1;; ++n) {
        const QString next = QStringLiteral("%1/%2-drive-%3.csv").arg(file.path(), file.completeBaseName()).arg(n);
        if (!QFileInfo::exists(next))
            return next;
    }
}

} // namespace

BenchDrive::BenchDrive(Desk& desk, QObject* parent) : QObject(parent), m_desk(desk)
{
    m_again.setSingleShot(true);
    m_again.setInterval(kAsks_ms);
    connect(&m_again, &QTimer::timeout, this, &BenchDrive::ask);
}

void BenchDrive::begin()
{
    if (isUnderWay())
        return;
    m_job = m_desk.store.path();
    m_file = nextFile(m_job);
    emit onTheWay(0);
    m_desk.live.bench().drive(m_file, [here = QPointer(this)](const QString& trouble) {
        if (here == nullptr)
            return;
        if (trouble.isEmpty())
            here->m_again.start();
        else
            here->end(trouble);
    });
}

void BenchDrive::ask()
{
    m_desk.live.bench().askDriven([here = QPointer(this)](int percent, bool done, const QString& trouble) {
        if (here == nullptr)
            return;
        if (done) {
            here->end(trouble);
            return;
        }
        emit here->onTheWay(percent);
        here->m_again.start();
    });
}

void BenchDrive::end(const QString& trouble)
{
    const QString file = std::exchange(m_file, {});
    if (!trouble.isEmpty()) {
        emit failed(trouble);
    } else if (m_job != m_desk.store.path()) {
        emit failed(tr("another job is open; the log of the one before is %1").arg(file));
    } else {
        const QString before = std::exchange(m_last, file);
        emit arrived(file, std::exchange(m_lastJob, m_job) == m_job ? before : QString());
    }
}

} // namespace vicegrip::app
