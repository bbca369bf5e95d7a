#include "core/brief/air_method.h"

#include "core/base/phrase.h"
#include "core/brief/atmosphere.h"
#include "core/brief/range.h"
#include "core/electrics/sensor_model.h"
#include "core/units/shown.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::brief {
namespace {

using job::AirMethod;
using units::Dimension;

constexpr double kWarmAir_k = 313.15; ///< typical
constexpr double kSmallOpening = 0.1, kWideOpening = 0.6;

AirMethodView described(AirMethod method)
{
    switch (method) {
    case AirMethod::SpeedDensity:
        return {method,
                phrase("Speed density"),
                phrase("Manifold pressure, air temperature and a table of how well the engine fills give the air."),
                phrase("Nothing in the intake's way, and no flow it cannot read; boost needs the sensor anyway."),
                phrase("The table is this engine's: every change to cams or ports is a new table."),
                {},
                {},
                {}};
    case AirMethod::MassAir:
        return {method,
                phrase("Mass air"),
                phrase("A meter weighs the air itself."),
                phrase("Where a meter is there and reads, it follows changes to the engine by itself."),
                phrase("It ends where its range ends, minds reversing flow and leaks behind it, and sits in the way."),
                {},
                {},
                {}};
    case AirMethod::Hybrid:
        return {method,
                phrase("Hybrid"),
                phrase("The meter at low speed, density above."),
                phrase("Keeps the meter's manners at idle, and density where the meter ends."),
                phrase("Two models to set up, and a hand-over that must not be felt."),
                {},
                {},
                {}};
    case AirMethod::ThrottleAngle:
        return {method,
                phrase("Throttle angle"),
                phrase("Throttle angle and speed give the air, corrected by the barometer."),
                phrase("For engines whose manifold pressure says little: single throttles, wild cams."),
                phrase("Blind to boost and to anything that changes behind the plate; coarse at small openings."),
                {},
                {},
                {}};
    }
    return {};
}

std::string hereText(AirMethod method, const job::Brief& b)
{
    const std::string boost = pressureText(b.target_pa);
    const auto flow = [&] { return units::format(fullLoadAir(b), Dimension::MassFlow, "kg/h", 0); };
    switch (method) {
    case AirMethod::SpeedDensity:
        return b.boosted() ? phrase("Suits: boost of {} is seen by the same sensor.", boost)
                           : phrase("Suits an engine with a common plenum.");
    case AirMethod::MassAir:
        return b.boosted() ? phrase("The meter must reach the flow at {} of boost: reckon with about {} at 6500 rpm.",
                                    boost, flow())
                           : phrase("Reckon with about {} at 6500 rpm.", flow());
    case AirMethod::Hybrid:
        return phrase("Needs both sets of sensors: the most inputs of the four.");
    case AirMethod::ThrottleAngle:
        return b.boosted() ? phrase("Not with boost: the same angle means another mass at every pressure.")
                           : phrase("With one throttle a cylinder this is the usual way.");
    }
    return {};
}

std::string plusMinus(double si, const parts::Part& s, int decimals)
{
    return "± " + units::formatDifference(std::abs(si), s.measures, s.unit, decimals);
}

class Errors
{
  public:
    Errors(const job::Job& job, const job::Brief& brief, const parts::Library& library)
        : m_job(job), m_brief(brief), m_library(library)
    {
    }

    std::vector<FuellingError> all()
    {
        const AirMethod m = m_brief.airMethod;
        if (m == AirMethod::SpeedDensity || m == AirMethod::Hybrid) {
            pressure();
            temperature();
        }
        if (m == AirMethod::MassAir || m == AirMethod::Hybrid)
            meter();
        if (m == AirMethod::ThrottleAngle)
            angle();
        return std::move(m_out);
    }

  private:
    const parts::Part* sensorFor(const char* function) const
    {
        for (const job::Circuit& c : m_job.circuits)
            if (c.function.value == function)
                return job::sensorOf(m_job, c);
        return suggested(*findFunction({function}), m_job, m_library);
    }

    void pressure()
    {
        const parts::Part* s = sensorFor("map");
        if (s == nullptr)
            return;
        const double error = parts::sheetTolerance(*s);
        const double barometer = barometerAt(m_brief.altitude_m);
        const double full = barometer + (m_brief.boosted() ? m_brief.target_pa : 0);
        for (const auto& [where, pa] : {std::pair{key("idle, {}"), kIdle_pa}, std::pair{key("full load, {}"), full}})
            m_out.push_back({s->name, phrase(where, units::format(pa, s->measures, s->unit, 0)),
                             plusMinus(error, *s, 1), error / pa});
    }

    void temperature()
    {
        const parts::Part* s = sensorFor("iat");
        if (s == nullptr)
            return;
        double error = 1; // K, of a conditioned one (typical)
        if (const auto tolerance = parts::resistanceTolerance(*s)) {
            const auto slopes = electrics::elementSlopes(*s, kWarmAir_k);
            error = std::abs(*tolerance * parts::elementValues(*s, kWarmAir_k)[0] / slopes[0]);
        }
        m_out.push_back({s->name, phrase("charge at {}", units::format(kWarmAir_k, s->measures, s->unit, 0)),
                         "± " + units::formatDifference(error, Dimension::TemperatureDifference, "K", 1),
                         error / kWarmAir_k});
    }

    void meter()
    {
        const parts::Part* s = sensorFor("maf");
        if (s == nullptr)
            return;
        double share = 0.03; // of a hot wire (typical)
        if (const auto span = parts::spanOf(*s); span && !span->straight) {
            const double off_v = span->tolerance * std::abs(span->high_v - span->low_v);
            const double idle = s->low + 0.03 * (s->high - s->low);
            const auto slopes = electrics::elementSlopes(*s, idle);
            share = std::abs(off_v / slopes[0]) / idle;
            m_out.push_back({s->name, phrase("idle, {}", units::format(idle, s->measures, s->unit, 0)),
                             "± " + units::formatNumber(off_v * 1e3, 0) + " mV", share});
            const double full = s->low + 0.9 * (s->high - s->low);
            share = std::abs(off_v / electrics::elementSlopes(*s, full)[0]) / full;
            m_out.push_back({s->name, phrase("full load, {}", units::format(full, s->measures, s->unit, 0)),
                             "± " + units::formatNumber(off_v * 1e3, 0) + " mV", share});
            return;
        }
        m_out.push_back({s->name, phrase("any flow"), phrase("± 3 %, typical"), share});
    }

    /// Near shut, air is about in proportion to the opening (from the area of a small gap; from memory).
    void angle()
    {
        const parts::Part* s = sensorFor("tps");
        if (s == nullptr)
            return;
        const auto span = parts::spanOf(*s);
        const double error = span ? span->tolerance : 0.005;
        for (double opening : {kSmallOpening, kWideOpening})
            m_out.push_back({s->name, phrase("opening {}", units::format(opening, Dimension::Ratio, "%", 0)),
                             plusMinus(error, *s, 1), error / opening});
    }

    const job::Job& m_job;
    const job::Brief& m_brief;
    const parts::Library& m_library;
    std::vector<FuellingError> m_out;
};

} // namespace

double fullLoadAir(const job::Brief& b, double rpm)
{
    constexpr double kFilling = 0.95, kGas = 287.05287; // J/(kg K), ISO 2533
    const double p = barometerAt(b.altitude_m) + (b.boosted() ? b.target_pa : 0);
    return kFilling * p * b.displacement_m3 / (kGas * kWarmAir_k) * rpm / 120;
}

std::vector<AirMethodView> airMethods(const job::Job& job, const job::Brief& brief)
{
    std::vector<AirMethodView> out;
    for (AirMethod method :
         {AirMethod::SpeedDensity, AirMethod::MassAir, AirMethod::Hybrid, AirMethod::ThrottleAngle}) {
        AirMethodView view = described(method);
        view.here = hereText(method, brief);
        view.chosen = brief.airMethod == method;
        job::Brief with = brief;
        with.airMethod = method;
        for (const Need& n : needs(with)) {
            if (n.askedBy != "air method")
                continue;
            view.needs.push_back(n.function);
            if (std::ranges::find(job.circuits, n.function, &job::Circuit::function) == job.circuits.end())
                view.missing.push_back(n.function);
        }
        out.push_back(std::move(view));
    }
    return out;
}

std::vector<FuellingError> fuellingErrors(const job::Job& job, const job::Brief& brief, const parts::Library& library)
{
    return Errors(job, brief, library).all();
}

} // namespace vicegrip::brief
