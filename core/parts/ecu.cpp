#include "core/parts/ecu.h"

#include "core/base/document.h"
#include "core/base/phrase.h"
#include "core/base/schema_text.h"
#include "core/units/document_range.h"
#include "core/units/units.h"

#include <set>

namespace vicegrip::parts {
namespace {

Result<void> bad(std::string pointer, std::string sentence)
{
    return fail(ErrorCode::Range, std::move(sentence), {{}, std::move(pointer), 0, 0});
}

Result<void> checkInput(const EcuInput& i, const std::string& at)
{
    if (i.modes.empty())
        return bad(at + "/modes", phrase("input {} takes nothing: name at least one mode", i.id.value));
    if (i.setTo && !i.takes(*i.setTo))
        return bad(at + "/set_to", phrase("input {} cannot be set to {}", i.id.value, fields::enumName(*i.setTo)));
    if (i.span_v > i.withstands_v)
        return bad(at + "/span_v", phrase("input {} reads to {} V but withstands only {} V", i.id.value,
                                          units::shortest(i.span_v), units::shortest(i.withstands_v)));
    if (i.takes(InputMode::Frequency) && !(i.most_hz > 0))
        return bad(at + "/most_hz", phrase("input {} takes a frequency: say the highest it counts", i.id.value));
    if (i.pullUpFixed && !i.pull_up_ohm)
        return bad(at + "/pull_up_fixed", phrase("input {} has no pull-up that could be fixed", i.id.value));
    if (!i.inside)
        return {};
    if (!isInside(*i.inside))
        return bad(at + "/inside/feed", phrase("the sensor that input {} has inside is fed inside too", i.id.value));
    auto sense = checkPart(*i.inside);
    if (!sense)
        sense.error().place.pointer = at + "/inside" + sense.error().place.pointer;
    return sense;
}

Result<void> checkOutput(const EcuOutput& o, const std::string& at)
{
    if (o.drives.empty())
        return bad(at + "/drives", phrase("output {} drives nothing: name at least one kind", o.id.value));
    if (o.can(OutputKind::Logic) && !(o.high_v > 0))
        return bad(at + "/high_v", phrase("output {} puts out a logic signal: say its volts", o.id.value));
    if (o.isShared() && o.drives.size() > 1)
        return bad(at + "/drives", phrase("output {} is a bus port: it drives nothing else", o.id.value));
    return {};
}

/// Everything has a name of its own, inputs and outputs alike: a seat is one of them.
Result<std::set<std::string>> checkSeats(const Ecu& ecu)
{
    std::set<std::string> seen;
    for (size_t n = 0; n < ecu.inputs.size(); ++n) {
        const std::string at = "/inputs/" + std::to_string(n);
        if (!seen.insert(ecu.inputs[n].id.value).second)
            return fail(ErrorCode::Reference, phrase("the input \"{}\" is there twice", ecu.inputs[n].id.value),
                        {{}, at, 0, 0});
        if (auto input = checkInput(ecu.inputs[n], at); !input)
            return tl::make_unexpected(input.error());
    }
    for (size_t n = 0; n < ecu.outputs.size(); ++n) {
        const std::string at = "/outputs/" + std::to_string(n);
        if (!seen.insert(ecu.outputs[n].id.value).second)
            return fail(ErrorCode::Reference,
                        phrase("\"{}\" is an input or an output already", ecu.outputs[n].id.value), {{}, at, 0, 0});
        if (auto output = checkOutput(ecu.outputs[n], at); !output)
            return tl::make_unexpected(output.error());
    }
    return seen;
}

} // namespace

std::optional<InputMode> suitingMode(const EcuInput& input, const Part& sensor)
{
    if (input.modes.size() < 2)
        return std::nullopt;
    const SignalKind signal = signalOf(sensor);
    const InputMode wanted = signal == SignalKind::Frequency                                 ? InputMode::Frequency
                             : signal == SignalKind::OnOff && input.takes(InputMode::Switch) ? InputMode::Switch
                                                                                             : InputMode::Analog;
    return input.takes(wanted) ? std::optional(wanted) : std::nullopt;
}

bool isSetOtherwise(const EcuInput& input, const Part& sensor)
{
    const auto wanted = suitingMode(input, sensor);
    const bool switchAsVolts = signalOf(sensor) == SignalKind::OnOff && input.setTo == InputMode::Analog;
    return wanted && input.setTo && *wanted != *input.setTo && !switchAsVolts;
}

const EcuOutput* firstPort(const Ecu& ecu)
{
    const auto it = std::ranges::find_if(ecu.outputs, &EcuOutput::isShared);
    return it == ecu.outputs.end() ? nullptr : &*it;
}

const EcuOutput* findOutput(const Ecu& ecu, const OutputId& id)
{
    const auto it = std::ranges::find(ecu.outputs, id, &EcuOutput::id);
    return it == ecu.outputs.end() ? nullptr : &*it;
}

std::vector<std::string> cavitiesOf(const Ecu& ecu, const OutputId& id)
{
    std::vector<std::string> out;
    for (const EcuPin& pin : ecu.pins)
        if (pin.role == EcuPinRole::Output && pin.output == id)
            out.push_back(pin.at);
    return out;
}

Result<void> checkEcu(const Ecu& ecu)
{
    const auto seen = checkSeats(ecu);
    if (!seen)
        return tl::make_unexpected(seen.error());
    std::set<std::string> cavities, wired;
    for (size_t n = 0; n < ecu.pins.size(); ++n) {
        const EcuPin& pin = ecu.pins[n];
        const std::string at = "/pins/" + std::to_string(n);
        if (!cavities.insert(pin.at).second)
            return fail(ErrorCode::Reference, phrase("cavity {} has two uses", pin.at), {{}, at + "/at", 0, 0});
        if (pin.role == EcuPinRole::Output && findOutput(ecu, pin.output) == nullptr)
            return fail(ErrorCode::Reference, phrase("the ECU has no output \"{}\"", pin.output.value),
                        {{}, at + "/output", 0, 0});
        if (pin.role != EcuPinRole::Input)
            continue;
        const auto input = std::ranges::find(ecu.inputs, pin.input, &EcuInput::id);
        if (input == ecu.inputs.end())
            return fail(ErrorCode::Reference, phrase("the ECU has no input \"{}\"", pin.input.value),
                        {{}, at + "/input", 0, 0});
        if (input->inside)
            return fail(ErrorCode::Reference,
                        phrase("input {} reads the sensor inside: no cavity leads to it", pin.input.value),
                        {{}, at + "/input", 0, 0});
        if (!wired.insert(pin.input.value).second)
            return fail(ErrorCode::Reference, phrase("input {} is on two cavities", pin.input.value),
                        {{}, at + "/input", 0, 0});
    }
    return {};
}

Result<EcuProfile> readEcu(const nlohmann::json& json)
{
    if (auto valid = units::validate(json, kEcuSchema); !valid)
        return tl::make_unexpected(valid.error());
    auto profile = fields::fromJson<EcuProfile>(json);
    if (auto sense = checkEcu(profile.ecu); !sense) {
        sense.error().place.pointer = "/ecu" + sense.error().place.pointer;
        return tl::make_unexpected(sense.error());
    }
    for (size_t n = 0; n < profile.plugs.size(); ++n)
        if (const EcuPlug& plug = profile.plugs[n]; plug.layout)
            if (auto fits = checkCavities(*plug.layout, plug.cavities); !fits) {
                fits.error().place.pointer = "/plugs/" + std::to_string(n) + fits.error().place.pointer;
                return tl::make_unexpected(fits.error());
            }
    std::set<std::string> places;
    for (size_t n = 0; n < profile.plugs.size(); ++n)
        for (const std::string& cavity : profile.plugs[n].cavities)
            if (!places.insert(profile.plugs[n].id + "." + cavity).second)
                return fail(ErrorCode::Reference, phrase("plug {} has cavity {} twice", profile.plugs[n].id, cavity),
                            {{}, "/plugs/" + std::to_string(n), 0, 0});
    for (size_t n = 0; n < profile.ecu.pins.size(); ++n)
        if (!places.contains(profile.ecu.pins[n].at))
            return fail(ErrorCode::Reference, phrase("no plug has a cavity {}", profile.ecu.pins[n].at),
                        {{}, "/ecu/pins/" + std::to_string(n) + "/at", 0, 0});
    return profile;
}

} // namespace vicegrip::parts
