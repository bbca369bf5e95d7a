#pragma once

#include "link/line_socket.h"

#include <QCanBusDevice>

/// The bench's CAN bus: classic frames with standard identifiers, a line each, on a channel of the bench's own socket.
/// Qt's virtual bus is not used: it listens for everybody on the machine, and one broken line ends both ends of it.
namespace vicegrip::link {

/// Identifier and bytes in hexadecimal, such as "500 0800271000000000", or "500" where there are none.
[[nodiscard]] QByteArray lineOf(const QCanBusFrame& frame);
/// None when the line is not such a frame: more than eight bytes, an identifier above 7FF, a stray character.
[[nodiscard]] std::optional<QCanBusFrame> frameOf(const QByteArray& line);

class BenchBus : public QCanBusDevice
{
    Q_OBJECT

  public:
    explicit BenchBus(BenchAddress address);

    bool writeFrame(const QCanBusFrame& frame) override;
    QString interpretErrorFrame(const QCanBusFrame& frame) override;

  protected:
    bool open() override;
    void close() override;

  private:
    void takeLine(const QByteArray& line);
    void handOver();

    BenchAddress m_address;
    LineSocket m_line;
    QList<QCanBusFrame> m_come; ///< until every line that came with them is read
};

} // namespace vicegrip::link
