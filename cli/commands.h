#pragma once

#include <optional>
#include <string>
#include <vector>

/// The commands, each one core call and its printing. They return the exit code.
namespace vicegrip::cli {

enum ExitCode {
    kFine = 0,
    kFindings = 1, ///< `check` found something to stop for or to fix, `review` a log not to tune by
    kUsage = 2, ///< the command line is wrong
    kUnreadable = 3, ///< a file cannot be read, or is not what it claims to be
    kNoAnswer = 4, ///< the job is fine, but what was asked for is not in it or cannot be worked out
};

struct CheckOptions
{
    std::string job;
    bool json = false;
};

struct FindOptions
{
    std::string job;
    std::string circuit; ///< empty: that of the first reading
    std::vector<std::string> readings; ///< "A.11@key-on=0.03V"
    int next = 1; ///< so many probes are named
    bool json = false;
};

struct DecodeOptions
{
    std::string log; ///< recorded frames, as text
    std::string dbc; ///< what they mean
};

struct TriggerOptions
{
    std::string file; ///< a capture
    std::string channel; ///< by name; empty: the first
    std::string wheel; ///< a line; empty: it is recognised
    std::string edge; ///< "rising" or "falling"; empty: the one that comes more evenly
    bool coil = false; ///< a variable-reluctance sensor
    bool highOnTooth = false; ///< the sensor is high while a tooth stands before it
    bool cam = false; ///< a wheel that is recognised turns once in two turns of the crank
    bool json = false;
};

struct WheelOptions
{
    std::string line, out;
    double rpm = 200, ripple = 0, seconds = 2, rate_hz = 96000;
    int cylinders = 4;
    std::string gap, runOut; ///< as typed; empty: 1.5 mm, none
    std::string noise; ///< root mean square, as typed; empty: none
    bool coil = false;
    bool exchanged = false; ///< the coil's two wires
};

struct GapOptions
{
    std::string now, window, pitch, runOut; ///< as typed; without a pitch it stands in a plain seat
    std::string wheel, across; ///< of the strip's figures: which wheel, and how far it is over its teeth
    std::string thick, wide, length, lies, beside; ///< as typed; empty: as usual
};

struct ExpectOptions
{
    std::string job;
    std::string circuit; ///< empty: all
    std::string condition = "key-on"; ///< "battery-off", "key-on", "cranking" or "running"
    std::string ambient, barometer; ///< as typed; empty: the job's
    bool json = false;
};

struct NetlistOptions
{
    std::string job;
    std::string condition = "key-on"; ///< "battery-off", "key-on", "cranking" or "running"
    std::string faults; ///< a fault list; empty: none
};

struct ScaleOptions
{
    std::string job;
    std::string circuit;
    std::optional<int> points;
    std::string breakpoints; ///< even, best, free; empty: the job's
    std::string kind; ///< table, line, polynomial, steinhart; empty: the job's
    int degree = 3; ///< of a polynomial that is asked for
    bool counts = false; ///< converter counts in place of volts, whatever the job says
    std::string against; ///< a file with the scaling the ECU holds now; empty: none
    bool csv = false;
    bool json = false;
};

struct BudgetOptions
{
    std::string job;
    std::string circuit;
    std::string at; ///< as typed; empty: over the range
    bool json = false;
};

struct ThrottleOptions
{
    std::string strokes; ///< a file of numbers
    int bits = 12; ///< of the input
    double span_v = 5;
    bool json = false;
};

struct BlendOptions
{
    std::vector<std::string> in, add; ///< fills as typed: "20L@E10"
    std::string tank; ///< capacity; empty: not known
    std::string target; ///< reach this content by more of the last --add
    std::string baseline = "E10"; ///< the fuel the calibration was made on
    bool json = false;
};

struct SeatOptions
{
    std::string job;
    bool json = false;
};

struct FusesOptions
{
    std::string job;
    bool json = false;
};

struct RangeOptions
{
    std::string job;
    std::string circuit;
    bool json = false;
};

struct NeedsOptions
{
    std::string job;
    bool json = false;
};

struct PinsOptions
{
    std::string job;
    std::string connector; ///< empty: all
    std::string face = "wire"; ///< "wire" or "mating"
    bool json = false;
};

/// Of `cut` and of `buy`.
struct ListOptions
{
    std::string job;
    bool csv = false;
    bool json = false;
};

struct SheetOptions
{
    std::string job;
    bool json = false;
};

struct ReviewOptions
{
    std::string log, job;
    std::string before; ///< an older log; empty: none
    std::string purpose, column; ///< what the change between them was for; empty: everything that differs
    std::string out; ///< a job's file to be: this job, and what the log says; empty: nothing is kept
    bool json = false;
};

struct PullsOptions
{
    std::string log;
    std::string out; ///< those that are chosen are written to OUT-1.csv and so on; empty: they are not
    bool json = false;
};

struct PlanOptions
{
    std::string job;
    std::vector<std::string> closed; ///< gates that are shut
    bool json = false;
};

struct RecordOptions
{
    std::string out, job, dbc;
};

struct ReplayOptions
{
    std::string file, job, dbc;
    double speed = 1; ///< times as fast; 0: as fast as it goes
};

struct BundleOptions
{
    std::vector<std::string> wires; ///< "1.6x7": diameter in mm and number
    bool json = false;
};

struct BookOptions
{
    std::string job;
    std::string pdf, html; ///< where it is written; one of them
    std::vector<std::string> chapters; ///< by name; empty: all
    std::string since; ///< the job as it was in the last book; empty: the book does not say what changed
};

struct LabelOptions
{
    std::string job;
    std::string pdf, svg; ///< a file, or a folder
    std::vector<std::string> kinds; ///< rule, labels, faces, holes, strips; none: the rule and labels
    bool wrap = false;
    std::string paper, label, gap, margin; ///< sizes as typed; empty: as it is usual
    int used = 0;
};

struct PacketOptions
{
    std::string job;
    std::string out; ///< a zip by its ending, else a folder
    std::vector<std::string> logs;
    std::string since; ///< as BookOptions::since
};

struct DiagramOptions
{
    std::string job;
    std::string sheet; ///< by name; empty: all
    std::string svg; ///< a file for one sheet, a folder for all; empty: their names are printed
};

struct RecheckOptions
{
    std::string job;
    std::string after; ///< "firmware", "plug A"; empty: what can change is printed
    bool json = false;
};

struct CompareOptions
{
    std::string before, after;
    bool csv = false;
    bool json = false;
};

struct PrintedListOptions
{
    std::string job, kind;
};

struct TakenListOptions
{
    std::string job, list;
    std::string out; ///< empty: only said
};

int check(const CheckOptions& options);
int expect(const ExpectOptions& options);
int netlist(const NetlistOptions& options);
int fuses(const FusesOptions& options);
int find(const FindOptions& options);
/// What recorded CAN frames carry, as CSV: a line for each signal of each frame.
int readTrigger(const TriggerOptions& options);
int makeWheel(const WheelOptions& options);
int airGap(const GapOptions& options);
int decode(const DecodeOptions& options);
/// Frames from standard input (candump) as a recording of what a job's circuits are told.
int record(const RecordOptions& options);
/// A recording, or a log of frames, at its own speed or another, as CSV: a line for each value.
int replay(const ReplayOptions& options);
int scale(const ScaleOptions& options);
int budget(const BudgetOptions& options);
int throttle(const ThrottleOptions& options);
int blend(const BlendOptions& options);
int seat(const SeatOptions& options);
int range(const RangeOptions& options);
int needs(const NeedsOptions& options);
int pins(const PinsOptions& options);
int cut(const ListOptions& options);
int buy(const ListOptions& options);
int bundle(const BundleOptions& options);

struct SwitchOptions
{
    std::string job, circuit;
    bool json = false;
};
/// Thresholds of a switch, and what its contact and its plug may become.
int switchLevels(const SwitchOptions& options);

struct SpeedOptions
{
    std::string tyre; ///< "205/55 R16"
    double pulsesPerTurn = 0, ratio = 1;
    double runPulses = 0; ///< 0: no run
    std::string distance = "1 km", distanceError = "5 m";
    bool json = false;
};
/// Pulses to a distance, by tyre and gears and by a measured run.
int speed(const SpeedOptions& options);

struct ProbeOptions
{
    std::string tip, joint, box; ///< temperatures
    std::string shown; ///< empty: what each hookup would show
    bool json = false;
};
/// How a type K probe is wired, by what its conditioner shows.
int probe(const ProbeOptions& options);

struct FitOptions
{
    std::string points; ///< a file of numbers
    std::string kind = "line"; ///< line, ntc, monotone
    bool json = false;
};
/// A curve through readings, with its residuals.
int fitPoints(const FitOptions& options);
int plan(const PlanOptions& options);
/// The run sheet as it stands today.
int runSheet(const SheetOptions& options);
/// What a log says of the sensors and the wiring, alone or beside an older one.
int reviewLog(const ReviewOptions& options);
int findPulls(const PullsOptions& options);
/// The build book as a file.
int writeBook(const BookOptions& options);
/// The wiring diagrams as SVG.
int drawDiagram(const DiagramOptions& options);
/// The tuner's packet.
int writePacket(const PacketOptions& options);
/// Labels, faces and templates at their own size.
int printLabels(const LabelOptions& options);
/// What is to be measured again after a change.
int recheckAfter(const RecheckOptions& options);
/// What is different between two jobs.
int compareJobs(const CompareOptions& options);
int printList(const PrintedListOptions& options);
int takeList(const TakenListOptions& options);

} // namespace vicegrip::cli
