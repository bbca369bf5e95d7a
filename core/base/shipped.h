#pragma once

#include <filesystem>

namespace vicegrip {

/// What is shipped beside the programs: the library of parts, the demo jobs, their faults and recordings. It lies in
/// share/vicegrip beside the folder of the program that runs, wherever that was installed to; a build has a link there.
[[nodiscard]] std::filesystem::path shippedFolder();

} // namespace vicegrip
