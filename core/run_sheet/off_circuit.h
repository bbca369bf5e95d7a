#pragma once

#include "core/electrics/readings.h"
#include "core/electrics/wiring.h"
#include "core/proof/expected.h"

#include <map>
#include <memory>
#include <optional>

namespace vicegrip::run_sheet {

/// What a meter must show at places that belong to no circuit: the battery's posts, the fuses, the unit's own feeds.
/// The car is solved once under each condition that is asked for. The job must outlive it.
class OffCircuit
{
  public:
    explicit OffCircuit(const job::Job& job) : m_job(job), m_wiring(job) {}

    /// Between two places, with the bounds of a good car; none where one of them is not in the network, or the car
    /// cannot be solved.
    [[nodiscard]] std::optional<proof::Expectation> due(job::Condition condition, const job::PointRef& red,
                                                        const job::PointRef& black);

    /// Across the battery's posts.
    [[nodiscard]] std::optional<proof::Expectation> atPosts(job::Condition condition);

    [[nodiscard]] job::PointRef positivePost() const;
    /// The side of a fuse that is not towards the battery.
    [[nodiscard]] job::PointRef behind(const job::Switch& fuse) const;

    [[nodiscard]] const electrics::Wiring& wiring() const { return m_wiring; }

  private:
    struct Car
    {
        std::optional<electrics::Electrics> solved;
        std::optional<electrics::Readings> readings;
    };

    const job::Job& m_job;
    electrics::Wiring m_wiring;
    std::map<job::Condition, std::unique_ptr<Car>> m_cars;
};

} // namespace vicegrip::run_sheet
