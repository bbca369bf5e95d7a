#pragma once

#include "tests/support/tool.h"

#include <string>

/// The command line, run as a program.
namespace vicegrip::test {

using Ran = Said;

inline Ran run(const std::string& arguments)
{
    return tool(std::string(VICEGRIP_CLI) + " " + arguments);
}

} // namespace vicegrip::test
