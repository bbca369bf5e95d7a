#include "core/engine/figures.h"

namespace vicegrip::engine {

Figures figuresOf(const std::optional<job::Brief>& brief)
{
    if (!brief)
        return {};
    Figures out;
    out.cylinders = brief->cylinders;
    out.displacement_m3 = brief->displacement_m3;
    out.fuel_pa = brief->fuel_pa;
    out.boost_pa = brief->boosted() ? brief->target_pa : 0;
    out.cooled = brief->chargeCooling != job::ChargeCooling::None;
    out.idlesByAir = brief->idle != job::IdleControl::None;
    out.burnsEthanol = brief->fuel == job::Fuel::Ethanol;
    return out;
}

} // namespace vicegrip::engine
