#pragma once

#include "bench/car.h"
#include "core/obd/obd.h"

#include <QCanBusFrame>

namespace vicegrip::bench {

/// The diagnostic side of a plug-in unit: its values over OBD as its tables make them, and a code for each input that
/// sits at a rail. A code that was cleared comes back as pending while its fault is there.
class Diagnostics
{
  public:
    /// What the unit answers to a frame; nothing without power, or where the car's own unit was taken out.
    [[nodiscard]] QList<QCanBusFrame> take(const QCanBusFrame& frame, Car& car);

  private:
    [[nodiscard]] obd::Responder::Unit unitOf(Car& car);

    obd::Responder m_responder{0x7E8, false};
    std::set<obd::Code> m_cleared; ///< are pending, as long as they are there
};

} // namespace vicegrip::bench
