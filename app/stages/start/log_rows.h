#pragma once

#include "app/stages/start/reviewed_log.h"
#include "core/proof/verdict.h"

#include <QString>

#include <optional>
#include <vector>

namespace vicegrip::app {

/// A row of what a log says: a heading, or one of the things beneath it.
struct LogRow
{
    enum Kind { Heading, Finding, Change, Pull, Mark, Remark } kind = Heading;
    size_t at = 0; ///< in what was made of the log
    QString words;
    QString times; ///< how often; empty where that is no question
    std::optional<proof::State> state = {};
};

/// Findings, then what a change did, the pulls, marks, and what was left out as the file was read.
[[nodiscard]] std::vector<LogRow> rowsOf(const ReviewedLog& log);

/// "12.4 s".
[[nodiscard]] QString tenthsText(double seconds);

} // namespace vicegrip::app
