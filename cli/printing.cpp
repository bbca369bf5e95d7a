#include "cli/printing.h"

#include <iostream>

namespace vicegrip::cli {

int refuse(const Error& error, int code)
{
    return refuse(error.text(), code);
}

int refuse(const std::string& sentence, int code)
{
    std::cerr << sentence << '\n';
    return code;
}

std::string padded(const std::string& text, size_t to)
{
    size_t width = 0;
    for (char c : text)
        width += (static_cast<unsigned char>(c) & 0xC0U) != 0x80U ? 1 : 0;
    return text + std::string(width < to ? to - width : 1, ' ');
}

} // namespace vicegrip::cli
