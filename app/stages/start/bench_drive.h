#pragma once

#include "app/desk/desk.h"

#include <QPointer>
#include <QTimer>

namespace vicegrip::app {

/// An evening's drive of the bench's car: its ECU's log is written beside the job, under the next free number.
class BenchDrive : public QObject
{
    Q_OBJECT

  public:
    explicit BenchDrive(Desk& desk, QObject* parent = nullptr);

    /// `onTheWay` follows, then `arrived` or `failed`.
    void begin();
    [[nodiscard]] bool isUnderWay() const { return !m_file.isEmpty(); }

  signals:
    void onTheWay(int percent);
    void arrived(const QString& file, const QString& before); ///< before: of the same job's last drive; empty: none
    void failed(const QString& sentence);

  private:
    void ask();
    void end(const QString& trouble);

    Desk& m_desk;
    QString m_job, m_file; ///< whose car is being driven, and into which log; empty: none
    QString m_lastJob, m_last; ///< of the drive before it
    QTimer m_again;
};

} // namespace vicegrip::app
