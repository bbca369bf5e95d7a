#include "core/photos/photos.h"

#include "core/base/phrase.h"
#include "core/base/write_file.h"
#include "core/logbook/logbook.h"

#include <charconv>
#include <fstream>
#include <glib.h>
#include <memory>
#include <tuple>

namespace vicegrip::photos {
namespace {

namespace fs = std::filesystem;

/// What is in a photo, in a few letters, and its size: "1f0c8e2a4b5d6e7f-1600x1200.jpg".
std::string nameOf(const Jpeg& photo)
{
    constexpr size_t kLetters = 16;
    const std::unique_ptr<gchar, decltype(&g_free)> sum(
        g_compute_checksum_for_data(G_CHECKSUM_SHA256, reinterpret_cast<const guchar*>(photo.bytes.data()),
                                    photo.bytes.size()),
        &g_free);
    return std::string(sum.get(), kLetters) + "-" + std::to_string(photo.width) + "x" + std::to_string(photo.height) +
           ".jpg";
}

/// The size that a name tells; 0: it tells none.
std::pair<int, int> sizeOf(const std::string& name)
{
    std::pair<int, int> out{0, 0};
    const size_t dash = name.find('-'), by = name.find('x', dash);
    if (dash == std::string::npos || by == std::string::npos)
        return out;
    std::from_chars(name.data() + dash + 1, name.data() + by, out.first);
    std::from_chars(name.data() + by + 1, name.data() + name.size(), out.second);
    return out;
}

} // namespace

fs::path folderOf(const fs::path& jobFile)
{
    return jobFile.parent_path() / (jobFile.stem().string() + "-photos");
}

Result<std::string> keep(const Jpeg& photo, const fs::path& jobFile)
{
    const std::string name = nameOf(photo);
    const fs::path folder = folderOf(jobFile);
    std::error_code trouble;
    fs::create_directories(folder, trouble);
    if (trouble)
        return fail(ErrorCode::Io, phrase("cannot be made: {}", trouble.message()), {folder.string(), {}, 0, 0});
    return writeFile(folder / name, photo.bytes).map([&] { return name; });
}

Result<Jpeg> photoOf(const job::Photo& photo, const fs::path& jobFile)
{
    const fs::path file = folderOf(jobFile) / photo.file;
    std::error_code none;
    const auto size = fs::file_size(file, none);
    constexpr std::uintmax_t kMost = 8 << 20; // of what was kept here; anything else is read as a foreign file
    if (none || size > kMost)
        return readImage(file);
    std::ifstream in(file, std::ios::binary);
    Jpeg kept{std::string(size, '\0'), 0, 0};
    in.read(kept.bytes.data(), static_cast<std::streamsize>(size));
    std::tie(kept.width, kept.height) = sizeOf(photo.file);
    const auto canBe = [](int side) { return side > 0 && side <= kMost_px; };
    const bool ours = canBe(kept.width) && canBe(kept.height) && nameOf(kept) == photo.file;
    return ours ? Result<Jpeg>(std::move(kept)) : readImage(file);
}

Album albumOf(const job::Job& job, const fs::path& jobFile)
{
    Album out;
    for (const job::Photo& p : job.photos)
        if (!out.contains(p.file))
            out.emplace(p.file, photoOf(p, jobFile));
    return out;
}

Result<void> carry(const job::Job& job, const fs::path& from, const fs::path& to)
{
    for (const job::Photo& p : job.photos) {
        const fs::path there = folderOf(to) / p.file;
        std::error_code none;
        if (!fs::exists(folderOf(from) / p.file, none) || fs::exists(there, none))
            continue;
        fs::create_directories(folderOf(to), none);
        std::error_code trouble;
        fs::copy_file(folderOf(from) / p.file, there, trouble);
        if (trouble)
            return fail(ErrorCode::Io, phrase("not copied: {}", trouble.message()), {there.string(), {}, 0, 0});
    }
    return {};
}

std::string subjectText(const job::Job& job, const job::Photo& photo)
{
    switch (photo.of) {
    case job::PhotoOf::Circuit:
        if (const job::Circuit* c = job::find(job, job::CircuitId{photo.subject}))
            return c->name;
        break;
    case job::PhotoOf::Plug:
        if (job::findConnector(job, photo.subject) != nullptr)
            return phrase("Plug {}", photo.subject);
        break;
    case job::PhotoOf::Part:
        if (const parts::Part* part = job::findPart(job, {photo.subject}))
            return part->name;
        break;
    case job::PhotoOf::Log:
        for (const logbook::LogLine& line : logbook::logbook(job))
            if (line.when == photo.subject)
                return phrase("Logbook: {}", line.what);
        break;
    }
    return phrase("{}, no longer in the job", photo.subject);
}

std::string dataAddress(const Jpeg& photo)
{
    const std::unique_ptr<gchar, decltype(&g_free)> text(
        g_base64_encode(reinterpret_cast<const guchar*>(photo.bytes.data()), photo.bytes.size()), &g_free);
    return std::string("data:image/jpeg;base64,") + text.get();
}

} // namespace vicegrip::photos
