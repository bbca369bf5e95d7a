#include "core/base/utf8.h"

#include <algorithm>

namespace vicegrip {

bool isUtf8(std::string_view text)
{
    for (size_t i = 0; i < text.size();) {
        const auto lead = static_cast<unsigned char>(text[i++]);
        const int more = lead < 0x80                   ? 0
                         : lead >= 0xC2 && lead < 0xE0 ? 1
                         : lead >= 0xE0 && lead < 0xF0 ? 2
                         : lead >= 0xF0 && lead < 0xF5 ? 3
                                                       : -1;
        if (more < 0)
            return false;
        for (int k = 0; k < more; ++k)
            if (i == text.size() || begins(text[i++]))
                return false;
    }
    return true;
}

size_t lettersOf(std::string_view text)
{
    return static_cast<size_t>(std::ranges::count_if(text, begins));
}

std::string_view cutTo(std::string_view text, size_t bytes)
{
    if (text.size() <= bytes)
        return text;
    while (bytes > 0 && !begins(text[bytes]))
        --bytes;
    return text.substr(0, bytes);
}

} // namespace vicegrip
