#pragma once

#include "core/analysis/analysis.h"

#include <QString>

#include <optional>

namespace vicegrip::app {

/// What a stage cannot begin without, and the stage that brings it.
struct Missing
{
    QString why, detail, step;
    analysis::Stage leadsTo;
};

/// None while the stage has something to work on.
[[nodiscard]] std::optional<Missing> missingFor(analysis::Stage stage, const job::Job& job);

} // namespace vicegrip::app
