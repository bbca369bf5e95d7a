#include "app/live/recorder.h"

#include <QFile>
#include <QThread>

namespace vicegrip::app {

/// The file, in the writing thread.
class Recorder::File : public QObject
{
  public:
    explicit File(Recorder& recorder) : m_recorder(recorder) {}

    void open(const QString& file, std::vector<recording::Column> columns)
    {
        m_file.setFileName(file);
        m_writer.emplace(std::move(columns));
        if (!m_file.open(QIODevice::WriteOnly | QIODevice::NewOnly))
            fail();
        else
            write(m_writer->header());
    }

    void take(const QList<stream::Heard>& heard)
    {
        if (!m_file.isOpen())
            return;
        m_text.clear();
        for (const stream::Heard& h : heard)
            m_writer->take(h, m_text);
        write(m_text);
    }

    void mark(double now_s)
    {
        if (!m_file.isOpen())
            return;
        m_text.clear();
        (void)m_writer->mark(now_s, m_text);
        write(m_text);
    }

    void flush() { m_file.flush(); }

    void close()
    {
        if (!m_file.isOpen())
            return;
        m_text.clear();
        m_writer->finish(m_text);
        write(m_text);
        const QString file = m_file.fileName();
        m_file.close();
        QMetaObject::invokeMethod(&m_recorder, [this, file] { emit m_recorder.ended(file); });
    }

  private:
    void write(const std::string& text)
    {
        if (m_file.write(text.data(), static_cast<qint64>(text.size())) != static_cast<qint64>(text.size()))
            fail();
    }

    void fail()
    {
        const QString sentence =
            tr("The recording cannot be written: %1 (%2).").arg(m_file.errorString(), m_file.fileName());
        m_file.close();
        QMetaObject::invokeMethod(&m_recorder, [this, sentence] {
            m_recorder.m_recording = false;
            m_recorder.m_second.stop();
            emit m_recorder.changed();
            emit m_recorder.broke(sentence);
        });
    }

    Recorder& m_recorder;
    QFile m_file;
    std::optional<recording::Writer> m_writer;
    std::string m_text;
};

Recorder::Recorder(QObject* parent) : QObject(parent), m_thread(new QThread(this)), m_out(new File(*this))
{
    m_out->moveToThread(m_thread);
    connect(m_thread, &QThread::finished, m_out, &QObject::deleteLater);
    m_thread->setObjectName(QStringLiteral("recorder"));
    m_thread->start();
    m_second.setInterval(1000);
    connect(&m_second, &QTimer::timeout, this, [this] {
        onFile([](File& out) { out.flush(); }); // a crash takes no more than a second of it
        emit changed();
    });
}

/// What was recorded is on the disk before anything ends.
Recorder::~Recorder()
{
    disconnect(); // who looks at it may be gone
    stop();
    onFile([this](File&) { m_thread->quit(); }); // after all that waits to be written
    m_thread->wait();
}

void Recorder::onFile(std::function<void(File&)> what)
{
    QMetaObject::invokeMethod(m_out, [out = m_out, what = std::move(what)] { what(*out); });
}

void Recorder::start(const QString& file, std::vector<recording::Column> columns)
{
    stop();
    m_file = file;
    m_recording = true;
    m_values = m_marks = 0;
    m_began_s = m_last_s = 0;
    onFile([file, columns = std::move(columns)](File& out) { out.open(file, columns); });
    m_second.start();
    emit changed();
}

void Recorder::take(const QList<stream::Heard>& heard, double now_s)
{
    if (!m_recording)
        return;
    m_began_s = m_values == 0 ? now_s : m_began_s;
    m_last_s = now_s;
    m_values += heard.size();
    onFile([heard](File& out) { out.take(heard); });
}

int Recorder::mark(double now_s)
{
    if (!m_recording)
        return 0;
    onFile([now_s](File& out) { out.mark(now_s); });
    ++m_marks;
    emit changed();
    return m_marks;
}

void Recorder::stop()
{
    if (!std::exchange(m_recording, false))
        return;
    m_second.stop();
    onFile([](File& out) { out.close(); });
    emit changed();
}

} // namespace vicegrip::app
