#pragma once

#include "link/line_socket.h"

#include <QTimer>

/// A multimeter that answers SCPI (IEEE 488.2 common commands, SCPI-99 measurement commands), a line each.
namespace vicegrip::link {

class ScpiMeter : public QObject
{
    Q_OBJECT

  public:
    enum class State { Off, Connecting, Ready, Busy, Failed };
    enum class Quantity { DcVolts, Ohms };

    explicit ScpiMeter(QObject* parent = nullptr);

    void open(const Address& address);
    void close();

    /// Asks for one reading; `measured` or `failed` follows, within two seconds. One at a time.
    void measure(Quantity quantity);

    [[nodiscard]] State state() const { return m_state; }

  signals:
    void stateChanged(vicegrip::link::ScpiMeter::State state, const QString& sentence);
    void measured(double value); ///< V or Ohm; an overload is 9.9e37, as SCPI has it
    void failed(const QString& sentence);

  private:
    void setState(State state, const QString& sentence = {});
    void takeAnswer(const QByteArray& line);
    void leave(State state, const QString& sentence);
    void giveUp(const QString& sentence);

    LineSocket m_line;
    QTimer m_patience;
    State m_state = State::Off;
    bool m_named = false; ///< it has answered *IDN?
};

} // namespace vicegrip::link
