#pragma once

#include "core/base/result.h"

#include <cstdint>
#include <map>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

/// The messages of a CAN bus and the signals in them, as a database file (DBC) lists them.
namespace vicegrip::dbc {

inline constexpr int kMostBytes = 64; ///< of a frame: ISO 11898-1, flexible data rate

/// How a signal lies in the bytes.
enum class ByteOrder {
    Little, ///< its start is its least bit; bytes follow upward
    Big ///< its start is its greatest bit; bytes follow upward, each from its greatest bit down
};

/// What its bits are.
enum class Coding {
    Unsigned,
    Signed, ///< two's complement
    Float, ///< IEEE 754, 32 bits
    Double ///< IEEE 754, 64 bits
};

/// Which of several a message carries this time.
struct Multiplexed
{
    std::string by; ///< the signal whose raw value chooses
    std::vector<std::pair<std::uint64_t, std::uint64_t>> values; ///< first and last of each range
    [[nodiscard]] bool holds(std::uint64_t raw) const;
};

struct Signal
{
    std::string name;
    int start = 0; ///< bit: of byte b from 8 b, the least, to 8 b + 7
    int bits = 1;
    ByteOrder order = ByteOrder::Little;
    Coding coding = Coding::Unsigned;
    double scale = 1, offset = 0; ///< value = raw * scale + offset
    std::optional<std::pair<double, double>> range; ///< least and most; none: not said
    std::string unit;
    bool chooses = false; ///< others are there by its raw value
    std::optional<Multiplexed> multiplexed; ///< none: it is always there
    std::map<std::int64_t, std::string> names; ///< of raw values

    /// The byte after its last.
    [[nodiscard]] int end() const;
    bool isLittle() const { return order == ByteOrder::Little; }
};

struct Message
{
    std::uint32_t id = 0;
    bool extended = false; ///< 29 bits
    std::string name;
    int bytes = 0;
    std::vector<Signal> carries; ///< in their order
};

/// A signal's value in one frame.
struct Value
{
    const Signal* signal = nullptr;
    double value = 0;
};

/// What a frame of this message carries: every signal that is there by what chooses it, in their order. Those that a
/// frame is too short for are left out.
void decode(const Message& message, std::span<const std::uint8_t> data, std::vector<Value>& out);

class Database
{
  public:
    Database() = default;
    explicit Database(std::vector<Message> messages);

    [[nodiscard]] const std::vector<Message>& messages() const { return m_messages; } ///< by identifier
    /// Null when none has it.
    [[nodiscard]] const Message* find(std::uint32_t id, bool extended) const;

  private:
    std::vector<Message> m_messages;
};

} // namespace vicegrip::dbc
