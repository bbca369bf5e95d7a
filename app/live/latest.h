#pragma once

#include "core/stream/stream.h"

#include <QHash>

#include <array>
#include <initializer_list>
#include <optional>

namespace vicegrip::app {

/// What an input is told to be now; none of what nobody told within the last second.
struct InputNow
{
    std::optional<double> volts;
    std::optional<double> value; ///< SI of what its sensor measures
    std::optional<double> counts;
    std::optional<double> hertz, low_s; ///< of an input that counts
};

/// The newest of everything that is told. What is older than a second is not now.
class Latest
{
  public:
    static constexpr double kFresh_s = 1;

    void hear(const stream::Heard& heard);
    void clear() { m_told.clear(); }

    /// None where nothing is told of it, or nothing that is fresh. `now_s` is of the clock of what was heard.
    [[nodiscard]] std::optional<InputNow> sample(int input, double now_s) const;
    /// One of these was told of it, and none is any more; for how long, s.
    [[nodiscard]] std::optional<double> staleFor_s(int input, std::initializer_list<job::Tells> kinds,
                                                   double now_s) const;

  private:
    struct Told
    {
        double value = 0, time_s = 0;
    };
    static constexpr size_t kKinds = 5; ///< of job::Tells

    QHash<int, std::array<std::optional<Told>, kKinds>> m_told;
};

} // namespace vicegrip::app
