#include "link/can_reader.h"

#include <QCanBusDevice>

#include <chrono>

namespace vicegrip::link {
namespace {

constexpr int kGather_ms = 10;
constexpr size_t kMostWaiting = 100000; // what was heard and nobody took

/// Bits of a classic frame with its gap, a tenth more for stuffed ones (ISO 11898-1; how many are stuffed hangs on the
/// data: none to a quarter).
qint64 bitsOf(const QCanBusFrame& frame)
{
    const qint64 head = frame.hasExtendedFrameFormat() ? 67 : 47;
    return (head + 8 * frame.payload().size()) * 11 / 10;
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
    if (frame.frameType() != QCanBusFrame::DataFrame)
        return;
    if (const auto answered = answerOf(frame); answered && m_answers.size() < kMostInputs)
        m_answers.append(*answered);
    if (m_heard.size() >= kMostWaiting) {
        ++m_health.lost;
        return;
    }
    const QByteArray bytes = frame.payload();
    const double now = std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count();
    const stream::Frame was =
        m_listener->hear(now, frame.frameId(), frame.hasExtendedFrameFormat(),
                         {reinterpret_cast<const std::uint8_t*>(bytes.constData()), static_cast<size_t>(bytes.size())},
                         m_values, m_heard);
    ++(was.known ? m_health.known : m_health.foreign);
    if (!was.outside.empty())
        m_health.outside = textOf(was.outside);
    if (!was.tooShort.empty())
        m_health.tooShort = textOf(was.tooShort);
}

void CanReader::hearError(const QCanBusFrame& frame)
{
    ++m_health.errors;
    if (frame.error().testFlag(QCanBusFrame::BusOffError))
        m_health.busOff = true;
    if (frame.error().testFlag(QCanBusFrame::ControllerRestartError))
        m_health.busOff = false;
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
    handOver();
}

/// One batch is under way at a time: who is busy finds one when he comes back, and not a thousand.
void CanReader::handOver()
{
    if (m_waits.exchange(true)) {
        if (!m_gather.isActive())
            m_gather.start();
        return;
    }
    emit came({m_run, {m_heard.begin(), m_heard.end()}, m_answers, m_health});
    m_heard.clear();
    m_answers.clear();
}

} // namespace vicegrip::link
