#include "link/can_ecu.h"

#include <QCanBus>
#include <QCanBusDevice>

namespace vicegrip::link {
namespace {

constexpr int kSilence_ms = 1000; // 50 samples at 50 Hz
constexpr int kTablePatience_ms = 2000; // for the answer to a table

} // namespace

CanEcu::CanEcu(QObject* parent) : QObject(parent)
{
    m_silence.setSingleShot(true);
    m_silence.setInterval(kSilence_ms);
    connect(&m_silence, &QTimer::timeout, this,
            [this] { setState(State::Silent, tr("The ECU sends nothing. Is the key on?")); });
    m_awaiting.setSingleShot(true);
    m_awaiting.setInterval(kTablePatience_ms);
    connect(&m_awaiting, &QTimer::timeout, this, [this] {
        const int input = std::exchange(m_awaitedInput, -1);
        emit tableFailed(input, tr("The ECU did not answer. Is the key on?"));
    });
}

CanEcu::~CanEcu()
{
    m_bus.reset();
}

void CanEcu::open(const QString& plugin, const QString& interface)
{
    QString error;
    if (std::unique_ptr<QCanBusDevice> bus(QCanBus::instance()->createDevice(plugin, interface, &error)); bus) {
        open(std::move(bus));
        return;
    }
    close();
    setState(State::Failed, tr("The CAN bus cannot be opened: %1").arg(error));
}

void CanEcu::open(std::unique_ptr<QCanBusDevice> bus)
{
    close();
    m_bus = std::move(bus);
    connect(m_bus.get(), &QCanBusDevice::framesReceived, this, &CanEcu::readFrames);
    connect(m_bus.get(), &QCanBusDevice::errorOccurred, this, [this](QCanBusDevice::CanBusError code) {
        if (code != QCanBusDevice::NoError)
            setState(State::Failed, tr("The CAN bus broke: %1").arg(m_bus->errorString()));
    });
    connect(m_bus.get(), &QCanBusDevice::stateChanged, this, [this](QCanBusDevice::CanBusDeviceState now) {
        if (now == QCanBusDevice::UnconnectedState && m_state != State::Off)
            setState(State::Failed, tr("The CAN bus is gone."));
    });
    setState(State::Connecting);
    if (!m_bus->connectDevice())
        setState(State::Failed, tr("The CAN bus cannot be opened: %1").arg(m_bus->errorString()));
    m_silence.start();
}

void CanEcu::close()
{
    m_silence.stop();
    setState(State::Off);
    if (m_bus) {
        m_bus->disconnect(this);
        if (m_bus->state() != QCanBusDevice::UnconnectedState)
            m_bus->disconnectDevice();
        m_bus.release()->deleteLater(); // it may be the sender of what called us
    }
}

void CanEcu::sendTable(const EcuTable& table)
{
    if (!m_bus || m_state == State::Failed || m_state == State::Off) {
        emit tableFailed(table.input, tr("There is no link to the ECU."));
        return;
    }
    m_awaitedInput = table.input;
    m_awaiting.start();
    for (const QCanBusFrame& frame : framesOf(table))
        m_bus->writeFrame(frame);
}

void CanEcu::readFrames()
{
    QList<EcuSample> samples;
    QList<EcuPulses> pulses;
    for (const QCanBusFrame& frame : m_bus->readAllFrames()) {
        if (const auto sample = sampleOf(frame)) {
            samples.append(*sample);
        } else if (const auto counts = pulsesOf(frame)) {
            pulses.append(*counts);
        } else if (const auto answered = answerOf(frame); answered && answered->input == m_awaitedInput) {
            m_awaiting.stop();
            m_awaitedInput = -1;
            emit tableAnswered(answered->input, answered->answer);
        }
    }
    if (!pulses.isEmpty())
        emit counted(pulses);
    if (samples.isEmpty())
        return;
    m_silence.start();
    setState(State::Live);
    emit sampled(samples);
}

void CanEcu::setState(State state, const QString& sentence)
{
    if (state == m_state)
        return;
    m_state = state;
    emit stateChanged(state, sentence);
}

} // namespace vicegrip::link
