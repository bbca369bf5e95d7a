#pragma once

#include <array>
#include <cstdio>
#include <string>
#include <sys/wait.h>

/// The command line, run as a program.
namespace vicegrip::test {

struct Ran
{
    int code = -1;
    std::string out; ///< both streams
};

inline Ran run(const std::string& arguments)
{
    Ran ran;
    FILE* pipe = popen((std::string(VICEGRIP_CLI) + " " + arguments + " 2>&1").c_str(), "r"); // NOLINT(cert-env33-c)
    if (pipe == nullptr)
        return ran;
    std::array<char, 4096> block{};
    while (const size_t got = fread(block.data(), 1, block.size(), pipe))
        ran.out.append(block.data(), got);
    const int status = pclose(pipe);
    ran.code = WIFEXITED(status) ? WEXITSTATUS(status) : -1;
    return ran;
}

} // namespace vicegrip::test
