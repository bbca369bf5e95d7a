#pragma once

#include "core/brief/functions.h"
#include "core/parts/library.h"

#include <string>
#include <vector>

/// The range advisor: which pressure sensor reads everything this engine will do, and how finely.
namespace vicegrip::brief {

inline constexpr double kIdle_pa = 35e3; ///< manifold pressure of a warm idle (typical)

/// A pressure the engine will show the sensor, in the sensor's own sense: absolute for air, gauge for fluids.
struct PressureMark
{
    std::string name; ///< "target"
    double pa = 0;
    std::string why; ///< "98.4 kPa barometer + 120 kPa"
    bool mustRead = true; ///< outside the span, the engine is blind there
};

/// One sensor of the library against the marks.
struct Candidate
{
    parts::Part sensor;
    bool current = false; ///< it is the one in the job
    double headroom_pa = 0; ///< from the highest mark to the top of the span; below 0: too short
    double bottom_pa = 0; ///< from the bottom of the span to the lowest mark
    double pa_per_count = 0; ///< on the input it has, or on a 12-bit 5 V one
    double errorAtLowest = 0; ///< its tolerance as a share of the absolute pressure at the lowest load that is fuelled
    double top_gauge_pa = 0; ///< top of its span above the barometer
    bool reads = false; ///< all that must be read
    bool overVolts = false; ///< the input does not read to the end of its output
    std::string verdict; ///< the reason for its place, as a sentence
};

struct Advice
{
    std::vector<PressureMark> marks; ///< rising
    std::vector<Candidate> ranking; ///< best first
    std::string inputText; ///< what the resolution is for: "AN1, 12 bits"
    std::string split; ///< one sensor, or one each side of the throttle, with the reason; empty for fluids
};

/// The marks for a function: manifold and charge pressure from the brief's air, fuel and oil pressure from common
/// practice. Empty for a function that is no pressure.
[[nodiscard]] std::vector<PressureMark> marksOf(const job::FunctionId& function, const job::Brief& brief,
                                                double barometer_pa);

/// Ranks the library's sensors for the function. `circuit` may be null: then no sensor is current.
[[nodiscard]] Advice adviseRange(const job::FunctionId& function, const job::Job& job, const job::Circuit* circuit,
                                 const parts::Library& library);

/// How one sensor stands against the marks: the advisor's judgement of it alone.
[[nodiscard]] Candidate rated(const parts::Part& sensor, const std::vector<PressureMark>& marks,
                              const parts::EcuInput& input, double fullScale_v, double barometer_pa);

/// The sensor a new circuit starts with: the advisor's first for a pressure, otherwise the function's usual one, or the
/// first of its kind. Null when the library has none.
[[nodiscard]] const parts::Part* suggested(const Function& function, const job::Job& job,
                                           const parts::Library& library);

} // namespace vicegrip::brief
