#pragma once

#include <QString>

#include <string_view>

namespace vicegrip::app {

/// Text from the core, which speaks UTF-8.
inline QString text(std::string_view utf8)
{
    return QString::fromUtf8(utf8.data(), static_cast<qsizetype>(utf8.size()));
}

} // namespace vicegrip::app
