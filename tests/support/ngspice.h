#pragma once

#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <string>
#include <unistd.h>
#include <vector>

/// ngspice (Debian's package), run as a program.
namespace vicegrip::test {

/// The numbers of its "v(...) = ..." lines, in their order.
inline std::vector<double> askNgspice(const std::string& deck)
{
    const auto folder = std::filesystem::temp_directory_path() / ("vicegrip-ngspice-" + std::to_string(getpid()));
    std::filesystem::create_directories(folder);
    const auto in = folder / "deck.cir", out = folder / "out.txt";
    std::ofstream(in) << deck;
    const std::string command = "ngspice -b '" + in.string() + "' > '" + out.string() + "' 2>/dev/null";
    (void)std::system(command.c_str()); // NOLINT(cert-env33-c, concurrency-mt-unsafe)
    std::ifstream answer(out);
    std::vector<double> numbers;
    for (std::string line; std::getline(answer, line);)
        if (line.starts_with("v(") && line.find('=') != std::string::npos)
            numbers.push_back(std::strtod(line.c_str() + line.find('=') + 1, nullptr));
    std::filesystem::remove_all(folder);
    return numbers;
}

} // namespace vicegrip::test
