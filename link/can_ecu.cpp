#include "link/can_ecu.h"

namespace vicegrip::link {
namespace {

constexpr int kSilence_ms = 1000; // 50 samples at 50 Hz
constexpr int kTablePatience_ms = 2000; // for the answer to a table
constexpr unsigned long kThreadEnds_ms = 2000;

} // namespace

CanEcu::CanEcu(QObject* parent) : QObject(parent), m_thread(new QThread), m_reader(new CanReader)
{
    m_reader->moveToThread(m_thread);
    connect(m_thread, &QThread::finished, m_reader, &QObject::deleteLater);
    connect(m_reader, &CanReader::came, this, [this](const CanBatch& batch) {
        if (batch.run == m_run)
            take(batch);
    });
    connect(m_reader, &CanReader::broke, this, [this](int run, const QString& sentence) {
        if (run != m_run)
            return;
        m_silence.stop();
        m_units.reset(); // what they said is not now
        m_asking = false;
        setState(State::Failed, sentence);
    });
    connect(m_reader, &CanReader::unitsSaid, this, [this](int run, const std::shared_ptr<const obd::Session>& said) {
        if (run != m_run || !m_asking)
            return;
        m_units = said;
        emit unitsSaid();
    });
    connect(m_reader, &CanReader::complained, this, &CanEcu::complained);
    connect(m_reader, &CanReader::playing, this, [this](int run, double seconds, const QStringList& left) {
        if (run == m_run)
            m_played = Played{seconds, 0, 0, false, left};
    });
    m_thread->setObjectName(QStringLiteral("can"));
    m_thread->start();
    m_silence.setSingleShot(true);
    m_silence.setInterval(kSilence_ms);
    connect(&m_silence, &QTimer::timeout, this, &CanEcu::miss);
    m_awaiting.setSingleShot(true);
    m_awaiting.setInterval(kTablePatience_ms);
    connect(&m_awaiting, &QTimer::timeout, this, [this] {
        const int input = std::exchange(m_awaitedInput, -1);
        emit tableFailed(input, tr("The ECU did not answer. Is the key on?"));
    });
}

/// An adapter that hangs keeps its thread; nobody waits for it for long.
CanEcu::~CanEcu()
{
    m_reader->disconnect(this);
    QMetaObject::invokeMethod(m_reader, [reader = m_reader] { reader->close(); });
    m_thread->quit();
    if (m_thread->wait(kThreadEnds_ms))
        delete m_thread;
}

void CanEcu::open(const OpensBus& opens, int bitRate)
{
    close();
    setState(State::Connecting);
    QMetaObject::invokeMethod(m_reader,
                              [reader = m_reader, opens, bitRate, run = m_run] { reader->open(opens, bitRate, run); });
    m_silence.start();
}

void CanEcu::play(const QString& file, const std::shared_ptr<const job::Job>& job, double speed)
{
    close();
    setState(State::Connecting);
    QMetaObject::invokeMethod(
        m_reader, [reader = m_reader, file, job, speed, run = m_run] { reader->play(file, job, speed, run); });
    m_silence.start();
}

void CanEcu::askUnits(bool ask)
{
    m_asking = ask && m_state != State::Off && m_state != State::Failed;
    m_units.reset();
    QMetaObject::invokeMethod(m_reader, [reader = m_reader, on = m_asking] { reader->askUnits(on); });
    emit unitsSaid();
}

void CanEcu::readCodes()
{
    QMetaObject::invokeMethod(m_reader, [reader = m_reader] { reader->readCodes(); });
}

void CanEcu::clearCodes()
{
    QMetaObject::invokeMethod(m_reader, [reader = m_reader] { reader->clearCodes(); });
}

void CanEcu::log(const QString& file)
{
    QMetaObject::invokeMethod(m_reader, [reader = m_reader, file] { reader->log(file); });
}

void CanEcu::close()
{
    ++m_run;
    m_silence.stop();
    m_health = {};
    m_played.reset();
    m_units.reset();
    m_asking = false;
    setState(State::Off);
    QMetaObject::invokeMethod(m_reader, [reader = m_reader] { reader->close(); });
}

void CanEcu::listen(const std::shared_ptr<const stream::Listener>& listener)
{
    QMetaObject::invokeMethod(
        m_reader, [reader = m_reader, listener, listening = ++m_listening] { reader->listen(listener, listening); });
}

void CanEcu::sendTable(const EcuTable& table)
{
    if (m_state == State::Failed || m_state == State::Off) {
        emit tableFailed(table.input, tr("There is no link to the ECU."));
        return;
    }
    m_awaitedInput = table.input;
    m_awaiting.start();
    QMetaObject::invokeMethod(m_reader, [reader = m_reader, frames = framesOf(table)] { reader->write(frames); });
}

void CanEcu::take(const CanBatch& batch)
{
    m_reader->taken();
    const bool itsOwn = batch.health.known > m_health.known;
    const bool another = batch.health.framesPerSecond != m_health.framesPerSecond;
    m_health = batch.health;
    for (const AnsweredTable& answered : batch.answers)
        if (answered.input == m_awaitedInput) {
            m_awaiting.stop();
            m_awaitedInput = -1;
            emit tableAnswered(answered.input, answered.answer);
        }
    if (itsOwn) {
        m_silence.start();
        setState(State::Live);
    }
    if (!batch.heard.isEmpty() && batch.listening == m_listening)
        emit told(batch.heard);
    if (m_played) {
        m_played->now_s = batch.played_s;
        m_played->mark = batch.mark;
        m_played->over = batch.over;
        emit playedOn();
    }
    if (another)
        emit healthChanged();
}

/// Why nothing of it comes, as far as the bus tells.
void CanEcu::miss()
{
    m_silence.start(); // the reason may be another in a second
    if (m_played && m_played->over)
        setState(State::Silent, tr("The recording has ended."));
    else if (m_played)
        setState(State::Silent, tr("The recording tells of no input of this job now."));
    else if (m_health.bus == CanHealth::Bus::Off)
        setState(State::Silent, tr("The adapter has left the bus after too many errors. Is the bit rate right, and is "
                                   "the pair closed at both ends?"));
    else if (m_health.errors > 0 && m_health.framesPerSecond > 0 && m_health.foreign + m_health.known == 0)
        setState(State::Silent, tr("Only error frames come. Is the bit rate right?"));
    else if (m_health.foreign > 0 && m_health.framesPerSecond > 0)
        setState(State::Silent, tr("Frames come, and none of them is in the database: is it this ECU's?"));
    else
        setState(State::Silent, tr("The ECU sends nothing. Is the key on?"));
}

void CanEcu::setState(State state, const QString& sentence)
{
    if (state == m_state && sentence == m_sentence)
        return;
    m_state = state;
    m_sentence = sentence;
    emit stateChanged(state, sentence);
}

} // namespace vicegrip::link
