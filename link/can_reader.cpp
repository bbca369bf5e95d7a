#include "link/can_reader.h"

#include <QCanBusDevice>

#include <chrono>

namespace vicegrip::link {
namespace {

constexpr int kGather_ms = 10;
constexpr int kPlay_ms = 20, kPoll_ms = 20, kPollsToTell = 12;
constexpr size_t kMostWaiting = 100000; // what was heard and nobody took

/// Bits of a classic frame with its gap, a tenth more for stuffed ones (ISO 11898-1; how many are stuffed hangs on the
/// data: none to a quarter).
qint64 bitsOf(const QCanBusFrame& frame)
{
    const qint64 head = frame.hasExtendedFrameFormat() ? 67 : 47;
    return (head + 8 * frame.payload().size()) * 11 / 10;
}

/// Seconds of a clock that only runs forward.
double now()
{
    return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

can_log::Frame logged(const QCanBusFrame& frame)
{
    can_log::Frame out;
    out.time_s = std::chrono::duration<double>(std::chrono::system_clock::now().time_since_epoch()).count();
    out.bus = "can0";
    out.id = frame.frameId();
    out.extended = frame.hasExtendedFrameFormat();
    out.remote = frame.frameType() == QCanBusFrame::RemoteRequestFrame;
    out.flexible = frame.hasFlexibleDataRateFormat();
    const QByteArray bytes = frame.payload();
    out.data.assign(bytes.begin(), bytes.end());
    return out;
}

QString textOf(std::string_view utf8)
{
    return QString::fromUtf8(utf8.data(), static_cast<qsizetype>(utf8.size()));
}

} // namespace

CanReader::CanReader()
{
    m_gather.setParent(this);
    m_gather.setSingleShot(true);
    m_gather.setInterval(kGather_ms);
    m_gather.setTimerType(Qt::PreciseTimer);
    connect(&m_gather, &QTimer::timeout, this, &CanReader::handOver);
    m_play.setParent(this);
    m_play.setInterval(kPlay_ms);
    m_play.setTimerType(Qt::PreciseTimer);
    connect(&m_play, &QTimer::timeout, this, &CanReader::playOn);
    m_poll.setParent(this);
    m_poll.setInterval(kPoll_ms);
    connect(&m_poll, &QTimer::timeout, this, &CanReader::pollUnits);
    m_second.setParent(this);
    m_second.setInterval(1000);
    connect(&m_second, &QTimer::timeout, this, &CanReader::count);
}

CanReader::~CanReader() = default;

void CanReader::open(const OpensBus& opens, int bitRate, int run)
{
    close();
    m_run = run;
    m_health = {};
    m_bitRate = bitRate;
    m_waits = false;
    QString trouble;
    m_bus = opens(trouble);
    if (!m_bus) {
        emit broke(m_run, tr("The CAN bus cannot be opened: %1").arg(trouble));
        return;
    }
    connect(m_bus.get(), &QCanBusDevice::framesReceived, this, &CanReader::read);
    connect(m_bus.get(), &QCanBusDevice::errorOccurred, this, [this](QCanBusDevice::CanBusError code) {
        if (code == QCanBusDevice::NoError)
            return;
        m_error = m_bus->errorString();
        if (code == QCanBusDevice::ConnectionError)
            breakOff(tr("The CAN bus broke: %1").arg(m_error));
    });
    connect(m_bus.get(), &QCanBusDevice::stateChanged, this, [this](QCanBusDevice::CanBusDeviceState now) {
        if (now == QCanBusDevice::UnconnectedState)
            breakOff(m_error.isEmpty() ? tr("The CAN bus is gone.") : tr("The CAN bus broke: %1").arg(m_error));
    });
    m_since.start();
    m_second.start();
    if (!m_bus->connectDevice() && m_bus)
        breakOff(tr("The CAN bus cannot be opened: %1").arg(m_bus->errorString()));
}

void CanReader::close()
{
    m_gather.stop();
    m_play.stop();
    m_poll.stop();
    m_units.reset();
    m_player.reset();
    m_log.close();
    m_second.stop();
    m_heard.clear();
    m_answers.clear();
    m_error.clear();
    m_frames = m_bits = 0;
    if (!m_bus)
        return;
    m_bus->disconnect(this);
    if (m_bus->state() != QCanBusDevice::UnconnectedState)
        m_bus->disconnectDevice();
    m_bus.release()->deleteLater(); // it may be the sender of what called us
}

void CanReader::breakOff(const QString& sentence)
{
    close();
    emit broke(m_run, sentence);
}

/// What the one before heard is of other inputs.
void CanReader::listen(std::shared_ptr<const stream::Listener> listener, int listening)
{
    m_listener = std::move(listener);
    m_listening = listening;
    m_heard.clear();
}

void CanReader::write(const QList<QCanBusFrame>& frames)
{
    if (m_bus)
        for (const QCanBusFrame& frame : frames)
            m_bus->writeFrame(frame);
}

void CanReader::read()
{
    for (const QCanBusFrame& frame : m_bus->readAllFrames()) {
        ++m_frames;
        if (frame.frameType() == QCanBusFrame::ErrorFrame)
            hearError(frame);
        else
            hear(frame);
    }
    if (!m_gather.isActive())
        m_gather.start();
}

void CanReader::hear(const QCanBusFrame& frame)
{
    m_bits += bitsOf(frame);
    log(frame);
    if (frame.frameType() != QCanBusFrame::DataFrame)
        return;
    if (const auto answered = answerOf(frame); answered && m_answers.size() < kMostInputs)
        m_answers.append(*answered);
    const QByteArray bytes = frame.payload();
    hear(frame.frameId(), frame.hasExtendedFrameFormat(),
         {reinterpret_cast<const std::uint8_t*>(bytes.constData()), static_cast<size_t>(bytes.size())});
}

void CanReader::hear(std::uint32_t id, bool extended, std::span<const std::uint8_t> data)
{
    const bool known =
        m_units && obd::isAnswer(id, extended) ? hearUnit(id, extended, data) : understand(id, extended, data);
    ++(known ? m_health.known : m_health.foreign);
}

/// What a unit answers, and whether that was waited for.
bool CanReader::hearUnit(std::uint32_t id, bool extended, std::span<const std::uint8_t> data)
{
    send(m_units->take(now(), {id, extended, {data.begin(), data.end()}}));
    bool heard = m_poll.isActive(); // a recording tells of what was asked then
    for (const obd::Bytes& told : m_units->takeTold())
        heard |= understand(obd::kDescribedId, false, told);
    return heard;
}

/// Whether it is described.
bool CanReader::understand(std::uint32_t id, bool extended, std::span<const std::uint8_t> data)
{
    if (m_heard.size() >= kMostWaiting) {
        ++m_health.lost;
        return true;
    }
    const stream::Frame was = m_listener->hear(now(), id, extended, data, m_values, m_heard);
    if (!was.outside.empty())
        m_health.outside = textOf(was.outside);
    if (!was.tooShort.empty())
        m_health.tooShort = textOf(was.tooShort);
    return was.known;
}

void CanReader::askUnits(bool ask)
{
    if (!m_bus)
        return;
    m_units.reset();
    if (ask) {
        m_units.emplace();
        m_poll.start();
    } else {
        m_poll.stop();
    }
}

void CanReader::readCodes()
{
    if (m_units)
        m_units->readCodes();
}

void CanReader::clearCodes()
{
    if (m_units)
        m_units->clearCodes();
}

void CanReader::pollUnits()
{
    send(m_units->poll(now()));
    if (++m_polls % kPollsToTell == 0)
        emit unitsSaid(m_run, std::make_shared<const obd::Session>(*m_units));
}

void CanReader::send(const std::vector<obd::CanFrame>& frames)
{
    if (!m_bus)
        return; // a recording is played
    for (const obd::CanFrame& f : frames) {
        QCanBusFrame frame(f.id, QByteArray(reinterpret_cast<const char*>(f.data.data()), std::ssize(f.data)));
        frame.setExtendedFrameFormat(f.extended);
        m_bus->writeFrame(frame);
        log(frame); // its answer is of no use without it
    }
}

void CanReader::log(const QCanBusFrame& frame)
{
    if (m_log.is_open())
        m_log << can_log::line(logged(frame)) << '\n';
}

void CanReader::log(const QString& file)
{
    m_log.close();
    if (file.isEmpty() || !m_bus)
        return;
    m_log.open(file.toStdString(), std::ios::binary);
    if (!m_log)
        emit complained(tr("The frames cannot be written to %1.").arg(file));
}

void CanReader::play(const QString& file, std::shared_ptr<const job::Job> job, double speed, int run)
{
    close();
    m_run = run;
    m_health = {};
    m_waits = false;
    auto player = recording::Player::open(file.toStdString(), *job);
    if (!player) {
        emit broke(m_run, QString::fromStdString(player.error().text()));
        return;
    }
    m_player = std::move(*player);
    m_speed = speed;
    m_units.emplace();
    QStringList left;
    for (const std::string& column : m_player->left())
        left << QString::fromStdString(column);
    emit playing(m_run, m_player->seconds(), left);
    m_played.start();
    m_since.start();
    m_second.start();
    m_play.start();
}

/// What is due of the recording comes now: its own times are of another day.
void CanReader::playOn()
{
    if (m_heard.size() >= kMostWaiting)
        return; // nobody takes it now: it is caught up with
    const size_t before = m_heard.size();
    const double due_s = static_cast<double>(m_played.nsecsElapsed()) * 1e-9 * m_speed;
    const auto played = m_player->until(due_s, m_heard, [this](const can_log::Frame& f) {
        ++m_frames;
        hear(f.id, f.extended, f.data);
    });
    const double now_s = now();
    for (size_t i = before; i < m_heard.size(); ++i)
        m_heard[i].time_s = now_s;
    if (!m_player->isOfFrames()) {
        m_health.known += static_cast<qint64>(m_heard.size() - before);
        m_frames += static_cast<qint64>(m_heard.size() - before);
    }
    if (!played)
        emit complained(QString::fromStdString(played.error().text()));
    if (m_player->isOver())
        m_play.stop();
    handOver();
}

void CanReader::hearError(const QCanBusFrame& frame)
{
    ++m_health.errors;
    if (frame.error().testFlag(QCanBusFrame::BusOffError))
        m_health.bus = CanHealth::Bus::Off;
    if (frame.error().testFlag(QCanBusFrame::ControllerRestartError))
        m_health.bus = CanHealth::Bus::Good;
    // linux/can/error.h: the controller's receive buffer overran
    constexpr char kReceiveOverflow = 0x01;
    if (frame.error().testFlag(QCanBusFrame::ControllerError) && frame.payload().size() > 1 &&
        (frame.payload().at(1) & kReceiveOverflow) != 0)
        ++m_health.lost;
}

void CanReader::count()
{
    const double seconds = static_cast<double>(m_since.restart()) / 1000;
    m_health.framesPerSecond = seconds > 0 ? static_cast<double>(m_frames) / seconds : 0;
    if (m_bitRate > 0 && seconds > 0)
        m_health.load = static_cast<double>(m_bits) / seconds / m_bitRate;
    m_frames = m_bits = 0;
    if (m_log.is_open() && !m_log.flush()) { // a crash takes no more than a second of it
        m_log.close();
        emit complained(tr("The frames cannot be written any more: is the disk full?"));
    }
    askBus();
    handOver();
}

/// Some adapters say how they are; of the others only error frames do.
void CanReader::askBus()
{
    if (!m_bus || !m_bus->hasBusStatus())
        return;
    switch (m_bus->busStatus()) {
    case QCanBusDevice::CanBusStatus::Good:
        m_health.bus = CanHealth::Bus::Good;
        break;
    case QCanBusDevice::CanBusStatus::Warning:
    case QCanBusDevice::CanBusStatus::Error:
        m_health.bus = CanHealth::Bus::Warning;
        break;
    case QCanBusDevice::CanBusStatus::BusOff:
        m_health.bus = CanHealth::Bus::Off;
        break;
    case QCanBusDevice::CanBusStatus::Unknown:
        break;
    }
}

/// One batch is under way at a time: who is busy finds one when he comes back, and not a thousand.
void CanReader::handOver()
{
    if (m_waits.exchange(true)) {
        if (!m_gather.isActive())
            m_gather.start();
        return;
    }
    CanBatch batch;
    if (m_player) {
        batch.played_s = std::min(static_cast<double>(m_played.nsecsElapsed()) * 1e-9 * m_speed, m_player->seconds());
        batch.mark = m_player->mark();
        batch.over = m_player->isOver();
    }
    batch.run = m_run;
    batch.listening = m_listening;
    batch.heard = {m_heard.begin(), m_heard.end()};
    batch.answers = m_answers;
    batch.health = m_health;
    emit came(batch);
    m_heard.clear();
    m_answers.clear();
}

} // namespace vicegrip::link
