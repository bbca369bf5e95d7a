#pragma once

#include <array>
#include <cstdio>
#include <filesystem>
#include <fstream>
#include <string>
#include <string_view>
#include <sys/wait.h>
#include <unistd.h>

/// Programs of other people that say whether what we write is what it claims to be.
namespace vicegrip::test {

struct Said
{
    int code = -1;
    std::string out; ///< both streams
};

inline Said tool(const std::string& command)
{
    Said said;
    FILE* pipe = popen((command + " 2>&1").c_str(), "r"); // NOLINT(cert-env33-c)
    if (pipe == nullptr)
        return said;
    std::array<char, 65536> block{};
    while (const size_t got = fread(block.data(), 1, block.size(), pipe))
        said.out.append(block.data(), got);
    const int status = pclose(pipe);
    said.code = WIFEXITED(status) ? WEXITSTATUS(status) : -1;
    return said;
}

/// A file of the test's own, gone with it.
class Written
{
  public:
    Written(const std::string& name, std::string_view bytes)
        : m_path(std::filesystem::temp_directory_path() / (std::to_string(getpid()) + "-" + name))
    {
        std::ofstream(m_path, std::ios::binary) << bytes;
    }
    ~Written() { std::filesystem::remove(m_path); }
    Written(const Written&) = delete;
    Written& operator=(const Written&) = delete;

    [[nodiscard]] std::string path() const { return m_path.string(); }

  private:
    std::filesystem::path m_path;
};

} // namespace vicegrip::test
