#include "core/base/utf8.h"

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
            if (i == text.size() || (static_cast<unsigned char>(text[i++]) & 0xC0U) != 0x80U)
                return false;
    }
    return true;
}

} // namespace vicegrip
