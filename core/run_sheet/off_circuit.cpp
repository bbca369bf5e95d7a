#include "core/run_sheet/off_circuit.h"

#include <algorithm>

namespace vicegrip::run_sheet {

std::optional<proof::Expectation> OffCircuit::due(job::Condition condition, const job::PointRef& red,
                                                  const job::PointRef& black)
{
    auto& car = m_cars[condition];
    if (car == nullptr) {
        car = std::make_unique<Car>();
        if (auto built = electrics::build(m_job, {.condition = condition, .surroundings = m_job.surroundings})) {
            car->solved = std::move(*built);
            car->readings.emplace(*car->solved);
        }
    }
    if (!car->readings || red == black)
        return std::nullopt;
    const bool volts = job::isLive(condition);
    proof::Expectation out;
    out.station.key = red.text();
    out.station.point = red;
    out.station.label = job::spoken(m_job, red);
    out.condition = condition;
    out.dimension = volts ? units::Dimension::Voltage : units::Dimension::Resistance;
    out.unit = volts ? "V" : "Ω";
    out.blackPoint = black;
    out.black = job::spoken(m_job, black);
    const auto readings =
        volts ? car->readings->voltmeters({{red, black}}, m_job.meter) : car->readings->ohmmeters({{red, black}});
    proof::dueOnMeter(out, readings.front(), m_job.meter);
    return out.promises() ? std::optional(out) : std::nullopt;
}

std::optional<proof::Expectation> OffCircuit::atPosts(job::Condition condition)
{
    return due(condition, positivePost(), job::negativePost(m_job));
}

job::PointRef OffCircuit::positivePost() const
{
    const auto post = std::ranges::find(m_job.joints, job::JointKind::BatteryPositive, &job::Joint::kind);
    return post == m_job.joints.end() ? job::PointRef() : job::PointRef{post->id, {}};
}

job::PointRef OffCircuit::behind(const job::Switch& fuse) const
{
    const electrics::Path way = m_wiring.way(fuse.to, [&](const job::PointRef& p) { return p == positivePost(); });
    const bool through = way.complete && std::ranges::find(way.subjects, "switch " + fuse.id) != way.subjects.end();
    return through ? fuse.to : fuse.from;
}

} // namespace vicegrip::run_sheet
