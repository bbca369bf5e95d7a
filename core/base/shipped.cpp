#include "core/base/shipped.h"

namespace vicegrip {

std::filesystem::path shippedFolder()
{
    std::error_code none; // then nothing is found there, and whoever reads says so
    const auto program = std::filesystem::read_symlink("/proc/self/exe", none);
    return program.parent_path().parent_path() / "share/vicegrip";
}

} // namespace vicegrip
