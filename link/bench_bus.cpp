#include "link/bench_bus.h"

namespace vicegrip::link {
namespace {

constexpr quint32 kHighestStandardId = 0x7FF;
constexpr qsizetype kMostBytes = 8;
constexpr qsizetype kLongestFrameLine = 3 + 1 + 2 * kMostBytes;

bool isHex(const QByteArray& text)
{
    return std::all_of(text.begin(), text.end(), [](char c) { return std::isxdigit(static_cast<unsigned char>(c)); });
}

} // namespace

QByteArray lineOf(const QCanBusFrame& frame)
{
    const QByteArray id = QByteArray::number(frame.frameId(), 16);
    return frame.payload().isEmpty() ? id : id + ' ' + frame.payload().toHex();
}

std::optional<QCanBusFrame> frameOf(const QByteArray& line)
{
    if (line.size() > kLongestFrameLine)
        return std::nullopt;
    const qsizetype gap = line.contains(' ') ? line.indexOf(' ') : line.size();
    const QByteArray name = line.left(gap), bytes = line.mid(gap + 1);
    if (name.isEmpty() || bytes.size() % 2 != 0 || bytes.size() > 2 * kMostBytes || !isHex(name) || !isHex(bytes))
        return std::nullopt;
    bool isNumber = false;
    const quint32 id = name.toUInt(&isNumber, 16);
    return isNumber && id <= kHighestStandardId ? std::optional(QCanBusFrame(id, QByteArray::fromHex(bytes)))
                                                : std::nullopt;
}

BenchBus::BenchBus(BenchAddress address) : m_address(std::move(address))
{
    connect(&m_line, &LineSocket::connected, this, [this] { setState(ConnectedState); });
    connect(&m_line, &LineSocket::received, this, &BenchBus::takeLine);
    connect(&m_line, &LineSocket::closed, this, [this](const QString& why) {
        setError(why, ConnectionError);
        setState(UnconnectedState);
    });
}

bool BenchBus::open()
{
    m_line.connectTo(m_address);
    return true;
}

void BenchBus::close()
{
    m_line.close();
    setState(UnconnectedState);
}

bool BenchBus::writeFrame(const QCanBusFrame& frame)
{
    if (state() != ConnectedState)
        return false;
    m_line.writeLine(lineOf(frame));
    emit framesWritten(1);
    return true;
}

QString BenchBus::interpretErrorFrame(const QCanBusFrame&)
{
    return {}; // the bench's bus has none
}

/// The bench is our own program: what is not a frame shows that the line is not to be believed.
void BenchBus::takeLine(const QByteArray& line)
{
    if (const auto frame = frameOf(line)) {
        if (m_come.isEmpty())
            QMetaObject::invokeMethod(this, &BenchBus::handOver, Qt::QueuedConnection);
        m_come.append(*frame);
        return;
    }
    m_line.close();
    setError(tr("it sent what is not a frame"), ReadError);
    setState(UnconnectedState);
}

void BenchBus::handOver()
{
    enqueueReceivedFrames(std::exchange(m_come, {}));
}

} // namespace vicegrip::link
