#pragma once

#include "core/electrics/wiring.h"

#include <optional>
#include <string>
#include <vector>

/// Whether an input can read a circuit's sensor, and if not, why not.
namespace vicegrip::seating {

enum class Incompatibility {
    None,
    Function,
    Mode,
    Coil,
    Frequency,
    PullUp,
    Volts,
    Damage,
    Driver,
    Current,
    Clamp,
    Inside
};

/// Why an input does not read a sensor: the reason as a sentence's middle ("it has no pull-up, and the sensor makes no
/// voltage").
struct Compatibility
{
    Incompatibility kind = Incompatibility::None;
    std::string reason;

    [[nodiscard]] bool compatible() const { return kind == Incompatibility::None; }
};

/// Looks at function, mode, pull-up (one that can be switched on, or in the harness), span, frequency and edge; not at
/// who sits there already.
[[nodiscard]] Compatibility compatibility(const electrics::Wiring& wiring, const job::Circuit& circuit,
                                          const parts::EcuInput& input);

/// The part of it that no wiring changes: what the firmware keeps the input for, and the kind of signal. Cheap.
[[nodiscard]] Compatibility kindCompatibility(const job::Circuit& circuit, const parts::Part& sensor,
                                              const parts::EcuInput& input);

/// What an input can do, for the plan: "0–5 V", "pull-up 1k, 2k49", "to 15 kHz", "coil".
[[nodiscard]] std::vector<std::string> capabilities(const parts::EcuInput& input);

/// What a sensor needs, in the same words.
[[nodiscard]] std::vector<std::string> demands(const parts::Part& sensor);

} // namespace vicegrip::seating
