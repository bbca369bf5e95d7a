#include "core/circuit/climb.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::circuit {
namespace {

constexpr int kMostSteps = 12;

/// What a derivative is multiplied with when an element goes to `to`. A resistance is linear in itself on its way down
/// and in its conductance on its way up, nearly: the other way round an open load would seem to move volts without end.
double wayTo(const Element& e, double to)
{
    const double by = to - e.value;
    return e.kind == Element::Kind::Resistor && by > 0 ? by * e.value / to : by;
}

bool switches(const Element& e)
{
    constexpr double kSwitching = 50; ///< from one end to the other: no tolerance goes so far
    return e.kind == Element::Kind::Resistor && e.least > 0 && e.most > kSwitching * e.least;
}

} // namespace

Movers::Movers(const Network& net)
{
    const auto add = [&](Mover m) {
        for (const auto& setting : m.settings) {
            auto& ways = m.ways.emplace_back();
            for (size_t k = 0; k < setting.size(); ++k)
                ways.push_back(wayTo(net.element(m.elements[k]), setting[k]));
        }
        m_all.push_back(std::move(m));
    };
    const auto& elements = net.elements();
    for (size_t i = 0; i < elements.size(); ++i)
        if (elements[i].least != elements[i].most)
            add({{static_cast<ElementIndex>(i)}, {{elements[i].least}, {elements[i].most}}, {}, switches(elements[i])});
    for (const Mover& m : m_all)
        m_singles.push_back({m.elements[0], std::max(std::abs(m.ways[0][0]), std::abs(m.ways[1][0]))});
    for (const Together& t : net.together()) {
        Mover m{{t.elements.begin(), t.elements.end()}, {}, {}, false};
        for (const auto& setting : t.settings)
            m.settings.emplace_back(setting.begin(), setting.end());
        add(std::move(m));
    }
}

std::vector<ElementIndex> Movers::switching() const
{
    std::vector<ElementIndex> out;
    for (size_t i = 0; i < m_singles.size(); ++i)
        if (m_all[i].switches)
            out.push_back(m_singles[i].element);
    return out;
}

/// With Z seen beside it, a reading goes as b / (R + Z): from R to R' it moves by its slope times (R' - R) (R + Z) /
/// (R' + Z). A contact in series with a load moves the load's whole current and not its own few milliohms' worth.
void Movers::setSeen(const Network& net, ElementIndex element, double parallel_ohm)
{
    const auto single = std::ranges::find(m_singles, element, &Single::element);
    const double own = net.element(element).value, share = parallel_ohm / own;
    if (single == m_singles.end() || !(share > 0) || !(share < 1))
        return;
    const double seen = parallel_ohm / (1 - share);
    Mover& m = m_all[static_cast<size_t>(single - m_singles.begin())];
    single->way = 0;
    for (size_t s = 0; s < m.settings.size(); ++s) {
        const double to = m.settings[s][0];
        m.ways[s][0] = (to - own) * (own + seen) / (to + seen);
        single->way = std::max(single->way, std::abs(m.ways[s][0]));
    }
}

std::vector<double> Movers::reaches(const std::vector<double>& slopes) const
{
    std::vector<double> out;
    out.reserve(m_all.size());
    for (const Single& s : m_singles)
        out.push_back(std::abs(slopes[static_cast<size_t>(s.element)]) * s.way);
    for (size_t i = m_singles.size(); i < m_all.size(); ++i)
        out.push_back(std::max(m_all[i].farthest(slopes, 1).second, m_all[i].farthest(slopes, -1).second));
    return out;
}

Climb::Climb(Corner& corner, const std::vector<const Mover*>& movers, const std::vector<double>& slopes, double sign)
    : m_corner(corner), m_movers(movers), m_sign(sign)
{
    size_t place = 0;
    for (const Mover* m : movers) { // where the first order leads
        m_at.push_back(m->farthest(slopes, sign).first);
        m_places.push_back(place);
        place += m->elements.size();
    }
}

double Climb::extreme(const std::vector<size_t>& kicked)
{
    double best = climbed(m_at);
    value(m_at);
    for (const size_t i : kicked) {
        Settings other = m_at;
        other[i] = 1 - other[i];
        const auto state = m_corner.turned(m_places[i], m_movers[i]->settings[other[i]][0]);
        const Settings next = turned(other, state, i); // what the kick makes turn
        if (next == other)
            continue;
        if (value(next) > best)
            best = climbed(m_at = next);
        value(m_at);
    }
    return best;
}

double Climb::value(const Settings& at)
{
    for (size_t i = 0; i < at.size(); ++i) {
        const auto& setting = m_movers[i]->settings[at[i]];
        for (size_t k = 0; k < setting.size(); ++k)
            m_corner.turn(m_places[i] + k, setting[k]);
    }
    return m_sign * m_corner.state().reading;
}

double Climb::climbed(Settings& at)
{
    double best = value(at);
    for (int step = 0; step < kMostSteps; ++step) {
        const double before = best;
        turnBack(at, best);
        trySettings(at, best);
        if (!(best > before))
            break;
        value(at); // where the next signs are taken
    }
    return best;
}

Climb::Settings Climb::turned(const Settings& at, const Corner::State& state, std::optional<size_t> held) const
{
    Settings next = at;
    for (size_t i = 0; i < m_movers.size(); ++i) {
        if (!m_movers[i]->single() || i == held)
            continue;
        const double slope = m_sign * m_corner.slope(state, m_places[i]);
        next[i] = slope > 0 ? 1 : slope < 0 ? 0 : at[i];
    }
    return next;
}

bool Climb::taken(const Settings& there, Settings& at, double& best)
{
    const double found = value(there);
    if (!(found > best))
        return false;
    best = found;
    at = there;
    return true;
}

/// Elements whose sign has turned on the way go to their other end: all at once, or, where that leads back, one by one.
void Climb::turnBack(Settings& at, double& best)
{
    const Settings next = turned(at, m_corner.state());
    if (next == at || taken(next, at, best))
        return;
    for (size_t i = 0; i < at.size(); ++i) {
        if (next[i] == at[i])
            continue;
        Settings one = at;
        one[i] = next[i];
        taken(one, at, best);
    }
}

/// What moves several elements need not lead one way only: every setting is tried.
void Climb::trySettings(Settings& at, double& best)
{
    for (size_t i = 0; i < m_movers.size(); ++i) {
        for (size_t s = 0; !m_movers[i]->single() && s < m_movers[i]->settings.size(); ++s) {
            Settings next = at;
            next[i] = s;
            taken(next, at, best);
        }
    }
}

} // namespace vicegrip::circuit
