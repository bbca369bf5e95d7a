#include "core/parts/library.h"

#include "core/base/document.h"
#include "core/base/phrase.h"

#include <algorithm>
#include <cstdlib>
#include <fstream>
#include <set>

namespace vicegrip::parts {
namespace {

namespace fs = std::filesystem;

std::vector<fs::path> jsonFiles(const fs::path& folder)
{
    std::vector<fs::path> files;
    std::error_code error;
    for (auto it = fs::directory_iterator(folder, error); !error && it != fs::directory_iterator(); it.increment(error))
        if (it->path().extension() == ".json")
            files.push_back(it->path());
    std::sort(files.begin(), files.end());
    return files;
}

template <class Part, class Read>
void readFolder(const fs::path& folder, Read read, std::vector<Part>& parts, std::vector<Error>& complaints)
{
    std::set<std::string> here;
    for (const auto& file : jsonFiles(folder)) {
        Result<Part> part =
            document::inFile(document::readFile(file)
                                 .and_then([](const std::string& text) { return document::parse(text); })
                                 .and_then(read),
                             file);
        if (part && !here.insert(part->id.value).second)
            part = fail(ErrorCode::Reference,
                        phrase("another file of this folder already describes \"{}\"", part->id.value),
                        {file.string(), "/id", 0, 0});
        if (!part) {
            complaints.push_back(part.error());
            continue;
        }
        std::erase_if(parts, [&](const Part& p) { return p.id == part->id; });
        parts.push_back(std::move(*part));
    }
}

template <class Part> void sortByName(std::vector<Part>& parts)
{
    std::ranges::sort(parts, {}, &Part::name);
}

template <class Part, class Read> Result<fs::path> keepIn(const fs::path& folder, const Part& part, Read read)
{
    const std::string text = fields::toJson(part).dump(2) + "\n";
    if (auto sound = document::parse(text).and_then(read); !sound)
        return tl::make_unexpected(sound.error());
    std::error_code error;
    fs::create_directories(folder, error);
    const fs::path file = folder / (part.id.value + ".json"), draft = folder / ("." + part.id.value + ".draft");
    {
        std::ofstream out(draft, std::ios::binary | std::ios::trunc);
        out << text << std::flush;
        if (!out)
            return fail(ErrorCode::Io, phrase("not saved: the folder cannot be written, or the disk is full"),
                        {file.string(), {}, 0, 0});
    }
    fs::rename(draft, file, error);
    if (error)
        return fail(ErrorCode::Io, phrase("not saved: {}", error.message()), {file.string(), {}, 0, 0});
    return file;
}

template <class Part, class PartIdentity> const Part* withId(const std::vector<Part>& parts, const PartIdentity& id)
{
    const auto it = std::ranges::find(parts, id, &Part::id);
    return it == parts.end() ? nullptr : &*it;
}

} // namespace

Library readLibrary(const std::vector<fs::path>& folders)
{
    Library library;
    for (const auto& folder : folders) {
        readFolder(folder / "sensors", readPart, library.parts, library.complaints);
        readFolder(folder / "actuators", readPart, library.parts, library.complaints);
        readFolder(folder / "ecus", readEcu, library.ecus, library.complaints);
        readFolder(folder / "terminals", readTerminal, library.terminals, library.complaints);
        readFolder(folder / "connectors", readLayout, library.layouts, library.complaints);
    }
    sortByName(library.parts);
    sortByName(library.ecus);
    sortByName(library.terminals);
    sortByName(library.layouts);
    std::ranges::stable_sort(library.layouts, {}, [](const Layout& l) { return cavities(l).size(); });
    return library;
}

std::vector<fs::path> libraryFolders(const fs::path& shipped)
{
    const char* data = std::getenv("XDG_DATA_HOME"); // NOLINT(concurrency-mt-unsafe): nobody sets it meanwhile
    const char* home = std::getenv("HOME"); // NOLINT(concurrency-mt-unsafe)
    std::vector<fs::path> out = {shipped};
    if (data != nullptr && *data != '\0')
        out.push_back(fs::path(data) / "vicegrip/library");
    else if (home != nullptr)
        out.push_back(fs::path(home) / ".local/share/vicegrip/library");
    return out;
}

const Part* find(const Library& library, const PartId& id)
{
    return withId(library.parts, id);
}

const EcuProfile* find(const Library& library, const EcuId& id)
{
    return withId(library.ecus, id);
}

const Layout* find(const Library& library, const LayoutId& id)
{
    return withId(library.layouts, id);
}

Result<fs::path> keep(const Part& part, const fs::path& folder)
{
    return keepIn(folder / (isDriven(part) ? "actuators" : "sensors"), part, readPart);
}

Result<fs::path> keep(const EcuProfile& profile, const fs::path& folder)
{
    return keepIn(folder / "ecus", profile, readEcu);
}

Result<fs::path> keep(const Layout& layout, const fs::path& folder)
{
    return keepIn(folder / "connectors", layout, readLayout);
}

} // namespace vicegrip::parts
