#include "core/pinning/pinning.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <string_view>
#include <unordered_map>

namespace vicegrip::pinning {
namespace {

using job::PointRef;

const parts::Cavity* placeOf(const std::vector<parts::Cavity>& places, const std::string& cavity)
{
    const auto it = std::ranges::find(places, cavity, &parts::Cavity::name);
    return it == places.end() ? nullptr : &*it;
}

const job::Pinned* record(const job::Job& job, const PointRef& at)
{
    const auto it = std::ranges::find(job.pinned, at, &job::Pinned::at);
    return it == job.pinned.end() ? nullptr : &*it;
}

/// The record of a cavity for the wires that belong there now.
job::Pinned& recordFor(job::Job& job, const PointRef& at, const std::string& when)
{
    std::vector<job::WireId> wires;
    for (const job::Wire& w : job.wires)
        if (w.from == at || w.to == at)
            wires.push_back(w.id);
    auto it = std::ranges::find(job.pinned, at, &job::Pinned::at);
    if (it == job.pinned.end()) {
        job.pinned.push_back({at, wires, 0, {}, when});
        return job.pinned.back();
    }
    if (it->wires != wires)
        *it = {at, wires, 0, {}, when};
    it->when = when;
    return *it;
}

PinState stateOf(Pin& pin, const job::Pinned* record)
{
    const bool blank = pin.wires.empty();
    if (record != nullptr && record->wires != pin.wires) {
        pin.ticked = 0;
        pin.trouble = blank                   ? phrase("A wire was pinned here that is no longer drawn: take it out.")
                      : record->wires.empty() ? phrase("A blank plug sits where a wire belongs now: take it out.")
                                              : phrase("Another wire was pinned here than is drawn now: take it out.");
        return PinState::Wrong;
    }
    pin.ticked = record == nullptr ? 0 : std::min(record->steps, static_cast<int>(pin.steps.size()));
    if (blank)
        return pin.steps.empty() ? PinState::Open : pin.next() == nullptr ? PinState::BlankIn : PinState::BlankDue;
    if (pin.next() != nullptr)
        return pin.ticked == 0 ? PinState::Planned : PinState::InHand;
    if (record->counted.empty())
        return PinState::Seated;
    if (record->counted != pin.at.cavity) {
        pin.trouble =
            phrase("The second count led to cavity {}: it belongs in {}. Take it out, and look at what {} holds.",
                   record->counted, pin.at.cavity, record->counted);
        return PinState::Wrong;
    }
    return PinState::Counted;
}

bool isCavity(const job::Job& job, const PointRef& at)
{
    const job::Connector* connector = job::findConnector(job, at.owner);
    return connector != nullptr && std::ranges::find(connector->cavities, at.cavity) != connector->cavities.end();
}

Result<void> noCavity(const PointRef& at)
{
    return fail(ErrorCode::Reference, phrase("no plug has a cavity {}", at.text()));
}

/// What ends in a plug and what was done there, by cavity.
struct Held
{
    struct Wires
    {
        std::vector<job::WireId> ids;
        double thinnest_m2 = 0; ///< a crimp holds least of it
    };
    std::map<std::string_view, Wires> wires;
    std::map<std::string_view, const job::Pinned*> records;

    void add(const PointRef& end, const job::Wire& w)
    {
        Wires& there = wires[end.cavity];
        there.thinnest_m2 = there.ids.empty() ? w.area_m2 : std::min(there.thinnest_m2, w.area_m2);
        there.ids.push_back(w.id);
    }
    void add(const job::Pinned& p) { records.try_emplace(p.at.cavity, &p); }
};

std::vector<Pin> pinsOf(const job::Connector& connector, const Held& held)
{
    const parts::Layout face = job::faceOf(connector);
    const std::vector<parts::Cavity> places = parts::cavities(face);
    const bool wired = !held.wires.empty(); // what is left open of a plug is known once it has wires
    std::vector<Pin> out;
    for (const std::string& cavity : connector.cavities) {
        Pin& pin = out.emplace_back();
        pin.at = {connector.id, cavity};
        const auto wires = held.wires.find(cavity);
        const auto done = held.records.find(cavity);
        const job::Pinned* record = done == held.records.end() ? nullptr : done->second;
        const parts::Cavity* place = placeOf(places, cavity);
        const parts::TerminalFamily* family =
            place != nullptr && place->terminal != nullptr ? place->terminal : &face.terminals.front();
        if (wires != held.wires.end()) {
            pin.wires = wires->second.ids;
            pin.steps = cavitySteps(*family, wires->second.thinnest_m2);
        } else if (family->sealed && (wired || record != nullptr))
            pin.steps = blankSteps();
        pin.state = stateOf(pin, record);
    }
    return out;
}

} // namespace

std::vector<Pin> pinsOf(const job::Job& job, const job::Connector& connector)
{
    const auto at = [&](const PointRef& p) { return p.owner == connector.id; };
    Held held;
    for (const job::Wire& w : job.wires)
        for (const PointRef* end : {&w.from, &w.to})
            if (at(*end))
                held.add(*end, w);
    for (const job::Pinned& p : job.pinned)
        if (at(p.at))
            held.add(p);
    return pinsOf(connector, held);
}

Pins pinsOf(const job::Job& job)
{
    std::unordered_map<std::string_view, Held> held;
    for (const job::Wire& w : job.wires)
        for (const PointRef* end : {&w.from, &w.to})
            held[end->owner].add(*end, w);
    for (const job::Pinned& p : job.pinned)
        held[p.at.owner].add(p);
    Pins out;
    for (const job::Connector& c : job.connectors)
        out[c.id] = pinsOf(c, held[c.id]);
    return out;
}

bool isDone(PinState state)
{
    return state == PinState::Open || state == PinState::BlankIn || state == PinState::Counted;
}

std::optional<size_t> nextPin(const std::vector<Pin>& pins)
{
    for (PinState first : {PinState::Wrong, PinState::InHand, PinState::Seated, PinState::Planned, PinState::BlankDue})
        if (const auto it = std::ranges::find(pins, first, &Pin::state); it != pins.end())
            return static_cast<size_t>(it - pins.begin());
    return std::nullopt;
}

Result<void> tick(job::Job& job, const PointRef& at, const std::string& when)
{
    const job::Connector* connector = job::findConnector(job, at.owner);
    if (connector == nullptr)
        return noCavity(at);
    const std::vector<Pin> pins = pinsOf(job, *connector);
    const auto pin = std::ranges::find(pins, at, &Pin::at);
    if (pin == pins.end())
        return noCavity(at);
    if (pin->next() == nullptr)
        return fail(ErrorCode::Range, phrase("nothing is left to tick at {}", job::spoken(job, at)));
    const int steps = ++recordFor(job, at, when).steps;
    if (steps == static_cast<int>(pin->steps.size()))
        job::note(job, when, at.text(),
                  phrase(pin->wires.empty() ? key("{}: blank plug in") : key("{}: seated"), job::spoken(job, at)));
    return {};
}

Result<void> untick(job::Job& job, const PointRef& at)
{
    const auto it = std::ranges::find(job.pinned, at, &job::Pinned::at);
    if (it == job.pinned.end())
        return fail(ErrorCode::Range, phrase("nothing is ticked at {}", job::spoken(job, at)));
    it->counted.clear();
    if (--it->steps <= 0)
        job.pinned.erase(it);
    return {};
}

Result<void> count(job::Job& job, const PointRef& at, const std::string& cavity, const std::string& when)
{
    if (!isCavity(job, at))
        return noCavity(at);
    recordFor(job, at, when).counted = cavity;
    job::note(job, when, at.text(),
              cavity == at.cavity ? phrase("{}: counted again, right", job::spoken(job, at))
                                  : phrase("{}: the second count led to cavity {}", job::spoken(job, at), cavity));
    return {};
}

Result<void> pullOut(job::Job& job, const PointRef& at, const std::string& when)
{
    if (record(job, at) == nullptr)
        return fail(ErrorCode::Range, phrase("nothing is in {}", job::spoken(job, at)));
    job::note(job, when, at.text(), phrase("{}: taken out", job::spoken(job, at)));
    std::erase_if(job.pinned, [&](const job::Pinned& p) { return p.at == at; });
    return {};
}

Result<std::string> countTyped(const parts::Layout& layout, parts::Face face, std::string_view typed)
{
    const auto expected = [](std::string sentence) -> Result<std::string> {
        return fail(ErrorCode::Malformed, std::move(sentence));
    };
    std::vector<int> numbers;
    std::string word, letters;
    bool fromRight = false;
    for (char c : std::string(typed) + " ") {
        const bool part = (c >= '0' && c <= '9') || (c >= 'A' && c <= 'Z') || (c >= 'a' && c <= 'z');
        if (part) {
            word += c;
            continue;
        }
        if (const auto n = parts::cavityNumber(false, word))
            numbers.push_back(*n);
        else if (word == "right" || word == "r")
            fromRight = true;
        else if (layout.letters && parts::cavityNumber(true, word))
            letters = word;
        else if (!word.empty() && word != "row" && word != "left" && word != "l")
            return expected(phrase("\"{}\" is not understood: expected a row and a place, such as 2 6", word));
        word.clear();
    }
    std::string cavity = letters;
    if (numbers.size() == 1 && letters.empty())
        cavity = std::to_string(numbers[0]);
    else if (numbers.size() == 2) {
        int fromLeft = numbers[1];
        for (const parts::Cavity& c : parts::cavities(layout))
            if (fromRight && c.row == numbers[0] - 1)
                if (const auto there = parts::countOf(layout, c.name, face); there->fromRight == numbers[1])
                    fromLeft = there->fromLeft;
        cavity = parts::countedTo(layout, face, numbers[0], fromLeft);
        if (cavity.empty())
            return expected(phrase("there is no place {} in row {} of this face", std::to_string(numbers[1]),
                                   std::to_string(numbers[0])));
    }
    if (cavity.empty())
        return expected(phrase("expected a row and a place, such as 2 6, or the number read off the part"));
    if (!parts::countOf(layout, cavity, face))
        return expected(phrase("this face has no cavity {}", cavity));
    return cavity;
}

std::string otherEnds(const job::Job& job, const Pin& pin)
{
    std::string out;
    for (const job::Wire& w : job.wires)
        if (std::ranges::find(pin.wires, w.id) != pin.wires.end())
            out += (out.empty() ? "" : ", ") + job::spoken(job, w.from == pin.at ? w.to : w.from);
    return out;
}

} // namespace vicegrip::pinning
