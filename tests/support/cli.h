#pragma once

#include "tests/support/tool.h"

#include <cstdlib>
#include <string>

/// The command line, run as a program.
namespace vicegrip::test {

using Ran = Said;

/// The one that was built, or the watched one where the tests run under the sanitizers.
inline std::string cli()
{
    const char* watched = std::getenv("VICEGRIP_CLI_WATCHED");
    return watched != nullptr ? watched : VICEGRIP_CLI;
}

inline Ran run(const std::string& arguments)
{
    return tool(cli() + " " + arguments);
}

} // namespace vicegrip::test
