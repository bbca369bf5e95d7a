#pragma once

#include "core/recording/recording.h"

#include <QObject>
#include <QString>
#include <QTimer>

#include <functional>

class QThread;

namespace vicegrip::app {

/// Writes what is heard to a file of columns, in a thread of its own: a slow disk stops nobody.
class Recorder : public QObject
{
    Q_OBJECT

  public:
    explicit Recorder(QObject* parent = nullptr);
    ~Recorder() override;

    void start(const QString& file, std::vector<recording::Column> columns);
    void take(const QList<stream::Heard>& heard, double now_s);
    /// A mark at this moment; its number, 0 while nothing is recorded.
    int mark(double now_s);
    void stop();

    [[nodiscard]] bool isRecording() const { return m_recording; }
    [[nodiscard]] const QString& file() const { return m_file; } ///< the one that is written, or was last
    [[nodiscard]] double seconds() const { return m_last_s - m_began_s; }
    [[nodiscard]] qint64 values() const { return m_values; } ///< that came, of any column
    [[nodiscard]] int marks() const { return m_marks; }

  signals:
    void changed(); ///< begun, ended, marked, or a second older
    void ended(const QString& file); ///< all of it is on the disk
    void broke(const QString& sentence); ///< what was written before is kept

  private:
    class File;
    void onFile(std::function<void(File&)> what);

    QThread* m_thread;
    File* m_out; ///< in that thread
    QTimer m_second;
    QString m_file;
    bool m_recording = false;
    double m_began_s = 0, m_last_s = 0;
    qint64 m_values = 0;
    int m_marks = 0;
};

} // namespace vicegrip::app
