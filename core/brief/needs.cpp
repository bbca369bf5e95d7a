#include "core/brief/needs.h"

#include "core/base/phrase.h"
#include "core/brief/atmosphere.h"
#include "core/brief/driven_needs.h"
#include "core/brief/range.h"
#include "core/harness/edits.h"

#include <algorithm>

namespace vicegrip::brief {
namespace {

using job::AirMethod;
using job::Want;

class Collector
{
  public:
    explicit Collector(const job::Brief& brief) : m_brief(brief) {}

    std::vector<Need> all()
    {
        timing();
        air();
        throttle();
        fuel();
        health();
        driving();
        askDriven(m_brief, [this](const std::string& function, Want want, std::string reason, std::string askedBy) {
            ask(function, want, std::move(reason), std::move(askedBy));
        });
        watched();
        std::ranges::stable_sort(m_needs, {}, &Need::want);
        return std::move(m_needs);
    }

  private:
    /// The strongest want stands; of equals, the first reason.
    void ask(std::string_view function, Want want, std::string reason, std::string askedBy)
    {
        const auto there = std::ranges::find(m_needs, function, [](const Need& n) { return n.function.value; });
        if (there == m_needs.end())
            m_needs.push_back({{std::string(function)}, want, std::move(reason), std::move(askedBy)});
        else if (want < there->want)
            *there = {{std::string(function)}, want, std::move(reason), std::move(askedBy)};
    }

    void timing()
    {
        ask("crank", Want::Required, phrase("ignition and injection are timed by it"), phrase("every engine"));
        if (m_brief.ignition == job::Ignition::Sequential)
            ask("cam", Want::Required,
                phrase("the ECU must know which of two turns it is to fire one cylinder at a time"),
                phrase("ignition"));
        else if (m_brief.ignition == job::Ignition::Distributor)
            ask("cam", Want::Preferred,
                phrase("a distributor finds the cylinder itself; sequential injection would need it"),
                phrase("ignition"));
        else
            ask("cam", Want::Wanted, phrase("sequential injection needs it; wasted spark runs without"),
                phrase("ignition"));
    }

    void air()
    {
        const AirMethod method = m_brief.airMethod;
        const bool density = method == AirMethod::SpeedDensity || method == AirMethod::Hybrid;
        if (density) {
            ask("map", Want::Required, phrase("the air is worked out from manifold pressure"), phrase("air method"));
            ask("iat", Want::Required, phrase("the air's density falls by about a third of a percent per kelvin"),
                phrase("air method"));
        }
        if (method == AirMethod::MassAir || method == AirMethod::Hybrid)
            ask("maf", Want::Required, phrase("the air is metered"), phrase("air method"));
        if (method == AirMethod::ThrottleAngle) {
            ask("tps", Want::Required, phrase("the air is read off throttle angle and speed"), phrase("air method"));
            ask("baro", Want::Required, phrase("throttle angle alone does not know the altitude"),
                phrase("air method"));
        }
        if (m_brief.boosted()) {
            ask("map", Want::Required, phrase("boost must be seen to be limited"), phrase("aspiration"));
            ask("iat", Want::Required, phrase("hot charge knocks: timing follows its temperature"),
                phrase("aspiration"));
            if (m_brief.throttle == job::ThrottleKind::ByWire)
                ask("charge-pressure", Want::Wanted, phrase("by-wire plates are placed by the pressure on both sides"),
                    phrase("aspiration"));
            if (m_brief.altitude_m >= 1500)
                ask("baro", Want::Wanted,
                    phrase("the turbine works harder in thin air; boost is judged against the barometer"),
                    phrase("altitude"));
        }
        ask("iat", Want::Wanted, phrase("timing follows the charge's temperature"), phrase("every engine"));
        if (m_brief.chargeCooling == job::ChargeCooling::Water)
            ask("charge-coolant", Want::Wanted, phrase("a stopped water pump shows here first"),
                phrase("charge cooling"));
    }

    void throttle()
    {
        ask("tps", Want::Required, phrase("acceleration fuelling, overrun cut and idle need the throttle"),
            phrase("throttle"));
        if (m_brief.throttle != job::ThrottleKind::ByWire)
            return;
        ask("tps2", Want::Required, phrase("a driven plate is watched by two tracks that must agree"),
            phrase("throttle"));
        ask("pedal1", Want::Required, phrase("the driver's wish comes from the pedal alone"), phrase("throttle"));
        ask("pedal2", Want::Required, phrase("two pedal tracks must agree before the plate may open"),
            phrase("throttle"));
        ask("brake", Want::Required, phrase("brake and pedal together close the plate"), phrase("throttle"));
        if (m_brief.gearbox == job::Gearbox::Manual)
            ask("clutch", Want::Wanted, phrase("revolutions are held while the clutch is down"), phrase("throttle"));
    }

    void fuel()
    {
        ask("clt", Want::Required, phrase("a cold engine needs more fuel, and a hot one protection"),
            phrase("every engine"));
        ask("wideband", m_brief.fuel == job::Fuel::Petrol ? Want::Wanted : Want::Required,
            m_brief.fuel == job::Fuel::Petrol ? phrase("the tuner sets mixture by it, and the driver is warned by it")
                                              : phrase("with ethanol in the tank the mixture must be seen"),
            phrase("fuel"));
        if (m_brief.fuel == job::Fuel::Flex)
            ask("flex", Want::Required, phrase("fuelling and timing follow the ethanol in the tank"), phrase("fuel"));
        if (m_brief.fuel != job::Fuel::Petrol || m_brief.boosted())
            ask("fuel-pressure", Want::Wanted,
                m_brief.boosted() ? phrase("a pump that cannot hold pressure in boost leans the engine out")
                                  : phrase("ethanol takes about a third more fuel through the same pump"),
                m_brief.boosted() ? phrase("aspiration") : phrase("fuel"));
        if (!m_brief.banks.empty())
            ask("wideband2", Want::Preferred, phrase("each bank has a mixture of its own"), phrase("banks"));
    }

    void health()
    {
        if (m_brief.boosted())
            ask("oil-pressure", Want::Wanted, phrase("a turbocharger dies first when oil pressure goes"),
                phrase("aspiration"));
    }

    void driving()
    {
        if (m_brief.idle == job::IdleControl::Valve || m_brief.idle == job::IdleControl::Stepper)
            ask("speed", Want::Preferred, phrase("idle control waits until the car stands"), phrase("idle control"));
        if (m_brief.gearbox == job::Gearbox::Automatic) {
            ask("speed", Want::Required, phrase("shifts are timed by road speed"), phrase("gearbox"));
            ask("gearbox-temp", Want::Wanted, phrase("converter and oil suffer first"), phrase("gearbox"));
        }
        if (m_brief.gearbox == job::Gearbox::Sequential) {
            ask("gear", Want::Required, phrase("ignition is cut for a shift by the barrel's position"),
                phrase("gearbox"));
            ask("speed", Want::Wanted, phrase("gear and road speed check each other"), phrase("gearbox"));
        }
    }

    void watched()
    {
        for (const std::string& id : m_brief.watch)
            if (findFunction({id}) != nullptr)
                ask(id, Want::Wanted, phrase("it is to be watched"), phrase("what must be watched"));
    }

    const job::Brief& m_brief;
    std::vector<Need> m_needs;
};

bool names(const std::vector<std::string>& list, const job::FunctionId& function)
{
    return std::ranges::find(list, function.value) != list.end();
}

std::vector<job::CircuitId> circuitsOf(const job::Job& job, const job::FunctionId& function)
{
    std::vector<job::CircuitId> out;
    for (const job::Circuit& c : job.circuits)
        if (c.function == function)
            out.push_back(c.id);
    return out;
}

/// With the bank behind it, where it belongs to one.
std::string nameOf(const job::FunctionId& function, const job::Brief& brief)
{
    const Function* f = findFunction(function);
    const std::string name = f == nullptr ? function.value : phrase(f->name), bank = bankOfDriven(function, brief);
    return bank.empty() ? name : name + ", " + bank;
}

} // namespace

std::vector<Need> needs(const job::Brief& brief)
{
    return Collector(brief).all();
}

std::string_view standingName(Standing standing)
{
    switch (standing) {
    case Standing::There:
        return key("there");
    case Standing::Added:
        return key("added");
    case Standing::Changing:
        return key("another part");
    case Standing::Declined:
        return key("taken out by you");
    case Standing::Leaving:
        return key("no longer needed");
    case Standing::Kept:
        return key("kept by you");
    case Standing::Own:
        return key("your own");
    }
    return {};
}

std::vector<Consequence> consequences(const job::Job& job, const job::Brief& brief)
{
    std::vector<Consequence> out;
    const std::vector<Need> asked = needs(brief);
    for (const Need& n : asked) {
        Consequence c{n.function, nameOf(n.function, brief),  n.want, Standing::There, n.reason,
                      n.askedBy,  circuitsOf(job, n.function)};
        if (c.circuits.empty())
            c.standing = names(brief.declined, n.function) ? Standing::Declined : Standing::Added;
        for (const job::CircuitId& id : c.circuits)
            if (std::string against = speaksAgainst(*job::partOf(job, *job::find(job, id)), brief); !against.empty()) {
                c.standing = Standing::Changing;
                c.reason = std::move(against);
            }
        out.push_back(std::move(c));
    }
    const auto isAsked = [&](const job::FunctionId& f) {
        return std::ranges::find(asked, f, &Need::function) != asked.end();
    };
    for (const job::Circuit& c : job.circuits) {
        if (isAsked(c.function))
            continue;
        Consequence own{c.function, c.name, c.want, Standing::Own, {}, {}, {c.id}};
        if (names(brief.drawn, c.function)) {
            own.standing = names(brief.kept, c.function) ? Standing::Kept : Standing::Leaving;
            own.reason = phrase("nothing asks for it any more");
        } else if (names(brief.kept, c.function)) {
            own.standing = Standing::Kept;
        }
        out.push_back(std::move(own));
    }
    return out;
}

void setAltitude(job::Job& job, double altitude_m)
{
    if (!job.brief)
        job.brief.emplace();
    job.brief->altitude_m = altitude_m;
    job.surroundings.barometer_pa = barometerAt(altitude_m);
}

namespace {

Result<void> changeParts(job::Job& job, const Consequence& c, const parts::Library& library)
{
    const parts::Part* part = suggested(*findFunction(c.function), job, library);
    if (part == nullptr || !speaksAgainst(*part, *job.brief).empty())
        return {}; // the library has none that is what the facts say: the reason stays in the list
    for (const job::CircuitId& id : c.circuits)
        if (!speaksAgainst(*job::partOf(job, *job::find(job, id)), *job.brief).empty())
            if (auto out = harness::setSensor(job, id, *part); !out)
                return out;
    return {};
}

} // namespace

Result<void> apply(job::Job& job, const parts::Library& library)
{
    if (!job.brief)
        return {};
    const std::vector<Consequence> all = consequences(job, *job.brief);
    job.brief->drawn.clear();
    for (const Consequence& c : all) {
        if (c.standing == Standing::Leaving)
            for (const job::CircuitId& id : c.circuits)
                if (auto out = harness::removeCircuit(job, id); !out)
                    return out;
        const bool there = c.standing == Standing::There || c.standing == Standing::Changing;
        if (there || c.standing == Standing::Added)
            job.brief->drawn.push_back(c.function.value);
        for (const job::CircuitId& id : there ? c.circuits : std::vector<job::CircuitId>{})
            job::find(job, id)->want = c.want;
        if (c.standing == Standing::Changing)
            if (auto out = changeParts(job, c, library); !out)
                return out;
        if (c.standing != Standing::Added)
            continue;
        const Function* f = findFunction(c.function);
        const parts::Part* sensor = suggested(*f, job, library);
        if (sensor == nullptr)
            continue;
        job::Circuit* drawn = job::find(job, harness::addCircuit(job, c.function, c.name, c.want, *sensor));
        if (f->low < f->high && f->low < sensor->high && f->high > sensor->low) {
            drawn->scaling.low = std::max(f->low, sensor->low);
            drawn->scaling.high = std::min(f->high, sensor->high);
        }
    }
    harness::proposeFaces(job, library.layouts);
    return {};
}

Result<void> decline(job::Job& job, const job::CircuitId& circuit)
{
    const job::Circuit* c = job::find(job, circuit);
    const job::FunctionId function = c == nullptr ? job::FunctionId{} : c->function;
    auto out = harness::removeCircuit(job, job::CircuitId(circuit));
    const bool known = !job.brief || function.empty() || names(job.brief->declined, function);
    if (out && !known && circuitsOf(job, function).empty())
        job.brief->declined.push_back(function.value);
    return out;
}

} // namespace vicegrip::brief
