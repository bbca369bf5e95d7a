#include "core/engine/tank.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::engine {
namespace {

void mixIn(fuel::Fill& into, double volume_m3, double ethanol)
{
    const double all_m3 = into.volume_m3 + volume_m3;
    if (all_m3 > 0)
        into.ethanol += (ethanol - into.ethanol) * volume_m3 / all_m3;
    into.volume_m3 = all_m3;
}

} // namespace

Tank::Tank(const Sizes& sizes, const fuel::Fill& in)
    : m_sizes(sizes),
      m_tank{std::max(0.0, in.volume_m3 - sizes.pot_m3), in.ethanol},
      m_pot{std::min(in.volume_m3, sizes.pot_m3), in.ethanol},
      m_line{{sizes.line_m3, in.ethanol}}
{
}

void Tank::pour(const fuel::Fill& fill)
{
    mixIn(m_tank, fill.volume_m3, fill.ethanol);
}

void Tank::hold(double volume_m3)
{
    m_pot.volume_m3 = std::min(volume_m3, m_sizes.pot_m3);
    m_tank.volume_m3 = volume_m3 - m_pot.volume_m3;
}

void Tank::refit(const Sizes& sizes)
{
    if (sizes == m_sizes)
        return;
    const double in_m3 = volume_m3();
    m_sizes = sizes;
    hold(in_m3);
    m_line = {{sizes.line_m3, atSensor()}};
}

void Tank::become(double ethanol)
{
    m_tank.ethanol = m_pot.ethanol = ethanol;
    m_line = {{m_sizes.line_m3, ethanol}};
}

void Tank::pass(double seconds, double pump, double burnt_m3_s)
{
    constexpr double kAtOnce_s = 0.5; // far shorter than a pot takes
    constexpr double kSame = 1e-4; // parcels in the line that are as good as one
    for (double left_s = seconds; left_s > 0; left_s -= kAtOnce_s) {
        const double dt = std::min(left_s, kAtOnce_s);
        const double drawn_m3 = std::min(m_sizes.flow_m3_s * std::clamp(pump, 0.0, 1.0) * dt, m_pot.volume_m3);
        if (!(drawn_m3 > 0))
            return; // the pump stands, or sucks air
        if (std::abs(m_line.back().ethanol - m_pot.ethanol) < kSame)
            m_line.back().volume_m3 += drawn_m3;
        else
            m_line.push_back({drawn_m3, m_pot.ethanol});
        m_pot.volume_m3 -= drawn_m3;
        // What comes out at the other end returns, but for what is burnt.
        double burnt_m3 = std::min(burnt_m3_s * dt, drawn_m3), out_m3 = drawn_m3;
        while (out_m3 > 0) {
            fuel::Fill& first = m_line.front();
            const double piece_m3 = std::min(out_m3, first.volume_m3);
            const double kept_m3 = std::min(piece_m3, burnt_m3);
            burnt_m3 -= kept_m3;
            mixIn(m_tank, piece_m3 - kept_m3, first.ethanol);
            out_m3 -= piece_m3;
            first.volume_m3 -= piece_m3;
            if (m_line.size() == 1)
                break; // what is left is a rounding
            if (first.volume_m3 <= 0)
                m_line.pop_front();
        }
        const double back_m3 = std::min(m_sizes.pot_m3 - m_pot.volume_m3, m_tank.volume_m3);
        mixIn(m_pot, back_m3, m_tank.ethanol);
        m_tank.volume_m3 -= back_m3;
    }
}

} // namespace vicegrip::engine
