#pragma once

#include "core/parts/sensor.h"

#include <filesystem>
#include <vector>

/// The library of parts: JSON files in folders, one part each.
namespace vicegrip::parts {

struct Library
{
    std::vector<Sensor> sensors; ///< sorted by name
    std::vector<Error> complaints; ///< files that were left out, and why
};

/// Reads every *.json of the folders; a later folder overrides an earlier one by id. A file that cannot be used is left
/// out and complained of; the others stand. A folder that does not exist is empty.
[[nodiscard]] Library readLibrary(const std::vector<std::filesystem::path>& folders);

} // namespace vicegrip::parts
