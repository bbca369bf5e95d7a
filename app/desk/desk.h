#pragma once

#include "app/desk/selection.h"
#include "app/live/live.h"
#include "app/store/job_store.h"

#include <QString>

#include <string_view>

namespace vicegrip::app {

/// What every view works with.
struct Desk
{
    JobStore& store;
    Live& live;
    Selection& selection;
};

/// Text from the core, which speaks UTF-8.
inline QString text(std::string_view utf8)
{
    return QString::fromUtf8(utf8.data(), static_cast<qsizetype>(utf8.size()));
}

} // namespace vicegrip::app
