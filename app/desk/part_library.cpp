#include "app/desk/part_library.h"

#include "core/base/shipped.h"

#include <optional>

namespace vicegrip::app {
namespace {

std::optional<parts::Library>& kept()
{
    static std::optional<parts::Library> library;
    return library;
}

} // namespace

const parts::Library& library()
{
    if (!kept())
        kept() = parts::readLibrary(parts::libraryFolders(shippedFolder() / "library"));
    return *kept();
}

void readLibraryAgain()
{
    kept().reset();
}

std::filesystem::path ownLibrary()
{
    return parts::libraryFolders({}).back();
}

} // namespace vicegrip::app
