#include "link/scpi_meter.h"

#include <cmath>

namespace vicegrip::link {
namespace {

constexpr int kMeterPatience_ms = 2000;
constexpr double kBeyond = 0.9995; // between 9.9e37 and 9.91e37, for meters that count in single precision
constexpr qsizetype kShown = 40; // of an answer that is quoted

} // namespace

ScpiMeter::ScpiMeter(QObject* parent) : QObject(parent)
{
    m_patience.setSingleShot(true);
    m_patience.setInterval(kMeterPatience_ms);
    connect(&m_patience, &QTimer::timeout, this, [this] { giveUp(tr("The meter did not answer.")); });
    connect(&m_line, &LineSocket::connected, this, [this] {
        m_named = false;
        m_line.writeLine("*IDN?");
    });
    connect(&m_line, &LineSocket::received, this, &ScpiMeter::takeAnswer);
    connect(&m_line, &LineSocket::closed, this,
            [this](const QString& why) { leave(State::Failed, tr("The meter is gone: %1").arg(why)); });
}

void ScpiMeter::open(const Address& address)
{
    leave(State::Connecting, tr("The meter was connected anew."));
    m_patience.start(); // one that takes the line and stays mute is given up as well
    m_line.connectTo(address);
}

void ScpiMeter::close()
{
    m_line.close();
    leave(State::Off, tr("The meter was disconnected."));
}

void ScpiMeter::measure(job::Condition condition)
{
    if (m_state != State::Ready) {
        emit failed(m_state == State::Busy ? tr("The meter is still at the last reading.")
                                           : tr("There is no meter on the link."));
        return;
    }
    setState(State::Busy);
    m_patience.start();
    m_asked = condition;
    m_line.writeLine(job::isLive(condition) ? "MEAS:VOLT:DC?" : "MEAS:RES?");
}

void ScpiMeter::takeAnswer(const QByteArray& line)
{
    if (!m_named) {
        m_named = true;
        m_patience.stop();
        setState(State::Ready);
        return;
    }
    if (m_state != State::Busy)
        return; // nothing was asked
    m_patience.stop();
    setState(State::Ready);
    bool isNumber = false;
    const double value = QByteArray(line).toDouble(&isNumber);
    const auto dimension = job::isLive(m_asked) ? units::Dimension::Voltage : units::Dimension::Resistance;
    const bool beyond = std::abs(value) > kBeyond * kScpiOverload;
    if (isNumber && std::abs(value) < kBeyond * kScpiNoNumber)
        emit measured(beyond ? job::Reading::beyond(dimension, m_asked) : job::Reading::of(value, dimension, m_asked));
    else
        emit failed(tr("The meter answered \"%1\", which is not a number.").arg(QString::fromUtf8(line.left(kShown))));
}

/// A late answer must not be taken for the next one: the line is taken down and made again.
void ScpiMeter::giveUp(const QString& sentence)
{
    m_line.close();
    leave(State::Failed, sentence);
}

/// Whatever ends the line, a reading that was asked for is answered.
void ScpiMeter::leave(State state, const QString& sentence)
{
    const bool wasBusy = m_state == State::Busy;
    m_patience.stop();
    setState(state, sentence);
    if (wasBusy)
        emit failed(sentence);
}

void ScpiMeter::setState(State state, const QString& sentence)
{
    if (state == m_state)
        return;
    m_state = state;
    m_sentence = sentence;
    emit stateChanged(state, sentence);
}

} // namespace vicegrip::link
