#include "app/live/live.h"
#include "core/base/shipped.h"

#include <QDir>
#include <QFileInfo>

#include <chrono>

/// What is connected in whose place: an ECU's own stream, a recording, a meter of one's own.
namespace vicegrip::app {

/// What is told is made of the frames from now on, by what the job listens for.
void Live::listen()
{
    const bool described = m_stream || (m_replay && m_replay->database);
    const auto& database = m_stream ? m_stream->database : described ? m_replay->database : m_benchFrames;
    if (!database)
        return;
    auto ears = described ? stream::earsOf(*m_job) : stream::benchEars(*m_job);
    if (m_listener && ears == m_ears)
        return;
    m_ears = std::move(ears);
    m_listener = std::make_shared<const stream::Listener>(database, m_ears);
    m_latest.clear();
    m_ecu.listen(m_listener);
}

double Live::now_s()
{
    return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

void Live::readBenchFrames()
{
    if (m_benchFrames)
        return;
    if (const auto read = dbc::readFile(shippedFolder() / "links" / "bench.dbc"))
        m_benchFrames = std::make_shared<const dbc::Database>(read->database);
}

void Live::play(const Replay& replay)
{
    emit chosenOtherwise();
    leaveBench();
    closeStream();
    readBenchFrames();
    m_replay = replay;
    m_listener.reset();
    listen();
    m_ecu.play(replay.file, m_job, replay.speed);
    emit linksChanged();
}

void Live::endReplay()
{
    if (!m_replay)
        return;
    m_replay.reset();
    m_ecu.close();
    m_listener.reset();
    m_latest.clear();
    emit linksChanged();
    emit sampled();
}

void Live::record(const QString& file)
{
    QDir().mkpath(QFileInfo(file).path()); // before either thread writes there
    m_columns = recording::columnsOf(*m_job);
    m_recorder.start(file, m_columns);
    if (!m_replay)
        m_ecu.log(QFileInfo(file).path() + u'/' + QFileInfo(file).completeBaseName() + QStringLiteral(".log"));
}

void Live::stopRecording()
{
    m_ecu.log({});
    m_recorder.stop();
}

void Live::openStream(const StreamLink& stream)
{
    leaveBench();
    endReplay();
    m_stream = stream;
    m_listener.reset();
    listen();
    m_ecu.open(link::opensPlugin(stream.place), stream.place.bitRate);
    m_ecu.askUnits(stream.overObd);
    emit linksChanged();
}

void Live::closeStream()
{
    if (!m_stream)
        return;
    m_ecu.close();
    m_stream.reset();
    m_listener.reset();
    m_latest.clear();
    emit linksChanged();
    emit sampled();
}

QStringList Live::missingSignals() const
{
    QStringList out;
    if (m_stream && m_listener)
        for (const std::string& name : m_listener->missing())
            out << QString::fromStdString(name);
    return out;
}

void Live::openMeter(const link::Address& address)
{
    leaveBench();
    m_meterAddress = address;
    m_meter.open(address);
    emit linksChanged();
}

void Live::closeMeter()
{
    m_meterAddress.reset();
    m_meter.close();
    emit linksChanged();
}

/// What is simulated and what is real are never read side by side.
void Live::leaveBench()
{
    if (m_benchCall.isEmpty())
        return;
    m_benchCall.clear();
    stopBench();
}

} // namespace vicegrip::app
