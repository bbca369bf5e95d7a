#include "core/obd/codes.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <array>
#include <cctype>

namespace vicegrip::obd {
namespace {

/// A run of codes about one input: its circuit, then what is wrong with it, in the standard's order.
struct Family
{
    std::uint16_t first = 0;
    std::string_view function, name;
    int faults = 5; ///< how many of kFaults it has
    int from = 0; ///< which of them is its first
};

constexpr std::array kFaults = {key("does not work"), key("reads what cannot be, or what does not fit the others"),
                                key("reads too low"), key("reads too high"), key("comes and goes")};

// SAE J2012, from memory; the words are ours.
constexpr std::array kFamilies = {
    Family{0x0100, "maf", key("Air mass")},
    Family{0x0105, "map", key("Manifold pressure")},
    Family{0x0110, "iat", key("Intake air temp")},
    Family{0x0115, "clt", key("Coolant temp")},
    Family{0x0120, "tps", key("Throttle")},
    Family{0x0176, "flex", key("Fuel composition"), 4},
    Family{0x0180, "fuel-temp", key("Fuel temp")},
    Family{0x0190, "fuel-pressure", key("Fuel rail pressure")},
    Family{0x0195, "oil-temp", key("Oil temp")},
    Family{0x0220, "tps2", key("Throttle, second track")},
    Family{0x0335, "crank", key("Crank trigger")},
    Family{0x0340, "cam", key("Cam trigger")},
    Family{0x0460, "fuel-level", key("Fuel level")},
    Family{0x0500, "speed", key("Road speed"), 3},
    Family{0x0520, "oil-pressure", key("Oil pressure"), 4},
    Family{0x2122, "pedal1", key("Pedal"), 2, 2},
    Family{0x2127, "pedal2", key("Pedal, second track"), 2, 2},
    Family{0x2228, "baro", key("Barometer"), 2, 2},
};

struct Single
{
    std::uint16_t code = 0;
    std::string_view function, meaning;
};

constexpr std::array kSingles = {
    Single{0x0171, "", key("Bank 1 runs too lean for the trims to follow")},
    Single{0x0172, "", key("Bank 1 runs too rich for the trims to follow")},
    Single{0x0174, "", key("Bank 2 runs too lean for the trims to follow")},
    Single{0x0175, "", key("Bank 2 runs too rich for the trims to follow")},
    Single{0x0230, "fuel-pump", key("Fuel pump: its first circuit does not work")},
    Single{0x0300, "", key("Cylinders misfire, more than one")},
    Single{0x0560, "", key("The system's volts do not fit")},
    Single{0x0562, "", key("The system's volts are too low")},
    Single{0x0563, "", key("The system's volts are too high")},
    Single{0x2135, "tps", key("The two tracks of the throttle disagree")},
    Single{0x2138, "pedal1", key("The two tracks of the pedal disagree")},
};

const Family* familyOf(Code code)
{
    const auto found = std::ranges::find_if(
        kFamilies, [&](const Family& f) { return code.raw >= f.first && code.raw < f.first + f.faults; });
    return found == kFamilies.end() ? nullptr : &*found;
}

const Single* singleOf(Code code)
{
    const auto found = std::ranges::find(kSingles, code.raw, &Single::code);
    return found == kSingles.end() ? nullptr : &*found;
}

/// One of twelve cylinders' own; 0: another's.
int cylinderOf(Code code, std::uint16_t base)
{
    const int n = code.raw - base; // they are counted in decimal: 0x10 is the tenth
    const int cylinder = n / 16 * 10 + n % 16;
    return n > 0 && n % 16 < 10 && cylinder <= 12 ? cylinder : 0;
}

} // namespace

std::string Code::text() const
{
    constexpr std::string_view kLetters = "PCBU", kDigits = "0123456789ABCDEF";
    std::string out(1, kLetters[raw >> 14]);
    out += kDigits[raw >> 12 & 3];
    for (const int shift : {8, 4, 0})
        out += kDigits[raw >> shift & 0xF];
    return out;
}

/// P0, P2, P34 to P39, and the 0 of the others (SAE J2012, from memory).
bool Code::isGeneric() const
{
    const int letter = raw >> 14, digit = raw >> 12 & 3;
    if (letter != 0)
        return digit == 0;
    return digit == 0 || digit == 2 || (digit == 3 && (raw >> 8 & 0xF) >= 4);
}

std::optional<Code> codeFrom(std::string_view text)
{
    constexpr std::string_view kLetters = "PCBU";
    if (text.size() != 5)
        return std::nullopt;
    const size_t letter = kLetters.find(static_cast<char>(std::toupper(static_cast<unsigned char>(text[0]))));
    if (letter == std::string_view::npos || text[1] < '0' || text[1] > '3')
        return std::nullopt;
    std::uint32_t raw = static_cast<std::uint32_t>(letter) << 14 | static_cast<std::uint32_t>(text[1] - '0') << 12;
    for (const int at : {2, 3, 4}) {
        const auto c = static_cast<char>(std::toupper(static_cast<unsigned char>(text[static_cast<size_t>(at)])));
        if (std::isxdigit(static_cast<unsigned char>(c)) == 0)
            return std::nullopt;
        raw |= static_cast<std::uint32_t>(c <= '9' ? c - '0' : c - 'A' + 10) << 4 * (4 - at);
    }
    return Code{static_cast<std::uint16_t>(raw)};
}

std::vector<Code> codesOf(std::span<const std::uint8_t> answer)
{
    std::vector<Code> out;
    const size_t said = answer.empty() ? 0 : answer[0];
    for (size_t i = 0; i < said && 2 * i + 2 < answer.size(); ++i)
        if (const Code code{static_cast<std::uint16_t>(answer[2 * i + 1] << 8 | answer[2 * i + 2])}; code.raw != 0)
            out.push_back(code);
    return out;
}

std::string meaningOf(Code code)
{
    if (!code.isGeneric())
        return {};
    if (const Family* f = familyOf(code)) {
        const int fault = code.raw - f->first + f->from;
        return phrase("{}: {}", phrase(f->name), phrase(kFaults[static_cast<size_t>(fault)]));
    }
    if (const Single* s = singleOf(code))
        return phrase(s->meaning);
    if (const int n = cylinderOf(code, 0x0200); n > 0)
        return phrase("Injector {}: its circuit does not work", std::to_string(n));
    if (const int n = cylinderOf(code, 0x0300); n > 0)
        return phrase("Cylinder {} misfires", std::to_string(n));
    if (const int n = cylinderOf(code, 0x0350); n > 0)
        return phrase("Coil {}: its first circuit does not work", std::to_string(n));
    return {};
}

std::optional<Code> codeFor(std::string_view function, bool high)
{
    constexpr int kLow = 2, kHigh = 3; // of kFaults
    const int fault = high ? kHigh : kLow;
    for (const Family& f : kFamilies)
        if (!function.empty() && f.function == function && fault >= f.from && fault < f.from + f.faults)
            return Code{static_cast<std::uint16_t>(f.first + fault - f.from)};
    return std::nullopt;
}

std::string_view functionOf(Code code)
{
    if (!code.isGeneric())
        return {};
    if (const Family* f = familyOf(code))
        return f->function;
    const Single* s = singleOf(code);
    return s == nullptr ? std::string_view() : s->function;
}

} // namespace vicegrip::obd
