#include "core/base/write_file.h"

#include "core/base/phrase.h"

#include <cerrno>
#include <cstdio>
#include <fcntl.h>
#include <sys/stat.h>
#include <system_error>
#include <unistd.h>

namespace vicegrip {
namespace {

namespace fs = std::filesystem;

bool writeAll(int to, std::string_view bytes)
{
    while (!bytes.empty()) {
        const ssize_t put = ::write(to, bytes.data(), bytes.size());
        if (put < 0 && errno == EINTR)
            continue;
        if (put <= 0)
            return false;
        bytes.remove_prefix(static_cast<size_t>(put));
    }
    return true;
}

bool sync(int fd)
{
    while (::fsync(fd) != 0)
        if (errno != EINTR)
            return false;
    return true;
}

/// A new name in a folder is on the disk when the folder is.
void syncFolder(const fs::path& folder)
{
    const int fd = ::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    if (fd < 0)
        return;
    ::fsync(fd); // where the system cannot, the file itself is there all the same
    ::close(fd);
}

} // namespace

Result<void> writeFile(const fs::path& file, std::string_view bytes)
{
    std::error_code none;
    const fs::path to = fs::exists(file, none) ? fs::canonical(file, none) : file;
    const fs::path folder = to.has_parent_path() ? to.parent_path() : fs::path(".");
    const fs::path hidden = folder / ("." + to.filename().string() + ".saving");
    const auto refuse = [&](const std::string& why) {
        return fail(ErrorCode::Io, phrase("not saved: {}", why), {file.string(), {}, 0, 0});
    };
    const bool there = fs::exists(to, none);
    if (there && ::access(to.c_str(), W_OK) != 0)
        return refuse(phrase("the file is write-protected"));
    ::unlink(hidden.c_str()); // what a kill left; and never through a link that somebody laid there
    const int fd = ::open(hidden.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC, 0666);
    if (fd < 0)
        return refuse(std::generic_category().message(errno));
    struct stat was
    {
    };
    if (there && ::stat(to.c_str(), &was) == 0)
        ::fchmod(fd, was.st_mode & 07777U);
    int trouble = writeAll(fd, bytes) && sync(fd) ? 0 : errno;
    if (::close(fd) != 0 && trouble == 0)
        trouble = errno;
    if (trouble == 0 && std::rename(hidden.c_str(), to.c_str()) != 0)
        trouble = errno;
    if (trouble != 0) {
        ::unlink(hidden.c_str());
        return refuse(std::generic_category().message(trouble));
    }
    syncFolder(folder);
    return {};
}

} // namespace vicegrip
