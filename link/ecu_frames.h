#pragma once

#include "core/scaling/table.h"

#include <QCanBusFrame>
#include <QList>

#include <cstdint>
#include <optional>
#include <vector>

/// What travels between the ECU and the laptop as CAN frames (docs/formats.md): samples of every input from the ECU,
/// tables to it, and its answers. All numbers are big-endian; floats are IEEE 754 single precision.
namespace vicegrip::link {

inline constexpr quint32 kSampleBase = 0x500; ///< + index of the input in the ECU's list
inline constexpr quint32 kPulsesBase = 0x540; ///< the same, for inputs that count
inline constexpr int kMostInputs = 64;
inline constexpr quint32 kTableWrite = 0x600;
inline constexpr quint32 kTableAnswer = 0x610;

/// One input at one moment.
struct EcuSample
{
    int input = 0; ///< index in the ECU's list of inputs
    int counts = 0;
    double volts = 0; ///< 0.25 mV resolution, to 16.38 V
    std::optional<double> value; ///< in the table's unit; none while the input has no table
    bool operator==(const EcuSample&) const = default;
};

/// What an input that counts has counted.
struct EcuPulses
{
    int input = 0;
    double hz = 0; ///< 0: no pulses
    double low_s = 0; ///< how long the line is low in each
    bool operator==(const EcuPulses&) const = default;
};

/// What a table is: points, or the terms of a formula in the place of its readings.
enum class TableKind : std::uint8_t {
    Points = 0,
    Polynomial = 1, ///< c0, c1, ...: the value in the shown unit over V or Hz
    SteinhartHart =
        2 ///< A, B, C, the pull-up in Ohm, the volts it goes to; then scale and zero of the shown unit over K
};

/// A table as it is handed over: reading (V, or Hz where the input counts) against value in the shown unit.
struct EcuTable
{
    int input = 0;
    std::vector<float> readings, values; ///< of a formula: its terms, and nothing
    TableKind kind = TableKind::Points;
    bool operator==(const EcuTable&) const = default;
};

/// The value in the shown unit that the ECU makes of a reading.
[[nodiscard]] double valueAt(const EcuTable& table, double reading);

/// The table with its values in the ECU's own unit, as it shows them.
[[nodiscard]] EcuTable tableFor(int input, const scaling::Table& table, units::Dimension measures);

enum class TableAnswer : std::uint8_t {
    Accepted = 0,
    Incomplete = 1,
    Damaged = 2,
    NotRising = 3,
    NoSuchInput = 4,
    NoFormula = 5 ///< too few terms, too many, or one that cannot be
};

[[nodiscard]] QCanBusFrame frameOf(const EcuSample& sample);

/// None when the frame is no sample, or is not well-formed (length, no finite number).
[[nodiscard]] std::optional<EcuSample> sampleOf(const QCanBusFrame& frame);

[[nodiscard]] QCanBusFrame frameOf(const EcuPulses& pulses);
[[nodiscard]] std::optional<EcuPulses> pulsesOf(const QCanBusFrame& frame);

/// Begin, two frames a point (one a term), and a closing frame with the CRC-32 (IEEE 802.3) of all numbers.
[[nodiscard]] QList<QCanBusFrame> framesOf(const EcuTable& table);

[[nodiscard]] QCanBusFrame frameOf(int input, TableAnswer answer);

struct AnsweredTable
{
    int input = 0;
    TableAnswer answer = TableAnswer::Accepted;
};
[[nodiscard]] std::optional<AnsweredTable> answerOf(const QCanBusFrame& frame);

/// Puts a table together on the ECU's side.
class TableReceiver
{
  public:
    struct Outcome
    {
        int input = 0;
        TableAnswer answer = TableAnswer::Accepted;
        EcuTable table; ///< with Accepted
    };

    /// Takes one frame; an outcome comes with the closing frame of each table. Other frames are ignored.
    [[nodiscard]] std::optional<Outcome> take(const QCanBusFrame& frame, int inputCount);

  private:
    struct Pending
    {
        EcuTable table;
        std::vector<bool> seen;
    };
    std::vector<Pending> m_pending;
};

} // namespace vicegrip::link
