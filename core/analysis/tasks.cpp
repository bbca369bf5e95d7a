#include "core/analysis/tasks.h"

#include "core/base/phrase.h"
#include "core/brief/questions.h"

#include <algorithm>
#include <iterator>

namespace vicegrip::analysis {
namespace {

using job::Condition;
using proof::State;
using proof::StationKind;

/// The first probe station in this state, under whatever condition it was read; null when none is.
const proof::Standing* firstProbe(const proof::CircuitView& view, State state)
{
    for (Condition condition : {Condition::KeyOn, Condition::BatteryOff, Condition::Cranking, Condition::Running})
        for (const proof::Standing& j : proof::stations(view, condition))
            if (j.place.station.kind == StationKind::Probe && j.state == state)
                return &j;
    return nullptr;
}

Task task(Stage stage, const job::Circuit& circuit, const proof::Standing* at, const std::string& what,
          std::string detail)
{
    Task out{stage, circuit.id, {}, circuit.name + ": " + what, std::move(detail)};
    if (at != nullptr) {
        out.station = at->place.station.key;
        out.condition = at->place.condition;
    }
    return out;
}

std::string openTrouble(const proof::CircuitView& view)
{
    for (const proof::Standing& j : proof::stations(view, Condition::KeyOn))
        if (j.place.needed && !j.place.promises())
            return j.place.trouble;
    return {};
}

void addFailing(std::vector<Task>& out, const job::Circuit& c, const proof::CircuitView& view)
{
    if (view.meter != State::Failing)
        return;
    if (const auto* f = firstProbe(view, State::Failing); f != nullptr)
        out.push_back(task(Stage::Meter, c, f, phrase("find the fault"),
                           phrase("{} reads wrong: {}.", f->place.station.label, f->reason)));
    else if (const std::string trouble = openTrouble(view); !trouble.empty())
        out.push_back(task(Stage::Pins, c, nullptr, phrase("finish the wiring"), phrase("As drawn, {}.", trouble)));
}

void addClicks(std::vector<Task>& out, const Analysis& analysis)
{
    for (const clicks::Standing& s : analysis.clicks)
        if (s.state == State::Failing || s.state == State::Stale)
            out.push_back({Stage::Meter, s.circuit, std::string(proof::kClick),
                           phrase("{}: click it again", job::find(*analysis.job, s.circuit)->name),
                           (s.state == State::Stale ? s.reason + "." : s.todo)});
}

void addWiggles(std::vector<Task>& out, const Analysis& analysis)
{
    for (const wiggle::Standing& s : analysis.wiggles)
        if (s.state == State::Failing || s.state == State::Stale) {
            const std::string& name = job::find(*analysis.job, s.circuit)->name;
            out.push_back({Stage::Meter, s.circuit, std::string(proof::kWiggle),
                           s.state == State::Failing ? phrase("{}: mend what comes and goes", name)
                                                     : phrase("{}: move its wires again", name),
                           s.reason + "."});
        }
}

void addTurns(std::vector<Task>& out, const Analysis& analysis)
{
    for (const hand_test::Standing& s : analysis.handTurns)
        if (s.state == State::Failing || s.state == State::Stale)
            out.push_back({Stage::Trigger,
                           s.circuit,
                           {},
                           phrase("{}: turn it by hand again", job::find(*analysis.job, s.circuit)->name),
                           s.state == State::Stale ? s.reason + "." : s.todo});
}

void addCaptures(std::vector<Task>& out, const Analysis& analysis)
{
    for (const decoded::Standing& s : analysis.decoded)
        if (s.state == State::Failing || s.state == State::Stale)
            out.push_back({Stage::Trigger,
                           s.circuit,
                           {},
                           phrase("{}: capture it again", job::find(*analysis.job, s.circuit)->name),
                           s.reason + "."});
}

/// A coil that is wired, and has no other proof than a capture.
void addUncaptured(std::vector<Task>& out, const job::Circuit& c, const proof::CircuitView& view,
                   const Analysis& analysis)
{
    const auto of = std::ranges::find(analysis.decoded, c.id, &decoded::Standing::circuit);
    if (view.meter == State::Done && of != analysis.decoded.end() && of->only && of->state == State::Untouched)
        out.push_back({Stage::Trigger,
                       c.id,
                       {},
                       phrase("{}: capture it on the starter", c.name),
                       phrase("A coil makes volts only while teeth pass it fast: nothing else proves it before the "
                              "first start.")});
}

/// What is buried by and by comes first of what nobody has begun.
void addUnturned(std::vector<Task>& out, const job::Circuit& c, const Analysis& analysis)
{
    const auto of = std::ranges::find(analysis.handTurns, c.id, &hand_test::Standing::circuit);
    if (of != analysis.handTurns.end() && of->byHand && of->state == State::Untouched)
        out.push_back({Stage::Trigger,
                       c.id,
                       {},
                       phrase("{}: turn it by hand", c.name),
                       phrase("Tooth by tooth, before anything is bolted in front of it.")});
}

void addStale(std::vector<Task>& out, const job::Circuit& c, const proof::CircuitView& view)
{
    if (const auto* f = firstProbe(view, State::Stale); f != nullptr && view.meter == State::Stale)
        out.push_back(task(Stage::Meter, c, f, phrase("measure again"), f->reason + "."));
}

void addUntouched(std::vector<Task>& out, const job::Circuit& c, const proof::CircuitView& view)
{
    if (view.meter != State::Untouched)
        return;
    const auto& all = proof::stations(view, Condition::KeyOn);
    const int next = proof::nextStation(all);
    if (next < 0)
        return;
    const proof::Standing& j = all[static_cast<size_t>(next)];
    out.push_back(task(Stage::Meter, c, &j, phrase("prove the wiring"),
                       phrase("Probe {} with the key on.", j.place.station.label)));
}

void addScale(std::vector<Task>& out, const job::Circuit& c, const proof::CircuitView& view)
{
    if (view.meter != State::Done || view.scale == State::Done || view.scale == State::NotNeeded)
        return;
    switch (view.scale) {
    case State::Failing:
        out.push_back(task(Stage::Scale, c, nullptr, phrase("mend the scaling"),
                           view.table ? phrase("The value the ECU sends back is wrong.")
                                      : phrase("No table: {}.", view.tableTrouble)));
        break;
    case State::Stale:
        out.push_back(task(Stage::Scale, c, nullptr, phrase("send the table again"),
                           phrase("What the table rests on has changed.")));
        break;
    default:
        out.push_back(task(Stage::Scale, c, nullptr, phrase("give the ECU its table"),
                           phrase("The wiring is proved. Send the table and see the value come back right.")));
        break;
    }
}

void addUnseated(std::vector<Task>& out, const job::Circuit& c, const proof::CircuitView&)
{
    if (!job::isSeated(c))
        out.push_back(task(Stage::Inputs, c, nullptr, phrase("find it a seat"),
                           phrase("It is {} and has no seat on the ECU.", phrase(fields::enumName(c.want)))));
}

/// Wires in wrong cavities: before anything is measured.
void addWrongPins(std::vector<Task>& out, const Analysis& analysis)
{
    for (const job::Connector& c : analysis.job->connectors)
        for (const pinning::Pin& pin : analysis.pins.at(c.id))
            if (pin.state == pinning::PinState::Wrong)
                out.push_back({Stage::Pins,
                               {},
                               pin.at.text(),
                               phrase("{}: cavity {} is wrong", c.label, pin.at.cavity),
                               pin.trouble});
}

/// A plug at a time: those that are begun, then the others, the ECU's own last, since every wire must be there first.
void addPins(std::vector<Task>& out, const Analysis& analysis)
{
    std::vector<Task> begun, untouched, last;
    for (const job::Connector& c : analysis.job->connectors) {
        const auto& pins = analysis.pins.at(c.id);
        const auto next = pinning::nextPin(pins);
        if (!next || pins[*next].state == pinning::PinState::Wrong ||
            std::ranges::all_of(pins, [](const pinning::Pin& p) { return p.wires.empty(); }))
            continue;
        const auto left = std::ranges::count_if(pins, [](const auto& p) { return !pinning::isDone(p.state); });
        const bool begins = std::ranges::none_of(pins, [](const auto& p) { return p.ticked > 0; });
        auto& list = !begins ? begun : c.kind == job::ConnectorKind::Ecu ? last : untouched;
        list.push_back({Stage::Pins,
                        {},
                        pins[*next].at.text(),
                        phrase(left == 1 ? key("{}: {} cavity to pin") : key("{}: {} cavities to pin"), c.label,
                               std::to_string(left)),
                        phrase("Next is cavity {}.", pins[*next].at.cavity)});
    }
    for (std::vector<Task>* list : {&begun, &untouched, &last})
        std::ranges::move(*list, std::back_inserter(out));
}

/// What the job as a whole still lacks.
void addBrief(std::vector<Task>& out, const job::Job& job)
{
    if (!job.brief) {
        out.push_back({Stage::Brief,
                       {},
                       {},
                       phrase("State what is on the engine"),
                       phrase("The circuits it needs, and the ranges they need, follow from that.")});
        return;
    }
    if (const int open = brief::openQuestions(job); open > 0)
        out.push_back({Stage::Brief,
                       {},
                       {},
                       phrase("Ask the tuner: {}{}", std::to_string(open),
                              (open == 1 ? phrase(" open question") : phrase(" open questions"))),
                       phrase("Agree on them before anything is bought.")});
}

} // namespace

std::vector<Task> tasksOf(const Analysis& analysis)
{
    std::vector<Task> out;
    if (analysis.circuits.empty())
        addBrief(out, *analysis.job);
    const auto each = [&](const auto add) {
        for (const proof::CircuitView& view : analysis.circuits)
            if (const job::Circuit* c = job::find(*analysis.job, view.id))
                add(out, *c, view);
    };
    addWrongPins(out, analysis);
    each(addFailing);
    addClicks(out, analysis);
    addWiggles(out, analysis);
    addTurns(out, analysis);
    addCaptures(out, analysis);
    each(addStale);
    each(addUnseated);
    addPins(out, analysis);
    each([&](std::vector<Task>& tasks, const job::Circuit& c, const proof::CircuitView&) {
        addUnturned(tasks, c, analysis);
    });
    each(addUntouched);
    each([&](std::vector<Task>& tasks, const job::Circuit& c, const proof::CircuitView& view) {
        addUncaptured(tasks, c, view, analysis);
    });
    each(addScale);
    if (!analysis.circuits.empty())
        addBrief(out, *analysis.job);
    return out;
}

} // namespace vicegrip::analysis
