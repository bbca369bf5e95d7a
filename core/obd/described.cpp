#include "core/obd/described.h"

#include "core/obd/values.h"

#include <algorithm>
#include <cctype>

namespace vicegrip::obd {
namespace {

constexpr int kByte = 8, kBytes = 3; // the number, then its value in two bytes at most

/// "Coolant temp" is CoolantTemp.
std::string joined(std::string_view name)
{
    std::string out;
    bool begins = true;
    for (const char c : name) {
        const auto byte = static_cast<unsigned char>(c);
        if (std::isalnum(byte) != 0)
            out += static_cast<char>(begins ? std::toupper(byte) : c);
        begins = std::isalnum(byte) == 0;
    }
    return out;
}

} // namespace

dbc::Database described()
{
    dbc::Message message;
    message.id = kDescribedId;
    message.name = "OBD";
    message.bytes = kBytes;
    dbc::Signal number;
    number.name = "Number";
    number.bits = kByte;
    number.chooses = true;
    message.carries.push_back(number);
    for (const Parameter& p : parameters()) {
        dbc::Signal s;
        s.name = joined(p.name);
        s.order = dbc::ByteOrder::Big;
        s.start = 2 * kByte - 1; // the greatest bit of the second byte
        s.bits = p.bytes * kByte;
        s.scale = p.scale;
        s.offset = p.offset;
        s.unit = p.unit;
        s.multiplexed = dbc::Multiplexed{number.name, {{p.number, p.number}}};
        message.carries.push_back(std::move(s));
    }
    return dbc::Database({std::move(message)});
}

Bytes asDescribed(std::uint8_t number, std::span<const std::uint8_t> data)
{
    Bytes out(kBytes);
    out[0] = number;
    std::copy_n(data.begin(), std::min<size_t>(data.size(), kBytes - 1), out.begin() + 1);
    return out;
}

} // namespace vicegrip::obd
