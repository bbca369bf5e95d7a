#pragma once

#include "link/address.h"

#include <QString>

#include <functional>
#include <memory>

class QCanBusDevice;

/// Where a CAN bus is reached.
namespace vicegrip::link {

/// An adapter: one of Qt's plugins, and what the plugin calls the interface.
struct CanPlace
{
    QString plugin, interface;
    int bitRate = 0; ///< bit/s; 0: as the interface is set up outside
    bool operator==(const CanPlace&) const = default;
};

/// Makes the device, in the thread that reads it; null, with a sentence.
using OpensBus = std::function<std::unique_ptr<QCanBusDevice>(QString& trouble)>;

[[nodiscard]] OpensBus opensPlugin(const CanPlace& place);
[[nodiscard]] OpensBus opensBench(const BenchAddress& address);

} // namespace vicegrip::link
