#include "link/ecu_frames.h"

#include "core/scaling/polynomial.h"

#include <QtEndian>

#include <algorithm>
#include <array>
#include <cmath>
#include <cstring>
#include <limits>
#include <zlib.h>

namespace vicegrip::link {
namespace {

constexpr double kVoltStep = 2.5e-4; // to 16.4 V

enum Command : char { Begin = 1, Point = 2, Close = 3 };

void putFloat(QByteArray& bytes, qsizetype at, float value)
{
    std::uint32_t bits = 0;
    std::memcpy(&bits, &value, sizeof bits);
    qToBigEndian(bits, bytes.data() + at);
}

float floatAt(const QByteArray& bytes, qsizetype at)
{
    const auto bits = qFromBigEndian<std::uint32_t>(bytes.constData() + at);
    float value = 0;
    std::memcpy(&value, &bits, sizeof value);
    return value;
}

/// CRC-32 of IEEE 802.3 over all readings, then all values, as they are sent.
std::uint32_t checksum(const EcuTable& table)
{
    uLong crc = crc32(0, nullptr, 0);
    QByteArray bytes(4, '\0');
    for (const auto* axis : {&table.readings, &table.values})
        for (float value : *axis) {
            putFloat(bytes, 0, value);
            crc = crc32(crc, reinterpret_cast<const Bytef*>(bytes.constData()), static_cast<uInt>(bytes.size()));
        }
    return static_cast<std::uint32_t>(crc);
}

QByteArray command(Command which, int input, int number, char axis = 0)
{
    QByteArray bytes(8, '\0');
    bytes[0] = which;
    bytes[1] = static_cast<char>(input);
    bytes[2] = static_cast<char>(number);
    bytes[3] = axis;
    return bytes;
}

int byteAt(const QByteArray& bytes, qsizetype at)
{
    return static_cast<std::uint8_t>(bytes[at]);
}

/// Numbers that go with each: reading and value of a point, a term of a formula.
char axesOf(TableKind kind)
{
    return kind == TableKind::Points ? 2 : 1;
}

/// Places of Steinhart-Hart's other terms.
constexpr size_t kPullUp = 3, kSupply = 4, kScale = 5, kZero = 6, kThermistorTerms = 7, kMostTerms = 9;

bool isFormula(const EcuTable& table)
{
    const auto& terms = table.readings;
    if (!std::ranges::all_of(terms, [](float t) { return std::isfinite(t); }))
        return false;
    if (table.kind == TableKind::Polynomial)
        return terms.size() <= kMostTerms;
    return terms.size() == kThermistorTerms && terms[kPullUp] > 0 && terms[kSupply] > 0;
}

} // namespace

QCanBusFrame frameOf(const EcuSample& sample)
{
    QByteArray bytes(8, '\0');
    qToBigEndian(static_cast<quint16>(std::clamp(sample.counts, 0, 65535)), bytes.data());
    qToBigEndian(static_cast<quint16>(std::clamp(std::lround(sample.volts / kVoltStep), 0L, 65535L)), bytes.data() + 2);
    putFloat(bytes, 4, sample.value ? static_cast<float>(*sample.value) : std::numeric_limits<float>::quiet_NaN());
    return QCanBusFrame(kSampleBase + static_cast<quint32>(sample.input), bytes);
}

std::optional<EcuSample> sampleOf(const QCanBusFrame& frame)
{
    const QByteArray bytes = frame.payload();
    if (frame.frameType() != QCanBusFrame::DataFrame || frame.frameId() < kSampleBase ||
        frame.frameId() >= kSampleBase + kMostInputs || bytes.size() != 8)
        return std::nullopt;
    EcuSample sample;
    sample.input = static_cast<int>(frame.frameId() - kSampleBase);
    sample.counts = qFromBigEndian<quint16>(bytes.constData());
    sample.volts = qFromBigEndian<quint16>(bytes.constData() + 2) * kVoltStep;
    const float value = floatAt(bytes, 4);
    if (std::isinf(value))
        return std::nullopt;
    if (!std::isnan(value))
        sample.value = value;
    return sample;
}

QCanBusFrame frameOf(const EcuPulses& pulses)
{
    QByteArray bytes(8, '\0');
    putFloat(bytes, 0, static_cast<float>(pulses.hz));
    putFloat(bytes, 4, static_cast<float>(pulses.low_s));
    return QCanBusFrame(kPulsesBase + static_cast<quint32>(pulses.input), bytes);
}

std::optional<EcuPulses> pulsesOf(const QCanBusFrame& frame)
{
    const QByteArray bytes = frame.payload();
    if (frame.frameType() != QCanBusFrame::DataFrame || frame.frameId() < kPulsesBase ||
        frame.frameId() >= kPulsesBase + kMostInputs || bytes.size() != 8)
        return std::nullopt;
    const float hz = floatAt(bytes, 0), low_s = floatAt(bytes, 4);
    if (!std::isfinite(hz) || !std::isfinite(low_s) || hz < 0 || low_s < 0)
        return std::nullopt;
    return EcuPulses{static_cast<int>(frame.frameId() - kPulsesBase), hz, low_s};
}

EcuTable tableFor(int input, const scaling::Table& table, units::Dimension measures)
{
    EcuTable out{input, {}, {}};
    if (const auto& formula = table.formula) {
        std::vector<double> terms = formula->terms;
        out.kind = formula->takes == job::Takes::Polynomial ? TableKind::Polynomial : TableKind::SteinhartHart;
        if (out.kind == TableKind::SteinhartHart) {
            const double zero = units::toUnit(0, measures, table.unit);
            terms.insert(terms.end(), {formula->pullUp_ohm, formula->supply_v,
                                       units::differenceToUnit(1, measures, table.unit), zero});
        }
        for (const double t : terms)
            out.readings.push_back(static_cast<float>(t));
        return out;
    }
    for (const scaling::TablePoint& p : table.points) {
        out.readings.push_back(static_cast<float>(p.reading));
        out.values.push_back(static_cast<float>(units::toUnit(p.value, measures, table.unit)));
    }
    return out;
}

double valueAt(const EcuTable& table, double reading)
{
    const auto& r = table.readings;
    if (table.kind == TableKind::Polynomial)
        return scaling::Polynomial{{r.begin(), r.end()}, 0}.at(reading);
    if (table.kind == TableKind::SteinhartHart)
        return r[kScale] * parts::kelvin(parts::SteinhartHartCurve{r[0], r[1], r[2]},
                                         scaling::ohmsOf(reading, r[kPullUp], r[kSupply])) +
               r[kZero];
    const auto upper = std::ranges::find_if(r, [&](float x) { return x > reading; });
    if (upper == r.begin())
        return table.values.front();
    if (upper == r.end())
        return table.values.back();
    const auto i = static_cast<size_t>(upper - r.begin());
    return std::lerp(static_cast<double>(table.values[i - 1]), static_cast<double>(table.values[i]),
                     (reading - r[i - 1]) / (r[i] - r[i - 1]));
}

QList<QCanBusFrame> framesOf(const EcuTable& table)
{
    QList<QCanBusFrame> frames;
    const int count = static_cast<int>(table.readings.size());
    frames.append(QCanBusFrame(kTableWrite, command(Begin, table.input, count, static_cast<char>(table.kind))));
    for (int i = 0; i < count; ++i) {
        for (char axis = 0; axis < axesOf(table.kind); ++axis) {
            QByteArray bytes = command(Point, table.input, i, axis);
            putFloat(bytes, 4, (axis == 0 ? table.readings : table.values)[static_cast<size_t>(i)]);
            frames.append(QCanBusFrame(kTableWrite, bytes));
        }
    }
    QByteArray close = command(Close, table.input, count);
    qToBigEndian(checksum(table), close.data() + 4);
    frames.append(QCanBusFrame(kTableWrite, close));
    return frames;
}

QCanBusFrame frameOf(int input, TableAnswer answer)
{
    QByteArray bytes(8, '\0');
    bytes[0] = static_cast<char>(input);
    bytes[1] = static_cast<char>(answer);
    return QCanBusFrame(kTableAnswer, bytes);
}

std::optional<AnsweredTable> answerOf(const QCanBusFrame& frame)
{
    const QByteArray bytes = frame.payload();
    if (frame.frameId() != kTableAnswer || bytes.size() != 8 ||
        byteAt(bytes, 1) > static_cast<int>(TableAnswer::NoFormula))
        return std::nullopt;
    return AnsweredTable{byteAt(bytes, 0), static_cast<TableAnswer>(byteAt(bytes, 1))};
}

std::optional<TableReceiver::Outcome> TableReceiver::take(const QCanBusFrame& frame, int inputCount)
{
    const QByteArray bytes = frame.payload();
    if (frame.frameId() != kTableWrite || bytes.size() != 8)
        return std::nullopt;
    const int input = byteAt(bytes, 1), number = byteAt(bytes, 2);
    const auto pending = std::ranges::find_if(m_pending, [&](const Pending& p) { return p.table.input == input; });
    if (bytes[0] == Begin) {
        if (pending != m_pending.end())
            m_pending.erase(pending);
        const auto count = static_cast<size_t>(number);
        const auto kind =
            static_cast<TableKind>(std::min(byteAt(bytes, 3), static_cast<int>(TableKind::SteinhartHart)));
        EcuTable table{input, std::vector<float>(count), {}, kind};
        if (kind == TableKind::Points)
            table.values.resize(count);
        m_pending.push_back({std::move(table), std::vector<bool>(count * static_cast<size_t>(axesOf(kind)))});
        return std::nullopt;
    }
    if (bytes[0] == Point && pending != m_pending.end() &&
        static_cast<size_t>(number) < pending->table.readings.size()) {
        const auto at = static_cast<size_t>(number);
        const bool values = bytes[3] != 0;
        if (values && pending->table.kind != TableKind::Points)
            return std::nullopt;
        (values ? pending->table.values : pending->table.readings)[at] = floatAt(bytes, 4);
        pending->seen[values ? pending->table.readings.size() + at : at] = true;
        return std::nullopt;
    }
    if (bytes[0] != Close)
        return std::nullopt;

    if (input >= inputCount)
        return Outcome{input, TableAnswer::NoSuchInput, {}};
    if (pending == m_pending.end())
        return Outcome{input, TableAnswer::Incomplete, {}};
    const Pending done = std::move(*pending);
    m_pending.erase(pending);
    if (done.table.readings.size() < 2 || done.table.readings.size() != static_cast<size_t>(number) ||
        std::ranges::find(done.seen, false) != done.seen.end())
        return Outcome{input, TableAnswer::Incomplete, {}};
    if (checksum(done.table) != qFromBigEndian<std::uint32_t>(bytes.constData() + 4))
        return Outcome{input, TableAnswer::Damaged, {}};
    if (done.table.kind != TableKind::Points)
        return Outcome{input, isFormula(done.table) ? TableAnswer::Accepted : TableAnswer::NoFormula, done.table};
    const bool finite = std::ranges::all_of(done.table.values, [](float v) { return std::isfinite(v); });
    if (!finite || std::ranges::adjacent_find(done.table.readings, [](float a, float b) { return !(a < b); }) !=
                       done.table.readings.end())
        return Outcome{input, TableAnswer::NotRising, {}};
    return Outcome{input, TableAnswer::Accepted, done.table};
}

} // namespace vicegrip::link
