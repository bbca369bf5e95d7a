#pragma once

#include "core/log/log.h"
#include "core/log_columns/log_columns.h"
#include "core/review/review.h"
#include "tests/support/petrel.h"

#include <cmath>
#include <functional>
#include <random>

/// Logs of a drive that never was, with what is planted in them.
namespace vicegrip::review::test {

/// A log of so many seconds at so many rows a second; columns are added by a function of time.
class DrivenLog
{
  public:
    DrivenLog(double seconds, double rate_hz, unsigned seed = 1) : m_rate(rate_hz), m_chance(seed)
    {
        for (int i = 0; i < static_cast<int>(seconds * rate_hz); ++i)
            m_log.time_s.push_back(i / rate_hz);
    }
    DrivenLog& with(const std::string& name, const std::string& unit, const std::function<double(double)>& at,
                    double noise = 0)
    {
        std::normal_distribution<double> gauss(0, 1);
        log::Column column{name, unit, {}};
        for (const double t : m_log.time_s)
            column.values.push_back(static_cast<float>(at(t) + noise * gauss(m_chance)));
        m_log.columns.push_back(std::move(column));
        return *this;
    }
    /// An engine that goes up and down between idle and 6,000 rpm, and a throttle with it.
    DrivenLog& engine()
    {
        with(
            "RPM", "rpm", [](double t) { return 3400 + 2500 * std::sin(t / 3); }, 5);
        return with("Throttle", "%", [](double t) { return std::clamp(50 + 60 * std::sin(t / 3), 0.0, 100.0); });
    }
    [[nodiscard]] log::Log& log() { return m_log; }
    [[nodiscard]] double rate() const { return m_rate; }

  private:
    log::Log m_log;
    double m_rate;
    std::mt19937 m_chance;
};

/// Analysed once.
inline const analysis::Analysis& petrel()
{
    static const analysis::Analysis kAnalysis =
        analysis::analyse(std::make_shared<const job::Job>(vicegrip::test::petrel()));
    return kAnalysis;
}

inline Review reviewed(const log::Log& log, const analysis::Analysis& analysis = petrel())
{
    return review(log, log_columns::meaningsOf(log, analysis.job.get()), analysis);
}

inline const Finding* found(const Review& r, Rule rule)
{
    const auto it = std::ranges::find(r.findings, rule, &Finding::rule);
    return it == r.findings.end() ? nullptr : &*it;
}

} // namespace vicegrip::review::test
