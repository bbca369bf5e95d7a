#pragma once

#include "core/brief/needs.h"

/// The ways of knowing the air an engine takes, side by side for this engine.
namespace vicegrip::brief {

struct AirMethodView
{
    job::AirMethod method = job::AirMethod::SpeedDensity;
    std::string name;
    std::string how; ///< one sentence
    std::string forIt, againstIt; ///< what the schools say
    std::string here; ///< what speaks for or against it on this engine
    std::vector<job::FunctionId> needs; ///< circuits it asks for, beyond what every engine needs
    std::vector<job::FunctionId> missing; ///< of these, not in the job
    bool chosen = false;
};

/// All four, in the order of the enumeration.
[[nodiscard]] std::vector<AirMethodView> airMethods(const job::Job& job, const job::Brief& brief);

/// The air the engine takes at full load, kg/s: m = VE p V n / (R T) with two turns a filling, 95 % filling and 40 °C
/// charge (typical).
[[nodiscard]] double fullLoadAir(const job::Brief& brief, double rpm = 6500);

/// What a sensor's own error costs in fuelling, by the ideal gas: m = VE p V / (R T), so dm/m = dp/p - dT/T (from the
/// gas law; VE taken as right).
struct FuellingError
{
    std::string sensor; ///< "Manifold pressure, 3 bar ..."
    std::string at; ///< "idle, 35 kPa"
    std::string error; ///< "± 3.0 kPa"
    double share = 0; ///< of the fuel
};

/// For the sensors of the job that enter the fuelling under this method, at the places where they matter. A function
/// without a circuit is judged with the sensor it would get.
[[nodiscard]] std::vector<FuellingError> fuellingErrors(const job::Job& job, const job::Brief& brief,
                                                        const parts::Library& library);

} // namespace vicegrip::brief
