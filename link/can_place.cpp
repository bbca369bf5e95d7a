#include "link/can_place.h"

#include "link/bench_bus.h"

#include <QCanBus>
#include <QCanBusDevice>
#include <QVariant>

namespace vicegrip::link {

OpensBus opensPlugin(const CanPlace& place)
{
    return [place](QString& trouble) {
        std::unique_ptr<QCanBusDevice> bus(QCanBus::instance()->createDevice(place.plugin, place.interface, &trouble));
        if (!bus)
            return bus;
        if (place.bitRate > 0)
            bus->setConfigurationParameter(QCanBusDevice::BitRateKey, place.bitRate);
        bus->setConfigurationParameter(QCanBusDevice::ErrorFilterKey,
                                       QVariant::fromValue(QCanBusFrame::FrameErrors(QCanBusFrame::AnyError)));
        return bus;
    };
}

OpensBus opensBench(const BenchAddress& address)
{
    return [address](QString&) -> std::unique_ptr<QCanBusDevice> { return std::make_unique<BenchBus>(address); };
}

} // namespace vicegrip::link
