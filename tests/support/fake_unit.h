#pragma once

#include "core/obd/obd.h"
#include "tests/support/virtual_bus.h"

namespace vicegrip::test {

/// A unit on the virtual bus that answers over OBD, and sends nothing by itself.
class FakeUnit
{
  public:
    FakeUnit(std::uint32_t answersFrom, bool extended)
        : m_responder(answersFrom, extended), m_bus(VirtualBus::connected())
    {
        QObject::connect(m_bus.get(), &QCanBusDevice::framesReceived, m_bus.get(), [this] { answer(); });
    }

    obd::Responder::Unit says;
    std::set<std::uint32_t> heard; ///< identifiers of all that came by

  private:
    void answer()
    {
        for (const QCanBusFrame& frame : m_bus->readAllFrames()) {
            heard.insert(frame.frameId());
            const QByteArray bytes = frame.payload();
            for (const obd::CanFrame& f : m_responder.take(
                     {frame.frameId(), frame.hasExtendedFrameFormat(), {bytes.begin(), bytes.end()}}, says)) {
                QCanBusFrame out(f.id, QByteArray(reinterpret_cast<const char*>(f.data.data()), std::ssize(f.data)));
                out.setExtendedFrameFormat(f.extended);
                m_bus->writeFrame(out);
            }
        }
    }

    obd::Responder m_responder;
    std::unique_ptr<QCanBusDevice> m_bus;
};

} // namespace vicegrip::test
