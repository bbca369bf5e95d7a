#pragma once

#include "core/job/job.h"

#include <functional>
#include <optional>
#include <string>

/// What the ECU drives, as the facts of the engine ask for it: injectors by cylinder, coils by what each serves, then
/// what is switched.
namespace vicegrip::brief {

/// There are functions for so many.
inline constexpr int kMostInjectors = 16;

using Ask = std::function<void(const std::string& function, job::Want want, std::string reason, std::string askedBy)>;

/// Nothing before the firing order is said.
void askDriven(const job::Brief& brief, const Ask& ask);

/// The cylinder that an injector or a coil serves; none where it serves several, and for anything else.
[[nodiscard]] std::optional<int> cylinderOf(const job::FunctionId& function, const job::Brief& brief);

/// The bank that an injector or a coil of one cylinder is on; empty for anything else, and for an engine in line.
[[nodiscard]] std::string bankOfDriven(const job::FunctionId& function, const job::Brief& brief);

/// Why an injector or a coil is not what the facts say: its resistance, or whose driver switches it. Empty where it is.
[[nodiscard]] std::string speaksAgainst(const parts::Part& part, const job::Brief& brief);

} // namespace vicegrip::brief
