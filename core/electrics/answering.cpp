#include "core/electrics/answering.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::electrics {
namespace {

using parts::PinRole;

/// Volts across a part's terminals, in a solved car.
class Across
{
  public:
    Across(const Electrics& car, const job::Device& device, const parts::Part& part)
        : m_car(car), m_device(device), m_part(part)
    {
    }

    [[nodiscard]] double volts(PinRole role, std::optional<PinRole> other) const
    {
        return m_car.solution.volts(at(role), other ? at(*other) : circuit::kReference);
    }

  private:
    /// One without a terminal returns through whatever it is bolted to.
    [[nodiscard]] circuit::Node at(PinRole role) const
    {
        for (const auto& [cavity, is] : m_part.pins)
            if (is == role)
                return m_car.node({m_device.connector, cavity}).value_or(circuit::kReference);
        return circuit::kReference;
    }

    const Electrics& m_car;
    const job::Device& m_device;
    const parts::Part& m_part;
};

} // namespace

bool moves(const Electrics& car, const job::Job& job, const job::Circuit& circuit)
{
    const parts::Part* part = job::actuatorOf(job, circuit);
    const job::Device* device = job::find(job, circuit.device);
    if (part == nullptr || device == nullptr)
        return false;
    const Across across(car, *device, *part);
    const parts::Drive drive = *parts::driveOf(*part);
    const double least_v = kMoves * job.battery.volts;
    if (drive.takesLogic())
        return across.volts(PinRole::Signal, PinRole::Ground) >= drive.least_v &&
               across.volts(PinRole::Supply, PinRole::Ground) >= least_v;
    return std::ranges::any_of(parts::signalRoles(*part), [&](PinRole role) {
        return std::abs(across.volts(role, parts::acrossFrom(*part, role))) >= least_v;
    });
}

Result<std::vector<job::CircuitId>> answering(const job::Job& job, Situation situation, const parts::OutputId& output)
{
    situation.bounded = false;
    const auto idle = build(job, situation);
    if (!idle)
        return tl::make_unexpected(idle.error());
    const auto units = job::units(job);
    const auto unit = std::ranges::find(units, job::unitOf(job, output));
    if (unit == units.end() || !idle->units[static_cast<size_t>(unit - units.begin())].powered)
        return std::vector<job::CircuitId>(); // an ECU that is off switches nothing
    situation.clicked = output;
    const auto clicked = build(job, situation);
    if (!clicked)
        return tl::make_unexpected(clicked.error());
    std::vector<job::CircuitId> out;
    for (const job::Circuit& c : job.circuits)
        if (moves(*idle, job, c) != moves(*clicked, job, c))
            out.push_back(c.id);
    return out;
}

} // namespace vicegrip::electrics
