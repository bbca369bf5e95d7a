#pragma once

#include "core/base/fields.h"
#include "core/job/drawing.h"
#include "core/job/reading.h"

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

/// What a job remembers of the work: readings, what hands have done, and the logbook.
namespace vicegrip::job {

using CircuitId = Id<struct CircuitTag>;

enum class ReadingSource { Typed, Meter, Ecu };

/// The facts a reading rests on. They are written once and never change: every version of the job shares them.
class RestsOn
{
  public:
    using Facts = std::map<std::string, std::string>;

    RestsOn() = default;
    explicit RestsOn(Facts facts) : m_facts(std::make_shared<const Facts>(std::move(facts))) {}

    [[nodiscard]] const Facts& facts() const
    {
        static const Facts kNone;
        return m_facts == nullptr ? kNone : *m_facts;
    }
    bool operator==(const RestsOn& other) const { return m_facts == other.m_facts || facts() == other.facts(); }

  private:
    std::shared_ptr<const Facts> m_facts;
};

/// A reading that was taken, with what was promised then and what it rests on. `station` is a PointRef's text, or
/// "input", "counts", "value" for what the ECU reports.
struct Proof
{
    CircuitId circuit;
    std::string station;
    Reading reading;
    double expected = 0, low = 0, high = 0; ///< SI; infinite where open was due, or as good
    ReadingSource source = ReadingSource::Typed;
    std::string when; ///< ISO 8601, UTC
    RestsOn restsOn;
    nlohmann::json extra = nlohmann::json::object();

    [[nodiscard]] bool passes() const { return reading.si() >= low && reading.si() <= high; }
    bool operator==(const Proof&) const = default;
};

/// An output that was switched on by itself, with the engine stopped, and what answered.
struct Click
{
    CircuitId circuit; ///< whose output it is
    std::vector<CircuitId> answered; ///< none: nothing did
    std::string when; ///< ISO 8601, UTC
    RestsOn restsOn;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Click&) const = default;
};

/// An input that was watched while hands moved its wires, one place after another.
struct Wiggle
{
    CircuitId circuit;
    std::vector<WireId> wires; ///< that may come and go, the likeliest first; empty: none does, or none is named
    std::string at; ///< which end of them, as its plug or joint; empty: between their ends
    int dropOuts = 0;
    double watched_s = 0;
    std::string when; ///< ISO 8601, UTC
    RestsOn restsOn;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Wiggle&) const = default;
};

/// A wheel that was turned before its sensor by hand, tooth by tooth, with a meter at the signal.
struct HandTurn
{
    CircuitId circuit;
    std::string wheel; ///< that was turned, as its line says
    bool loose = false; ///< the sensor's plug was off: it was fed by hand, and pulled up by a resistor in hand
    int teeth = 0; ///< that were due
    std::vector<int> missed; ///< of them, by number from 1
    std::optional<double> tooth_v; ///< the highest read on a tooth; none: it was told by key
    std::optional<double> gap_v; ///< the lowest read in a gap
    std::string when; ///< ISO 8601, UTC
    RestsOn restsOn;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const HandTurn&) const = default;
};

/// Which change of a trigger's signal the ECU takes for a tooth.
enum class CountedEdge { Falling, Rising };

/// What a capture said of a circuit's signal: of a scope, a logic analyser or a sound card.
struct Decoded
{
    CircuitId circuit;
    std::string capture; ///< its file, without the folders
    std::string wheel; ///< that was seen, as its line says
    std::optional<CountedEdge> edge; ///< by which it was judged; none: by the better one
    double rpm = 0; ///< of the crank, in the middle
    std::vector<std::string> wrong; ///< "Run-out: 0.30 mm", as verdicts have it; empty: it decodes with margin
    std::string when; ///< ISO 8601, UTC
    RestsOn restsOn;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Decoded&) const = default;
};

/// A line of the run sheet that was passed, by a reading or by eyes.
struct Passed
{
    std::string line; ///< its id: "battery", "leaks running"
    std::string what; ///< the line as it read then
    std::optional<Reading> reading; ///< none: eyes judged it
    double low = 0, high = 0; ///< its window then, SI; infinite where open was as good
    std::optional<double> shut_v; ///< where the shut throttle rested then; of an idle's lines
    ReadingSource source = ReadingSource::Typed;
    std::string when; ///< ISO 8601, UTC
    RestsOn restsOn;
    nlohmann::json extra = nlohmann::json::object();

    [[nodiscard]] bool passes() const { return !reading || (reading->si() >= low && reading->si() <= high); }
    bool operator==(const Passed&) const = default;
};

/// What hands put right where the car was not as drawn: what rests on it must be read again.
struct Mend
{
    std::vector<std::string> subjects; ///< as facts name them: "wire w20", "stud G1"
    std::string what; ///< "Wire w20 is open, Splice S1 to Plug FP 3"
    std::string when; ///< ISO 8601, UTC
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Mend&) const = default;
};

/// What a column of a log is where its words do not say it: of every log that has one of this name and unit.
struct LogColumn
{
    std::string name, unit; ///< as the log has them; no unit: it says none
    CircuitId circuit; ///< whose input it holds; empty: of none
    std::string holds; ///< without a circuit, what it is to an engine: "battery", "nothing"
    std::string in; ///< the unit of its numbers, where the log says none or another; empty: as it says
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const LogColumn&) const = default;
};

/// A place in a log that somebody marked.
struct LogMark
{
    std::string log; ///< its file, without the folders
    double at_s = 0; ///< after its first row
    std::string words;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const LogMark&) const = default;
};

/// How much it matters what a log says.
enum class LogWeight {
    Wrong, ///< the log must not be tuned by as it is
    Doubtful, ///< look before believing it
    Fine ///< worth knowing, nothing to do
};

struct LogSaid
{
    LogWeight weight = LogWeight::Doubtful;
    std::string what; ///< with its figures
    std::string todo; ///< what to do about it; empty: nothing
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const LogSaid&) const = default;
};

/// What a log said of the sensors and the wiring it came through, when it was reviewed.
struct LogReview
{
    std::string log; ///< its file, without the folders
    int rows = 0;
    double seconds = 0;
    std::vector<LogSaid> said; ///< the heaviest first; empty: nothing was found
    std::string when; ///< ISO 8601, UTC
    RestsOn restsOn; ///< of the circuits whose columns it has
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const LogReview&) const = default;
};

/// What a photo is of.
enum class PhotoOf { Circuit, Plug, Part, Log };

/// A photo that is kept beside the job (core/photos). What it is of need not be there any more.
struct Photo
{
    std::string file; ///< in that folder
    PhotoOf of = PhotoOf::Circuit;
    std::string subject; ///< the id of what it is of; of a line of the logbook, its `when`
    std::string words; ///< what is to be seen
    std::string when; ///< that it was added, ISO 8601, UTC
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Photo&) const = default;
};

/// What an input showed while another instrument told the value.
struct Captured
{
    double value = 0; ///< the circuit's SI unit
    double volts = 0;
    std::string when; ///< ISO 8601, UTC
    bool setAside = false; ///< by the user: it takes no part in a fit
    double within = 0; ///< how good the other instrument is, as a bound, SI; 0: not said
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Captured&) const = default;
};

/// A throttle's or pedal's two stops as strokes showed them, and the closed and open limits the ECU is given.
struct ThrottleLimits
{
    double closed_v = 0, open_v = 0; ///< the limits
    double closedRest_v = 0, openRest_v = 0; ///< where it rests
    double noise_v = 0; ///< standard deviation at rest
    int strokes = 0;
    std::string when; ///< ISO 8601, UTC
    std::string screwMoved; ///< when the stop screw was turned after that; empty: not
    std::map<std::string, std::string> restsOn; ///< facts, as a proof's
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const ThrottleLimits&) const = default;
};

/// What fuel there is, for an engine that takes ethanol.
struct Tank
{
    double capacity_m3 = 0.055;
    double line_m3 = 0.4e-3; ///< from the tank to the flex sensor, filter included
    double flow_m3_per_s = 0; ///< through the line at idle, what returns included; 0: not known
    std::optional<double> baseline; ///< ethanol, share by volume, that the sensor showed on pump fuel
    std::string when; ///< of the baseline, ISO 8601, UTC
    double readyFor = 0.10; ///< the highest ethanol share the calibration is ready for
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Tank&) const = default;
};

/// How far a cavity is pinned by hand.
struct Pinned
{
    PointRef at;
    std::vector<WireId> wires; ///< what was in hand; none: a blank plug
    int steps = 0; ///< hand steps ticked, of those its terminal family needs
    std::string counted; ///< the cavity a second count led to; empty: not counted again
    std::string when; ///< of the last tick, ISO 8601, UTC
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Pinned&) const = default;
};

/// How far the work of hands is, beyond what the plugs tell.
struct WorkSteps
{
    std::vector<std::string> done; ///< steps ticked, by id: "mount-ecu", "fit-clt"
    std::vector<std::string> closed; ///< what is on already and buries what is behind it: "intake"
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const WorkSteps&) const = default;
};

/// What was done, and when: a line of the logbook.
struct LogEntry
{
    std::string when; ///< ISO 8601, UTC
    std::string about; ///< a circuit, a place (PointRef's text) or a step; may be empty
    std::string what; ///< "Plug CLT 1: seated and counted"
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const LogEntry&) const = default;
};

} // namespace vicegrip::job
