#pragma once

#include <QByteArray>
#include <QString>

#include <variant>

/// Where a line of text leads.
namespace vicegrip::link {

/// An instrument on the network.
struct NetworkAddress
{
    QString host;
    quint16 port = 0;
};

/// A channel of the bench: its own socket in a folder that only its user may enter, and the line that lets in. Only who
/// started the bench knows that line, so that no other process can speak in the ECU's or the meter's name.
struct BenchAddress
{
    QString socket; ///< path
    QByteArray greeting; ///< the first line: nonce and channel
};

using Address = std::variant<NetworkAddress, BenchAddress>;

} // namespace vicegrip::link
