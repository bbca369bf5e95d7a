#pragma once

#include "app/desk/desk.h"
#include "app/widgets/key_button.h"

#include <deque>
#include <optional>

namespace vicegrip::app {

/// The idle-stop loop on one key: the screw was turned, then the shut throttle is zeroed where it rests now, until the
/// idle is right and shut reads 0.
class IdleStop : public KeyButton
{
    Q_OBJECT

  public:
    explicit IdleStop(Desk& desk, QWidget* parent = nullptr);

    void press();
    /// The input's volts now; none while nothing is sent, or of another circuit.
    void hear(std::optional<double> volts);
    /// What the key does now, and while the screw is being turned where the shut throttle stands.
    void tell();

  signals:
    void said(const QString& sentence, bool bad);

  private:
    void screwMoved();
    void zeroHere();
    /// Where it rests now; none while it moves, or nothing is sent.
    [[nodiscard]] std::optional<double> rest() const;

    Desk& m_desk;
    std::deque<double> m_lately;
};

} // namespace vicegrip::app
