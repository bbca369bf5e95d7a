#pragma once

#include "core/base/document.h"

/// Whether a document follows its schema and its numbers can be what their names say.
namespace vicegrip::units {

/// Checks against a schema as document::validate does, then every number by the unit its member's name ends in:
/// "span_v", "length_m", "pull_up_ohm", "ambient_c". Numbers that name no unit are held to what arithmetic bears. The
/// error carries the JSON pointer and the range.
[[nodiscard]] Result<void> validate(const nlohmann::json& document, std::string_view schema);

} // namespace vicegrip::units
