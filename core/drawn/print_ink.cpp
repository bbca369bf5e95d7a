#include "core/drawn/print_ink.h"

#include <algorithm>
#include <array>

namespace vicegrip::drawn {
namespace {

struct Letters
{
    std::string_view letters;
    std::uint32_t rgb;
};

constexpr std::array<Letters, 12> kWires = {{{"BK", 0x1a1a1a},
                                             {"BN", 0x7b4a26},
                                             {"RD", 0xc0261d},
                                             {"OG", 0xdd7414},
                                             {"YE", 0xe3c11c},
                                             {"GN", 0x2f8a3c},
                                             {"BU", 0x2a64b0},
                                             {"VT", 0x7440a0},
                                             {"GY", 0x83878a},
                                             {"WH", 0xf4f4f2},
                                             {"PK", 0xe293ab},
                                             {"TQ", 0x2aa6a0}}};

std::uint32_t rgbOf(std::string_view letters)
{
    const auto it = std::ranges::find(kWires, letters, &Letters::letters);
    return it == kWires.end() ? kWires[0].rgb : it->rgb;
}

} // namespace

std::uint32_t printed(Ink ink)
{
    switch (ink) {
    case Ink::Line:
        return 0x16191c;
    case Ink::Soft:
        return 0x4d5358;
    case Ink::Faint:
        return 0x9aa0a4;
    case Ink::Paper:
        return 0xffffff;
    case Ink::Fill:
        return 0xeceeee;
    case Ink::Accent:
        return 0x1d4f8c;
    }
    return 0;
}

WireInk wireInk(std::string_view letters)
{
    const size_t slash = letters.find('/');
    WireInk out{rgbOf(letters.substr(0, slash)), 0, slash != std::string_view::npos};
    if (out.traced)
        out.tracer = rgbOf(letters.substr(slash + 1));
    return out;
}

} // namespace vicegrip::drawn
