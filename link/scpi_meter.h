#pragma once

#include "core/job/reading.h"
#include "link/line_socket.h"

#include <QTimer>

/// A multimeter that answers SCPI (IEEE 488.2 common commands, SCPI-99 measurement commands), a line each.
namespace vicegrip::link {

/// SCPI-99, 7.2.1.5: what stands for an overload, and for no number.
inline constexpr double kScpiOverload = 9.9e37, kScpiNoNumber = 9.91e37;

class ScpiMeter : public QObject
{
    Q_OBJECT

  public:
    enum class State { Off, Connecting, Ready, Busy, Failed };

    explicit ScpiMeter(QObject* parent = nullptr);

    void open(const Address& address);
    void close();

    /// Asks for one reading, volts with the key on and Ohm with the battery off; `measured` or `failed` follows, within
    /// two seconds. One at a time.
    void measure(job::Condition condition);

    [[nodiscard]] State state() const { return m_state; }
    [[nodiscard]] const QString& sentence() const { return m_sentence; } ///< why it is so; empty: nothing to say

  signals:
    void stateChanged(vicegrip::link::ScpiMeter::State state, const QString& sentence);
    void measured(const vicegrip::job::Reading& reading);
    void failed(const QString& sentence);

  private:
    void setState(State state, const QString& sentence = {});
    void takeAnswer(const QByteArray& line);
    void leave(State state, const QString& sentence);
    void giveUp(const QString& sentence);

    LineSocket m_line;
    QTimer m_patience;
    State m_state = State::Off;
    QString m_sentence;
    job::Condition m_asked = job::Condition::KeyOn;
    bool m_named = false; ///< it has answered *IDN?
};

} // namespace vicegrip::link
