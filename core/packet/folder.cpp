#include "core/packet/folder.h"

#include "core/base/phrase.h"
#include "core/base/write_file.h"

#include <system_error>

namespace vicegrip::packet {
namespace {

namespace fs = std::filesystem;

/// Gone with everything in it, unless it was put in its place.
struct Scratch
{
    fs::path path;
    Scratch(const Scratch&) = delete;
    explicit Scratch(fs::path at) : path(std::move(at)) {}
    ~Scratch()
    {
        std::error_code none;
        fs::remove_all(path, none);
    }
};

bool isPacket(const fs::path& folder)
{
    std::error_code none;
    return fs::exists(folder / "start.html", none) && fs::exists(folder / "facts.json", none) &&
           fs::exists(folder / "job.vicegrip", none);
}

} // namespace

Result<void> writeFolder(const Packet& packet, const fs::path& folder)
{
    const fs::path to = folder.has_filename() ? folder : folder.parent_path();
    const auto refuse = [&](const std::string& why) {
        return fail(ErrorCode::Io, phrase("not saved: {}", why), {to.string(), {}, 0, 0});
    };
    std::error_code trouble;
    const bool there = fs::exists(fs::symlink_status(to, trouble));
    if (there && (!fs::is_directory(to, trouble) || (!fs::is_empty(to, trouble) && !isPacket(to))))
        return refuse(phrase("what stands there is no packet; choose another place"));
    const Scratch made(to.parent_path() / ("." + to.filename().string() + ".saving"));
    const fs::path old = to.parent_path() / ("." + to.filename().string() + ".old");
    fs::remove_all(made.path, trouble); // what a kill left
    for (const File& file : packet.files) {
        const fs::path at = made.path / file.path;
        fs::create_directories(at.parent_path(), trouble);
        if (trouble)
            return refuse(trouble.message());
        if (auto written = writeFile(at, file.bytes); !written)
            return written;
    }
    if (there) {
        fs::remove_all(old, trouble);
        fs::rename(to, old, trouble);
        if (trouble)
            return refuse(trouble.message());
    }
    fs::rename(made.path, to, trouble);
    if (trouble) {
        const std::string why = trouble.message();
        if (there)
            fs::rename(old, to, trouble); // where even that fails, the old packet is still there under its hidden name
        return refuse(why);
    }
    fs::remove_all(old, trouble);
    return {};
}

} // namespace vicegrip::packet
