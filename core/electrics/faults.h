#pragma once

#include "core/base/result.h"
#include "core/job/job.h"

#include <array>
#include <filesystem>
#include <string_view>
#include <variant>
#include <vector>

/// What is wrong with a car, as edits of its wiring. A fault list is JSON after data/schema/faults.schema.json:
///
///     {"faults": [{"kind": "open", "wire": "w12"}, {"kind": "swap", "connector": "A", "cavities": ["7", "8"]}]}
namespace vicegrip::electrics {

struct OpenWire
{
    job::WireId wire;
};

/// A bad crimp, a ground on paint.
struct AddedResistance
{
    job::WireId wire;
    double ohm = 0;
};

struct SwappedCavities
{
    std::string connector;
    std::array<std::string, 2> cavities;
};

struct Short
{
    job::PointRef point, to;
    double ohm = 0.1;
};

/// What somebody left in the ECU for an input: a line in another unit, gauge for absolute, of the sensor before.
struct HeldTable
{
    parts::InputId input;
    struct Point
    {
        double volts = 0, value = 0; ///< value as the ECU shows it
    };
    std::vector<Point> points; ///< rising volts, at least two
};

using Fault = std::variant<OpenWire, AddedResistance, SwappedCavities, Short, HeldTable>;
using FaultList = std::vector<Fault>;

/// Reads a fault list for this job. Errors as for a job, and Reference for a wire or cavity the job does not have.
[[nodiscard]] Result<FaultList> readFaults(std::string_view text, const job::Job& job);
[[nodiscard]] Result<FaultList> readFaultsFile(const std::filesystem::path& file, const job::Job& job);

/// The job as it is really wired: opened wires left out, swapped cavities' wire ends exchanged.
[[nodiscard]] job::Job asWired(job::Job job, const FaultList& faults);

} // namespace vicegrip::electrics
