#pragma once

#include "core/base/phrase.h"

#include <QString>

#include <string_view>

namespace vicegrip::app {

/// Text from the core, which speaks UTF-8.
inline QString text(std::string_view utf8)
{
    return QString::fromUtf8(utf8.data(), static_cast<qsizetype>(utf8.size()));
}

/// What a key of the core says in the user's language.
inline QString said(std::string_view key)
{
    return text(phrase(key));
}

} // namespace vicegrip::app
