#pragma once

#include <QByteArray>
#include <QString>

#include <optional>
#include <variant>

/// Where a line of text leads.
namespace vicegrip::link {

/// An instrument on the network.
struct NetworkAddress
{
    QString host;
    quint16 port = 0;
};

/// An instrument on a serial port.
struct SerialAddress
{
    QString port; ///< "/dev/ttyUSB0", or the name alone
    qint32 baud = 9600;
};

/// A channel of the bench: its own socket in a folder that only its user may enter, and the line that lets in. Only who
/// started the bench knows that line, so that no other process can speak in the ECU's or the meter's name.
struct BenchAddress
{
    QString socket; ///< path
    QByteArray greeting; ///< the first line: nonce and channel
};

using Address = std::variant<NetworkAddress, SerialAddress, BenchAddress>;

/// An address as people write it: "192.168.1.20", "meter.local:5025", "/dev/ttyUSB0", "ttyUSB0 19200". A host without a
/// port has 5025, which IANA keeps for SCPI; a serial port without a speed has 9600 baud. Empty: it is none.
[[nodiscard]] std::optional<Address> addressOf(const QString& typed);

} // namespace vicegrip::link
