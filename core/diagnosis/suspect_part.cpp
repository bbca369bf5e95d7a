#include "core/diagnosis/suspicions.h"

#include "core/base/phrase.h"

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

void tables(Suspicions& out, const job::Circuit& circuit, const parts::Part& part,
            const std::vector<faults::HeldTable::Point>& table)
{
    if (table.size() < 2 || parts::isDriven(part) || circuit.input.empty())
        return;
    const auto held = [&](auto value, std::string what) {
        faults::HeldTable t{circuit.input, table};
        for (auto& p : t.points)
            p.value = value(p.value);
        out.add({"table", {std::move(t)}, std::move(what), phrase("Give the ECU its table again, at Scale."), {}});
    };
    using units::Dimension;
    const auto kpa = [&](double pa) { return units::differenceToUnit(pa, part.measures, part.unit); };
    if (part.measures == Dimension::AbsolutePressure)
        held([&](double v) { return v - kpa(101325); },
             phrase("The ECU holds a table above the air outside, where absolute was meant"));
    if (part.measures == Dimension::GaugePressure)
        held([&](double v) { return v + kpa(101325); },
             phrase("The ECU holds an absolute table, where above the air outside was meant"));
    if (part.measures == Dimension::Temperature)
        held([](double v) { return v * 1.8 + 32; }, phrase("The ECU holds a table in °F"));
    if (part.measures == Dimension::AbsolutePressure || part.measures == Dimension::GaugePressure) {
        held([](double v) { return v / 6.894757; }, phrase("The ECU holds a table in psi"));
        held([](double v) { return v * 6.894757; }, phrase("The ECU holds a table that takes kPa for psi"));
    }
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
    tables(out, circuit, *part, table);
}

} // namespace vicegrip::diagnosis
