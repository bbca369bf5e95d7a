#pragma once

#include <string_view>

/// The published JSON Schemas of data/schema, compiled in.
namespace vicegrip {

extern const std::string_view kJobSchema;
extern const std::string_view kPartSchema;
extern const std::string_view kFaultsSchema;
extern const std::string_view kFamiliesSchema;
extern const std::string_view kEcuSchema;
extern const std::string_view kTerminalSchema;
extern const std::string_view kConnectorSchema;

} // namespace vicegrip
