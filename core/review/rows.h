#pragma once

#include "core/review/review.h"

#include <cmath>
#include <memory>
#include <mutex>
#include <span>

namespace vicegrip::review {

/// A column without its empty rows.
struct Samples
{
    std::span<const float> values;
    std::vector<float> packed; ///< where some rows are empty; else `values` is the column itself
    std::vector<std::uint32_t> rows; ///< of `packed`
    [[nodiscard]] std::size_t row(std::size_t i) const { return rows.empty() ? i : rows[i]; }
    [[nodiscard]] std::size_t size() const { return values.size(); }
};

/// A log as rules look at it.
class Rows
{
  public:
    Rows(const log::Log& log, const std::vector<log_columns::Meaning>& meanings, const analysis::Analysis& analysis);

    [[nodiscard]] const log::Log& log() const { return m_log; }
    [[nodiscard]] const analysis::Analysis& analysis() const { return m_analysis; }
    [[nodiscard]] const job::Job& job() const { return *m_analysis.job; }
    [[nodiscard]] const std::vector<log_columns::Meaning>& meanings() const { return m_meanings; }
    [[nodiscard]] std::optional<std::size_t> column(log_columns::Quantity quantity) const
    {
        return log_columns::columnOf(m_meanings, quantity);
    }

    [[nodiscard]] Samples samples(std::size_t column) const;
    /// Of each row, the last value there was; no number before the first.
    [[nodiscard]] std::span<const float> held(std::size_t column) const;

    /// The usual time from row to row, s.
    [[nodiscard]] double step_s() const { return m_step_s; }
    [[nodiscard]] double seconds(const Stretch& s) const { return m_log.time_s[s.last] - m_log.time_s[s.first]; }

    [[nodiscard]] const job::Circuit* circuit(std::size_t column) const;
    [[nodiscard]] const parts::Part* sensor(std::size_t column) const;
    [[nodiscard]] const proof::CircuitView* view(std::size_t column) const;
    /// Volts that the input would read at a value of the column; none where it has no table of volts.
    [[nodiscard]] std::optional<double> volts(std::size_t column, double value) const;

    /// "Manifold pressure", and a value of it.
    [[nodiscard]] std::string name(std::size_t column) const { return m_log.columns[column].name; }
    [[nodiscard]] std::string text(std::size_t column, double value) const
    {
        return log_columns::valueText(m_meanings[column], value);
    }
    [[nodiscard]] std::string difference(std::size_t column, double value) const
    {
        return log_columns::differenceText(m_meanings[column], value);
    }

  private:
    const log::Log& m_log;
    const std::vector<log_columns::Meaning>& m_meanings;
    const analysis::Analysis& m_analysis;
    double m_step_s = 0;
    std::vector<std::size_t> m_empty; ///< rows of each column that are
    mutable std::mutex m_holding;
    mutable std::vector<std::unique_ptr<std::vector<float>>> m_held;
};

/// Keeps the stretches of a finding that are shown.
void keep(Finding& finding, const Stretch& stretch);

/// "0.42 s", "3 min 20 s".
[[nodiscard]] std::string secondsText(double seconds);

/// The noise of a signal: 1.4826 times the median of what each sample differs from the line between its neighbours,
/// over the root of 1.5 (robust, after Rousseeuw and Croux 1993: 1.4826 makes it a standard deviation).
[[nodiscard]] double noiseOf(std::span<const float> values);

/// The least change between samples that is none: the step of a converter, or of what was written.
[[nodiscard]] double quantumOf(std::span<const float> values);

} // namespace vicegrip::review
