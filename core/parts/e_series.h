#pragma once

#include <vector>

/// Preferred resistances, IEC 60063.
namespace vicegrip::parts {

enum class ESeries { E24 = 24, E96 = 96 };

/// Every value of the series from `low_ohm` to `high_ohm`, rising.
[[nodiscard]] std::vector<double> preferredValues(ESeries series, double low_ohm, double high_ohm);

/// The value of the series nearest to `ohm` on a logarithmic scale; `ohm` above 0.
[[nodiscard]] double nearestValue(ESeries series, double ohm);

} // namespace vicegrip::parts
