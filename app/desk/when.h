#pragma once

#include <QDateTime>

#include <string>

namespace vicegrip::app {

/// Now, as the job keeps it: ISO 8601, UTC.
[[nodiscard]] inline std::string nowText()
{
    return QDateTime::currentDateTimeUtc().toString(Qt::ISODate).toStdString();
}

} // namespace vicegrip::app
