#pragma once

#include "core/job/job.h"

#include <string>
#include <utility>
#include <vector>

/// What an ECU that holds no points works a value out by.
namespace vicegrip::scaling {

struct Formula
{
    job::Takes takes = job::Takes::Polynomial; ///< Polynomial or SteinhartHart
    std::vector<double> terms; ///< c0, c1, ... in `unit` over V or Hz; or A, B, C
    units::Dimension measures = units::Dimension::Temperature;
    std::string unit; ///< of the value
    units::Dimension axis = units::Dimension::Voltage; ///< of what the input reads
    double pullUp_ohm = 0, supply_v = 0; ///< what the ECU works the resistance out of; SteinhartHart alone
    bool operator==(const Formula&) const = default;
};

/// The value (SI) that the ECU works out of a reading (V or Hz).
[[nodiscard]] double valueOf(const Formula& formula, double reading);

/// Resistance the ECU takes a reading for, behind its pull-up to `supply_v`.
[[nodiscard]] double ohmsOf(double reading_v, double pullUp_ohm, double supply_v);

/// Name and number of each term, nine digits: {"c1", "75.0123"}.
[[nodiscard]] std::vector<std::pair<std::string, std::string>> termsOf(const Formula& formula);

/// The formula with the units of both sides.
[[nodiscard]] std::string formulaText(const Formula& formula);

/// What the ECU must be told besides; empty: nothing.
[[nodiscard]] std::string needsOf(const Formula& formula);

} // namespace vicegrip::scaling
