#pragma once

#include "cli/commands.h"
#include "core/base/result.h"

#include <nlohmann/json.hpp>
#include <string>

/// What the commands share: refusing with a code, and columns.
namespace vicegrip::cli {

using Json = nlohmann::ordered_json;

int refuse(const Error& error, int code);
int refuse(const std::string& sentence, int code);

/// Padded by characters on screen, not bytes: "kΩ" is two wide. At least one space follows.
[[nodiscard]] std::string padded(const std::string& text, size_t to);

} // namespace vicegrip::cli
