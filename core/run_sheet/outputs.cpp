#include "core/base/phrase.h"
#include "core/run_sheet/made.h"

/// Every output switched on by itself, engine stopped.
namespace vicegrip::run_sheet {
namespace {

using parts::PartUse;

std::string cautionOf(PartUse use)
{
    switch (use) {
    case PartUse::Injector:
        return phrase("No fuel pressure: the pump's fuse out, the pressure relieved. A click with pressure floods its "
                      "cylinder, and a flooded cylinder breaks its rod on the starter.");
    case PartUse::IgnitionCoil:
        return phrase("Kilovolts: nobody touches a coil, a lead or a plug, and no fuel vapour is about.");
    case PartUse::Relay:
        return phrase("What it switches starts by itself: fingers, sleeves and leads out of fans and belts.");
    case PartUse::ThrottleMotor:
        return phrase("The plate snaps open and shut: fingers and tools out of it.");
    default:
        return {};
    }
}

} // namespace

void outputs(Made& made)
{
    made.begin(Section::Outputs);
    for (const clicks::Standing& s : made.analysis().clicks) {
        const job::Circuit* c = job::find(made.job(), s.circuit);
        const parts::Part* part = c == nullptr ? nullptr : job::actuatorOf(made.job(), *c);
        if (part == nullptr)
            continue;
        Line& line = made.work("click " + c->id.value, phrase("{} answers its output", c->name), analysis::Stage::Meter,
                               s.state, s.reason);
        line.circuit = c->id;
        line.how = phrase("Meter, Click switches it on by itself; say what was heard.");
        line.caution = cautionOf(part->kind);
        line.remedy = s.todo;
        line.after.emplace_back("awake");
    }
}

} // namespace vicegrip::run_sheet
