#pragma once

#include "core/parts/library.h"

namespace vicegrip::app {

/// The shipped library with the user's own over it, read once; `readLibraryAgain` after a part was kept.
[[nodiscard]] const parts::Library& library();
void readLibraryAgain();

/// Where the user's own parts are kept.
[[nodiscard]] std::filesystem::path ownLibrary();

} // namespace vicegrip::app
