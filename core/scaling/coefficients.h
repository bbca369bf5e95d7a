#pragma once

#include "core/scaling/polynomial.h"

#include <functional>

/// An input's scaling for an ECU that takes a formula in place of a table.
namespace vicegrip::scaling {

enum class Form {
    Polynomial, ///< value = c0 + c1 x + c2 x^2 ..., x what the input reads; of degree 1: slope and offset
    SteinhartHart ///< 1/T = A + B ln R + C (ln R)^3, for an ECU that works the resistance out of its own pull-up
};

struct Coefficients
{
    std::string formula; ///< with the units of both sides
    std::vector<std::pair<std::string, double>> terms; ///< name and number, in the formula's order
    double worst = 0; ///< largest error over the range, in the value's SI unit
    std::string needs; ///< what the ECU must know besides; empty: nothing
    std::function<double(double value)> shows; ///< what the ECU makes of it where the sensor feels this, both SI
};

/// `degree` counts for Polynomial alone. Errors (Range): the sensor is no thermistor, and those of polynomialOf and
/// fit::fitThermistor.
[[nodiscard]] Result<Coefficients> coefficientsOf(Form form, int degree, const Transfer& transfer,
                                                  const parts::Sensor& sensor, const parts::EcuInput& input,
                                                  const job::ScalingSpec& spec);

/// "c1<tab>-23.4" a line, nine digits, for the clipboard and a terminal.
[[nodiscard]] std::string toLines(const Coefficients& coefficients);

} // namespace vicegrip::scaling
