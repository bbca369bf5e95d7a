#include "core/diagnosis/suspicions.h"

#include "core/base/phrase.h"
#include "core/base/root.h"
#include "core/scaling/scaling.h"

#include <algorithm>

namespace vicegrip::diagnosis {
namespace {

void settings(Suspicions& out, const job::Job& job, const job::Circuit& circuit)
{
    const parts::EcuInput* input = job::findInput(job, circuit.input);
    const parts::Part* sensor = job::sensorOf(job, circuit);
    if (input == nullptr || sensor == nullptr)
        return;
    for (const parts::InputMode mode : input->modes) {
        parts::EcuInput set = *input;
        set.setTo = mode;
        if (parts::isSetOtherwise(set, *sensor))
            out.add({"setting",
                     {faults::WrongMode{input->id, mode}},
                     phrase("Input {} is set to {}", input->id.value, phrase(fields::enumName(mode))),
                     phrase("Set input {} as Inputs says.", input->id.value),
                     {}});
    }
    if (input->pullUpFixed)
        return;
    const auto set = [&](std::optional<double> ohm) {
        if (ohm != input->pull_up_ohm)
            out.add({"setting",
                     {faults::InputSetting{input->id, ohm}},
                     ohm ? phrase("Input {} is set to a pull-up of {}", input->id.value, units::formatOhms(*ohm))
                         : phrase("The pull-up of input {} is off", input->id.value),
                     phrase("Set input {} as Inputs says.", input->id.value),
                     {}});
    };
    for (const double ohm : input->pullUpChoices_ohm)
        set(ohm);
    if (!input->pullUpChoices_ohm.empty())
        set(std::nullopt);
}

void otherParts(Suspicions& out, const job::Job& job, const job::Circuit& circuit, const parts::Part& part,
                const parts::Library& library)
{
    const job::Device* device = job::find(job, circuit.device);
    if (device == nullptr || parts::isDriven(part))
        return;
    for (const parts::Part& other : library.parts)
        if (other.kind == part.kind && other.id != part.id && other.pins == part.pins &&
            other.measures == part.measures && other.feed == part.feed && !parts::isDriven(other))
            out.add({"other-part",
                     {faults::OtherPart{device->id, other}},
                     phrase("The sensor is another: {}", other.name),
                     phrase("Read the number on the sensor; fit {}, or say at Inputs what is fitted.", part.name),
                     {}});
    out.sized(
        driftSizes(), "drift", {"drift", {}, {}, phrase("Hold it against another instrument, then fit a new one."), {}},
        [&](double share) {
            return faults::Drift{circuit.id, share};
        },
        [&](double share) {
            return phrase("The sensor reads some {} % of its range too {}",
                          units::formatNumber(100 * std::abs(share), 0), share > 0 ? phrase("high") : phrase("low"));
        });
}

/// The value at which another sensor of this kind puts out what this one does at `x`: what a table of the other says.
double asOf(const parts::Part& other, const parts::Part& part, double x)
{
    const double out = parts::elementValues(part, x)[0];
    return rootBetween([&](double y) { return parts::elementValues(other, y)[0] - out; }, other.low, other.high);
}

void tables(Suspicions& out, const job::Circuit& circuit, const parts::Part& part, const parts::Library& library,
            const std::vector<faults::HeldTable::Point>& table)
{
    if (table.size() < 2 || circuit.input.empty() || parts::countsValue(part))
        return;
    using units::Dimension;
    const Dimension measures = part.measures;
    const std::string unit = scaling::unitOf(part, circuit.scaling);
    const auto si = [&](double v) { return units::fromUnit(v, measures, unit); };
    const auto shown = [&](double x) { return units::toUnit(x, measures, unit); };
    const auto held = [&](auto value, std::string what) {
        faults::HeldTable t{circuit.input, table};
        for (auto& p : t.points)
            p.value = value(p.value);
        out.add({"table", {std::move(t)}, std::move(what), phrase("Give the ECU its table again, at Scale."), {}});
    };
    constexpr double kAir_pa = 101325;
    if (measures == Dimension::AbsolutePressure)
        held([&](double v) { return shown(si(v) - kAir_pa); },
             phrase("The ECU holds a table above the air outside, where absolute was meant"));
    if (measures == Dimension::GaugePressure)
        held([&](double v) { return shown(si(v) + kAir_pa); },
             phrase("The ECU holds an absolute table, where above the air outside was meant"));
    if (measures == Dimension::Temperature && unit != "°F")
        held([&](double v) { return units::toUnit(si(v), measures, "°F"); }, phrase("The ECU holds a table in °F"));
    if ((measures == Dimension::AbsolutePressure || measures == Dimension::GaugePressure) && unit != "psi") {
        held([&](double v) { return units::toUnit(si(v), measures, "psi"); }, phrase("The ECU holds a table in psi"));
        held([&](double v) { return shown(units::fromUnit(v, measures, "psi")); },
             phrase("The ECU holds a table that takes {} for psi", unit));
    }
    for (const parts::Part& other : library.parts)
        if (other.kind == part.kind && other.id != part.id && other.measures == measures &&
            other.model.index() == part.model.index() && other.pins.size() == part.pins.size())
            held([&](double v) { return shown(asOf(other, part, si(v))); },
                 phrase("The ECU holds the table of another sensor: {}", other.name));
}

} // namespace

void suspectPart(Suspicions& out, const job::Job& job, const job::Circuit& circuit, const parts::Library& library,
                 const std::vector<faults::HeldTable::Point>& table)
{
    settings(out, job, circuit);
    const parts::Part* part = job::partOf(job, circuit);
    if (part == nullptr || parts::isDriven(*part))
        return;
    otherParts(out, job, circuit, *part, library);
    tables(out, circuit, *part, library, table);
}

} // namespace vicegrip::diagnosis
