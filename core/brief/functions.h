#pragma once

#include "core/job/job.h"

#include <optional>
#include <span>
#include <string_view>

/// What circuits do for an engine: the catalogue that briefs, libraries and ECU profiles share.
namespace vicegrip::brief {

struct Function
{
    std::string_view id; ///< in files: "map"
    std::string_view name; ///< "Manifold pressure"
    parts::PartUse kind; ///< of the parts that can do it
    std::string_view usual; ///< part that is taken when nothing else decides
    double low = 0, high = 0; ///< where a reading must be fine, SI (typical); equal: wherever the sensor reads
};

[[nodiscard]] std::span<const Function> functions();
[[nodiscard]] const Function* findFunction(const job::FunctionId& id);

} // namespace vicegrip::brief
