#include "core/parts/library.h"

#include "core/base/document.h"

#include <algorithm>

namespace vicegrip::parts {
namespace {

Result<Sensor> readPartFile(const std::filesystem::path& file)
{
    return document::inFile(document::readFile(file)
                                .and_then([](const std::string& text) { return document::parse(text); })
                                .and_then(readSensor),
                            file);
}

std::vector<std::filesystem::path> jsonFiles(const std::filesystem::path& folder)
{
    std::vector<std::filesystem::path> files;
    std::error_code error;
    for (auto it = std::filesystem::directory_iterator(folder, error);
         !error && it != std::filesystem::directory_iterator(); it.increment(error))
        if (it->path().extension() == ".json")
            files.push_back(it->path());
    std::sort(files.begin(), files.end());
    return files;
}

} // namespace

Library readLibrary(const std::vector<std::filesystem::path>& folders)
{
    Library library;
    for (const auto& folder : folders) {
        for (const auto& file : jsonFiles(folder)) {
            auto sensor = readPartFile(file);
            if (!sensor) {
                library.complaints.push_back(sensor.error());
                continue;
            }
            std::erase_if(library.sensors, [&](const Sensor& s) { return s.id == sensor->id; });
            library.sensors.push_back(std::move(*sensor));
        }
    }
    std::sort(library.sensors.begin(), library.sensors.end(),
              [](const Sensor& a, const Sensor& b) { return a.name < b.name; });
    return library;
}

} // namespace vicegrip::parts
