#pragma once

#include <cstdio>
#include <cstdlib>
#include <fstream>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>
#include <string>
#include <unistd.h>

/// SciPy's milp (HiGHS), from the registry, run as a program on seating problems.
namespace vicegrip::test {

/// Whether it finds the same of all of them, and what it said.
inline testing::AssertionResult agreesWithMilp(const nlohmann::json& problems)
{
    const std::string file = testing::TempDir() + "seating_" + std::to_string(getpid()) + ".json";
    std::ofstream(file) << problems;
    const std::string command =
        "/usr/bin/python3 " VICEGRIP_SOURCE_DIR "/tests/core/seating/independent_solver.py " + file + " 2>&1";
    FILE* pipe = popen(command.c_str(), "r"); // NOLINT(cert-env33-c): a fixed script
    if (pipe == nullptr)
        return testing::AssertionFailure() << "it cannot be run";
    std::string said;
    for (char buffer[256]; fgets(buffer, sizeof buffer, pipe) != nullptr;)
        said += buffer;
    const int ended = pclose(pipe);
    std::remove(file.c_str());
    const bool all = said.find(std::to_string(problems.size()) + " problems agree") != std::string::npos;
    return ended == 0 && all ? testing::AssertionSuccess() : testing::AssertionFailure() << said;
}

} // namespace vicegrip::test
