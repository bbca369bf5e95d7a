#include "core/brief/questions.h"

#include "core/base/phrase.h"
#include "core/brief/atmosphere.h"
#include "core/parts/kind.h"
#include "core/units/units.h"

#include <algorithm>

namespace vicegrip::brief {
namespace {

/// What the crank's sensor settles of the edge and of its input; the rest is the tuner's.
std::string wheelMatters(const job::Job& job)
{
    const auto crank = std::ranges::find_if(job.circuits, [&](const job::Circuit& c) {
        const parts::Part* sensor = job::sensorOf(job, c);
        return sensor != nullptr && sensor->kind == parts::PartUse::CrankTrigger;
    });
    const std::string spark = phrase("Every spark is counted from it.");
    if (crank == job.circuits.end())
        return spark;
    const parts::Part& sensor = *job::sensorOf(job, *crank);
    const auto edge = job::sharpEdge(sensor);
    if (!edge)
        return phrase("{} A box between makes the edges: its own sheet says which one is a tooth's.", spark);
    const std::string sharp = phrase(fields::enumName(*edge));
    return parts::traitsOf(sensor).alternating
               ? phrase("{} A coil here: the {} edge, over the middle of a tooth, on an input for coils or behind a "
                        "conditioner; which wire is positive decides it.",
                        spark, sharp)
               : phrase("{} An open collector here: the {} edge is the sharp one, and a pull-up makes its high level.",
                        spark, sharp);
}

} // namespace

std::vector<Question> questions(const job::Brief& b, const job::Job& job)
{
    std::vector<Question> out;
    const auto ask = [&](const char* id, std::string text, std::string why) {
        const auto answer = b.answers.find(id);
        out.push_back(
            {id, std::move(text), std::move(why), answer == b.answers.end() ? std::string() : answer->second});
    };
    ask("who", phrase("Who tunes it, and from what: logs sent over, a visit, a dynamometer?"),
        phrase("What is measured and how it is handed over follows from it."));
    ask("firmware", phrase("Which firmware will be on the ECU, and who loads it?"),
        phrase("Inputs, tables and expanders differ from one to the next."));
    ask("air", phrase("Is the air method right for the map that will be loaded?"),
        phrase("Sensors bought for another method are money lost."));
    ask("wheel", phrase("Which wheel does the crank have, which edge counts, where is its gap at top dead centre?"),
        wheelMatters(job));
    if (b.boosted())
        ask("boost",
            phrase("Is {} of boost with {} of overshoot what the map will ask for?", pressureText(b.target_pa),
                   pressureText(b.overshoot_pa)),
            phrase("The pressure sensor's range is chosen by it."));
    if (b.fuel != job::Fuel::Petrol)
        ask("fuel", phrase("Is the calibration ready for ethanol, and what runs until it is loaded?"),
            phrase("Until the tune is loaded, keep to the fuel tuned for: a blend the calibration is not ready for can "
                   "hole a piston."));
    if (b.fuel == job::Fuel::Flex)
        ask("baseline", phrase("What does the correction read on today's pump fuel?"),
            phrase("Pump petrol holds some ethanol already; the correction must start at 100 % on it."));
    ask("scalings", phrase("Does the tuner want sensor tables from here, or send them?"),
        phrase("Two scalings for one sensor are one too many."));
    if (b.throttle == job::ThrottleKind::ByWire)
        ask("by-wire", phrase("Who sets the plate's limits, and with which safety cuts?"),
            phrase("A driven plate that is set up wrong opens by itself."));
    if (b.airMethod == job::AirMethod::MassAir || b.airMethod == job::AirMethod::Hybrid)
        ask("meter", phrase("Which meter, and is its curve known?"),
            phrase("A curve for another housing is wrong everywhere."));
    if (!job.expanders.empty())
        ask("expander", phrase("Does the firmware listen to the expander, and at which CAN identifiers?"),
            phrase("Its inputs do not exist for the ECU otherwise."));
    ask("knock", phrase("Are knock sensors kept?"),
        phrase("Kept, they pull timing as a fail-safe; deleted, they must be deleted in the calibration too, or it "
               "sets a code."));
    ask("rules", phrase("Which emission and road rules apply where it will be driven?"),
        phrase("They are local: ask before removing anything they cover."));
    return out;
}

int openQuestions(const job::Job& job)
{
    if (!job.brief)
        return 0;
    const auto all = questions(*job.brief, job);
    return static_cast<int>(std::ranges::count_if(all, [](const Question& q) { return q.answer.empty(); }));
}

} // namespace vicegrip::brief
