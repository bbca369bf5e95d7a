#include "core/wires/colour.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <array>
#include <vector>

namespace vicegrip::wires {
namespace {

constexpr std::array<std::pair<std::string_view, std::string_view>, 12> kColours = {{{"BK", key("black")},
                                                                                     {"BN", key("brown")},
                                                                                     {"RD", key("red")},
                                                                                     {"OG", key("orange")},
                                                                                     {"YE", key("yellow")},
                                                                                     {"GN", key("green")},
                                                                                     {"BU", key("blue")},
                                                                                     {"VT", key("violet")},
                                                                                     {"GY", key("grey")},
                                                                                     {"WH", key("white")},
                                                                                     {"PK", key("pink")},
                                                                                     {"TQ", key("turquoise")}}};

std::string wordOf(std::string_view letters)
{
    const auto it = std::ranges::find(kColours, letters, [](const auto& c) { return c.first; });
    return it == kColours.end() ? std::string(letters) : phrase(it->second);
}

bool sameLetters(std::string_view a, std::string_view b)
{
    const auto upper = [](char c) { return c >= 'a' && c <= 'z' ? static_cast<char>(c - 'a' + 'A') : c; };
    return std::ranges::equal(a, b, {}, upper, upper);
}

} // namespace

std::string colourName(std::string_view letters)
{
    const auto slash = letters.find('/');
    std::string out = wordOf(letters.substr(0, slash));
    if (slash != std::string_view::npos)
        out += phrase(", {} tracer", wordOf(letters.substr(slash + 1)));
    return out;
}

Result<std::string> parseColour(std::string_view typed)
{
    std::vector<std::string> parts(1);
    for (char c : typed)
        if (c == '/' || c == '-' || c == ' ' || c == ',') {
            if (!parts.back().empty())
                parts.emplace_back();
        } else {
            parts.back() += c;
        }
    if (parts.back().empty())
        parts.pop_back();
    std::string out;
    for (const std::string& part : parts) {
        const auto it = std::ranges::find_if(
            kColours, [&](const auto& c) { return sameLetters(c.first, part) || sameLetters(c.second, part); });
        if (it == kColours.end() || parts.size() > 2) {
            std::string known;
            for (const auto& [letters, word] : kColours)
                known += (known.empty() ? "" : ", ") + std::string(letters);
            return fail(ErrorCode::Malformed,
                        phrase("\"{}\" is no colour: expected one of {}, with a tracer behind a slash, such as BU/WH",
                               typed, known));
        }
        out += (out.empty() ? "" : "/") + std::string(it->first);
    }
    return out.empty() ? fail(ErrorCode::Malformed, phrase("expected a colour, such as BU/WH"))
                       : Result<std::string>(out);
}

} // namespace vicegrip::wires
