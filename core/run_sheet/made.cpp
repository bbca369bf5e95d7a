#include "core/run_sheet/made.h"

#include "core/base/phrase.h"
#include "core/job/facts.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace vicegrip::run_sheet {

using job::Condition;
using parts::PartUse;

Line& Made::add(std::string id, By by, std::string what, std::initializer_list<const char*> after)
{
    Line line;
    line.id = std::move(id);
    line.section = m_section;
    line.by = by;
    line.what = std::move(what);
    for (const Line& before : m_lines)
        if (before.holds && before.section < m_section)
            line.after.push_back(before.id);
    for (const char* other : after)
        if (has(other))
            line.after.emplace_back(other);
    return m_lines.emplace_back(std::move(line));
}

Line& Made::work(std::string id, std::string what, analysis::Stage stage, proof::State state, std::string reason)
{
    Line& line = add(std::move(id), By::Work, std::move(what));
    line.stage = stage;
    line.worked = state;
    line.workReason = std::move(reason);
    return line;
}

Line* Made::reported(const std::string& id, const job::Circuit& circuit, Condition condition, std::string what)
{
    using proof::StationKind;
    const auto& all = analysis::promises(m_analysis, circuit.id, condition);
    for (const StationKind kind : {StationKind::Value, StationKind::Input})
        for (const proof::Expectation& e : all)
            if (e.station.kind == kind && e.promises()) {
                Line& line = add(id, By::Ecu, std::move(what));
                line.window = e;
                line.circuit = circuit.id;
                line.provesCircuit = true;
                line.remedy = findIt();
                return &line;
            }
    return nullptr;
}

Line& Made::valued(const std::string& id, const job::Circuit& circuit, Condition condition, std::string what,
                   double low, double high, std::string source)
{
    const parts::Part& sensor = *job::sensorOf(job(), circuit);
    Line& line = add(id, By::Ecu, std::move(what));
    proof::Expectation window;
    window.station.key = "value";
    window.station.kind = proof::StationKind::Value;
    window.station.label = circuit.name;
    window.condition = condition;
    window.dimension = sensor.measures;
    window.unit = job::readsWheel(job(), circuit) ? std::string("rpm") : scaling::unitOf(sensor, circuit.scaling);
    window.low = low;
    window.high = high;
    window.due = window.reading(std::isfinite(high) ? (low + high) / 2 : low);
    window.subjects = {job::partSubject(sensor, circuit.device), "input " + circuit.input.value,
                       "scaling " + circuit.id.value};
    line.window = std::move(window);
    line.circuit = circuit.id;
    line.source = std::move(source);
    line.remedy = findIt();
    return line;
}

Line& Made::oil(const std::string& id, Condition condition, std::string what, double least_pa, std::string source)
{
    const job::Circuit* c = sensing("oil-pressure");
    const parts::Part* sensor = c == nullptr ? nullptr : job::sensorOf(job(), *c);
    if (sensor == nullptr || sensor->kind != PartUse::FluidPressure) {
        Line& line = add(id, By::Eyes, std::move(what));
        line.how = phrase("Gauge or lamp.");
        return line;
    }
    const double zero_pa = sensor->measures == units::Dimension::AbsolutePressure ? job().surroundings.barometer_pa : 0;
    return valued(id, *c, condition, std::move(what), zero_pa + least_pa, std::numeric_limits<double>::infinity(),
                  std::move(source));
}

std::vector<Line*> Made::feeds(const std::string& begin, Condition condition, const char* what)
{
    const parts::Ecu& ecu = job().ecu;
    const auto ground = std::ranges::find(ecu.pins, parts::EcuPinRole::PowerGround, &parts::EcuPin::role);
    if (ground == ecu.pins.end())
        return {};
    const size_t first = m_lines.size();
    for (const parts::EcuPin& pin : ecu.pins)
        if (pin.role == parts::EcuPinRole::PowerFeed || pin.role == parts::EcuPinRole::KeyFeed) {
            const auto at = job::PointRef::fromText(pin.at);
            metered(begin + pin.at, phrase(what, job::spoken(job(), at)),
                    m_network.due(condition, at, job::PointRef::fromText(ground->at)));
        }
    std::vector<Line*> out;
    for (size_t i = first; i < m_lines.size(); ++i)
        out.push_back(&m_lines[i]);
    return out;
}

Line* Made::metered(const std::string& id, std::string what, std::optional<proof::Expectation> due)
{
    if (!due)
        return nullptr;
    Line& line = add(id, By::Meter, std::move(what));
    line.source = phrase("this car's network at the worst corner of its tolerances, the meter's error with it");
    line.window = std::move(due);
    return &line;
}

bool Made::has(std::string_view id) const
{
    return std::ranges::find(m_lines, id, &Line::id) != m_lines.end();
}

const job::Circuit* Made::sensing(std::string_view function) const
{
    const auto it = std::ranges::find_if(job().circuits, [&](const job::Circuit& c) {
        return c.function.value == function && !c.input.empty() && job::sensorOf(job(), c) != nullptr;
    });
    return it == job().circuits.end() ? nullptr : &*it;
}

bool Made::drives(PartUse use) const
{
    return std::ranges::any_of(job().circuits, [&](const job::Circuit& c) {
        const parts::Part* part = job::actuatorOf(job(), c);
        return part != nullptr && part->kind == use && !c.output.empty();
    });
}

const job::Circuit* Made::crank() const
{
    const auto it = std::ranges::find_if(job().circuits, [&](const job::Circuit& c) {
        const parts::Part* sensor = job::sensorOf(job(), c);
        return sensor != nullptr && sensor->kind == PartUse::CrankTrigger && !c.input.empty();
    });
    return it == job().circuits.end() ? nullptr : &*it;
}

bool Made::keepsWheel(const job::Circuit& circuit) const
{
    const bool plugIn = job().brief && job().brief->harness != job::HarnessKind::Full;
    return plugIn && (!circuit.trigger || circuit.trigger->wheel.empty());
}

std::vector<std::string> Made::fuelSubjects() const
{
    std::vector<std::string> out;
    for (const job::Circuit& c : job().circuits) {
        const parts::Part* part = job::partOf(job(), c);
        const std::string& f = c.function.value;
        if (part != nullptr && (part->kind == PartUse::Injector || f == "fuel-pressure" || f == "flex" ||
                                f == "fuel-temp" || f == "fuel-level" || f == "fuel-pump"))
            out.push_back(job::partSubject(*part, c.device));
    }
    return out;
}

std::string degreesText(double kelvin)
{
    return units::format(kelvin, units::Dimension::Temperature, "°C", 0);
}

std::string gaugeText(double pa)
{
    return units::format(pa, units::Dimension::GaugePressure, "bar", 1);
}

std::string findIt()
{
    return phrase("F takes this reading to the fault finder, which says where to look.");
}

} // namespace vicegrip::run_sheet
