#pragma once

#include "core/parts/ecu.h"
#include "core/parts/layout.h"
#include "core/parts/part.h"

#include <filesystem>
#include <vector>

/// The library of parts: folders with JSON files, one part each, sensors in `sensors/`, actuators in `actuators/`, ECUs
/// in `ecus/`, terminal families in `terminals/` and connector layouts in `connectors/`.
namespace vicegrip::parts {

struct Library
{
    std::vector<Part> parts; ///< sensors and actuators, sorted by name
    std::vector<EcuProfile> ecus; ///< sorted by name
    std::vector<TerminalFamily> terminals; ///< sorted by name
    std::vector<Layout> layouts; ///< sorted by number of cavities, then by name
    std::vector<Error> complaints; ///< files that were left out, and why
};

/// Reads every *.json of the folders; a later folder overrides an earlier one by id. A file that cannot be used is left
/// out and complained of, as is the second of two in one folder that bear the same id; the others stand. A folder that
/// does not exist is empty.
[[nodiscard]] Library readLibrary(const std::vector<std::filesystem::path>& folders);

/// The shipped folder, then the user's own ($XDG_DATA_HOME/vicegrip/library, else ~/.local/share/vicegrip/library),
/// which overrides it.
[[nodiscard]] std::vector<std::filesystem::path> libraryFolders(const std::filesystem::path& shipped);

[[nodiscard]] const Part* find(const Library& library, const PartId& id);
[[nodiscard]] const EcuProfile* find(const Library& library, const EcuId& id);
[[nodiscard]] const Layout* find(const Library& library, const LayoutId& id);

/// Writes a part where the user's own are kept (folder/sensors/ID.json and so on), whole or not at all, after the
/// checks that reading makes. Errors: those of the readers, and Io.
[[nodiscard]] Result<std::filesystem::path> keep(const Part& part, const std::filesystem::path& folder);
[[nodiscard]] Result<std::filesystem::path> keep(const EcuProfile& profile, const std::filesystem::path& folder);
[[nodiscard]] Result<std::filesystem::path> keep(const Layout& layout, const std::filesystem::path& folder);

} // namespace vicegrip::parts
