#pragma once

#include <QDateTime>

#include <string>

namespace vicegrip::app {

/// Now, as the job keeps it: ISO 8601, UTC.
[[nodiscard]] inline std::string nowText()
{
    return QDateTime::currentDateTimeUtc().toString(Qt::ISODate).toStdString();
}

/// Minutes and seconds: "1:07".
inline QString clockText(double seconds)
{
    constexpr int kMinute = 60;
    const auto whole = static_cast<int>(seconds);
    return QStringLiteral("%1:%2").arg(whole / kMinute).arg(whole % kMinute, 2, 10, QLatin1Char('0'));
}

} // namespace vicegrip::app
