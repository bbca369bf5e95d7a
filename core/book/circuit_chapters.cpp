#include "core/base/in_parallel.h"
#include "core/base/phrase.h"
#include "core/book/chapters.h"
#include "core/electrics/wiring.h"
#include "core/logbook/logbook.h"
#include "core/units/shown.h"

#include <algorithm>
#include <iterator>

/// The cover, and every circuit with what it is and what was read where.
namespace vicegrip::book {
namespace {

using drawn::Align;
using drawn::Ink;

std::string number(size_t n)
{
    return std::to_string(n);
}

/// The circuit's signal from its plug to its seat, place by place, with what was read there with the key on.
drawn::Figure stripOf(const job::Job& job, const electrics::Path& path, const std::vector<proof::Judged>& read)
{
    constexpr double kWide = 174, kTall = 17, kLine = 8;
    drawn::Figure f{kWide, kTall, phrase("The way of its signal")};
    const size_t n = path.points.size();
    const double step = kWide / static_cast<double>(std::max<size_t>(n, 1));
    const auto x = [&](size_t i) { return step * (static_cast<double>(i) + 0.5); };
    for (size_t i = 0; i + 1 < n; ++i) {
        drawn::Stroke stroke{{{x(i), kLine}, {x(i + 1), kLine}}};
        stroke.width_mm = 0.4; // of a mated pair
        std::string about;
        for (const job::Wire& w : job.wires)
            if ((w.from == path.points[i] && w.to == path.points[i + 1]) ||
                (w.to == path.points[i] && w.from == path.points[i + 1])) {
                stroke.wire = w.colour;
                stroke.width_mm = 0.8;
                about = w.id.value + " " + w.colour;
            }
        f.shapes.push_back({std::move(stroke)});
        drawn::Words& words = f.words({(x(i) + x(i + 1)) / 2, kLine - 1.6}, about, 1.9);
        words.align = Align::Middle;
        words.even = true;
        words.ink = Ink::Soft;
    }
    const auto letters = static_cast<size_t>(std::max(6.0, step / (0.56 * 2.2)));
    for (size_t i = 0; i < n; ++i) {
        f.shapes.push_back({drawn::Disc{{x(i), kLine}, 1}});
        drawn::Words& name = f.words({x(i), 3}, drawn::shortened(job::spoken(job, path.points[i]), letters), 2.2);
        name.align = Align::Middle;
        name.bold = true;
        const auto at = std::ranges::find_if(read, [&](const proof::Judged& j) {
            return j.expectation.station.kind == proof::StationKind::Probe &&
                   j.expectation.station.point == path.points[i];
        });
        if (at == read.end())
            continue;
        drawn::Words& due =
            f.words({x(i), kLine + 4.2}, drawn::shortened(proof::boundsText(at->expectation), letters), 2);
        due.align = Align::Middle;
        due.ink = Ink::Soft;
        if (at->last != nullptr) {
            drawn::Words& got = f.words({x(i), kLine + 7.4}, job::readingText(at->last->reading, {}), 2.2);
            got.align = Align::Middle;
            got.even = got.bold = true;
        }
    }
    return f;
}

/// "AN3, Coolant temp".
std::string named(const std::string& id, const std::string& name)
{
    return name.empty() || name == id ? id : id + ", " + name;
}

Pairs factsOf(const job::Job& job, const job::Circuit& circuit, const proof::CircuitView& view)
{
    Pairs out;
    const parts::Part* part = job::partOf(job, circuit);
    if (part != nullptr) {
        out.add(parts::isDriven(*part) ? phrase("Drives") : phrase("Sensor"),
                part->name + ", " + parts::kindWords(*part));
        if (!parts::isDriven(*part))
            out.add(phrase("Range"), units::formatRange(part->low, part->high, part->measures, part->unit, 1));
    }
    if (const parts::EcuInput* input = job::findInput(job, circuit.input)) {
        std::string seat = named(input->id.value, input->name);
        if (input->pull_up_ohm)
            seat = phrase("{}, pull-up {}", seat, units::formatOhms(*input->pull_up_ohm));
        out.add(phrase("Input"), seat);
    } else if (const parts::EcuOutput* output = job::findOutput(job, circuit.output)) {
        out.add(phrase("Output"), named(output->id.value, output->name));
    } else {
        out.add(phrase("Seat"), phrase("none yet"));
    }
    out.add(phrase("Cavities"), cavitiesText(job, circuit));
    out.add(phrase("Pinned, measured, scaled"),
            stateText(view.pins) + ", " + stateText(view.meter) + ", " + stateText(view.scale));
    return out;
}

/// Every place that proves the circuit, and whatever else was read.
Table readingsOf(const analysis::Analysis& analysis, const proof::CircuitView& view)
{
    Table out{{{phrase("Condition"), 1.1},
               {phrase("Place"), 1.4},
               {phrase("Against"), 1},
               {phrase("Must read"), 1.9, true},
               {phrase("Read"), 1.2, true},
               {phrase("When, UTC"), 1.5, true},
               {phrase("State"), 2.2}}};
    for (const auto& [condition, stations] : view.stations)
        for (const proof::Judged& j : analysis::promised(analysis, view.id, condition)) {
            if (j.last == nullptr && !j.expectation.needed)
                continue;
            const std::string due =
                !j.expectation.promises() ? j.expectation.trouble : proof::boundsText(j.expectation);
            out.rows.push_back({job::conditionWords(condition), j.expectation.station.label, j.expectation.black, due,
                                j.last == nullptr ? "–" : job::readingText(j.last->reading, j.expectation.unit),
                                j.last == nullptr ? "" : timeText(j.last->when),
                                j.reason.empty() ? stateText(j.state) : stateText(j.state) + ": " + j.reason});
        }
    return out;
}

} // namespace

std::string timeText(const std::string& when)
{
    return when.size() < 16 ? when : when.substr(0, 10) + " " + when.substr(11, 5);
}

std::string cavitiesText(const job::Job& job, const job::Circuit& circuit)
{
    std::string out;
    for (const job::PointRef& at : job::seatCavities(job, circuit))
        out += (out.empty() ? "" : ", ") + job::spoken(job, at);
    return out;
}

std::string stateText(proof::State state)
{
    return phrase(proof::stateName(state));
}

Blocks coverOf(const analysis::Analysis& analysis)
{
    const job::Job& job = *analysis.job;
    Pairs facts;
    facts.add(phrase("Job"), job.name);
    size_t unit = 0;
    for (const parts::Ecu* u : job::units(job))
        facts.add(unit++ == 0 ? phrase("ECU") : phrase("Expander"),
                  u->firmware.empty() ? phrase("{}, firmware not noted", u->name)
                                      : phrase("{}, firmware {}", u->name, u->firmware));
    size_t measured = 0, wanted = 0, stops = 0, fixes = 0;
    for (const proof::CircuitView& view : analysis.circuits) {
        wanted += view.meter == proof::State::NotNeeded ? 0 : 1;
        measured += view.meter == proof::State::Done ? 1 : 0;
    }
    for (const findings::Finding& f : analysis.findings) {
        stops += f.severity == findings::Severity::Stop ? 1 : 0;
        fixes += f.severity == findings::Severity::Fix ? 1 : 0;
    }
    facts.add(phrase("Circuits"), phrase("{}; {} of {} measured and within bounds", number(job.circuits.size()),
                                         number(measured), number(wanted)));
    facts.add(phrase("Wires, plugs"),
              phrase("{} wires, {} plugs", number(job.wires.size()), number(job.connectors.size())));
    facts.add(phrase("Open findings"), phrase("{} to stop for, {} to mend", number(stops), number(fixes)));
    const job::Surroundings& air = job.surroundings;
    facts.add(phrase("Readings promised at"),
              phrase("{} ± {}, {} ± {}", units::format(air.ambient_k, units::Dimension::Temperature, "°C", 0),
                     units::formatDifference(air.ambientTolerance_k, units::Dimension::Temperature, "°C", 1),
                     units::format(air.barometer_pa, units::Dimension::AbsolutePressure, "kPa", 1),
                     units::formatDifference(air.barometerTolerance_pa, units::Dimension::AbsolutePressure, "kPa", 1)));
    const std::string last = logbook::lastDate(job);
    facts.add(phrase("As of"), last.empty() ? phrase("nothing is in the logbook yet")
                                            : phrase("{} UTC, the last entry of the logbook", timeText(last)));
    Blocks out{facts};
    if (stops > 0)
        out.push_back(Paragraph{phrase("Something here is to be stopped for. Read the open findings before this car is "
                                       "powered, cranked or driven."),
                                true});
    out.push_back(Paragraph{phrase("This book records what was planned and read. It takes no licensed person's place: "
                                   "fuel, exhaust, braking and road use follow the law where the car is used."),
                            true});
    return out;
}

Blocks circuitsOf(const analysis::Analysis& analysis, const std::stop_token& stop)
{
    const job::Job& job = *analysis.job;
    inParallel(analysis.circuits.size(), [&](size_t i) { // promises are most of a book's work
        for (const auto& [condition, stations] : analysis.circuits[i].stations)
            if (!stop.stop_requested())
                (void)analysis::promises(analysis, analysis.circuits[i].id, condition);
    });
    const auto paths = electrics::Wiring(job).paths();
    Blocks out;
    for (size_t i = 0; i < job.circuits.size() && !stop.stop_requested(); ++i) {
        out.push_back(Heading{job.circuits[i].name});
        std::ranges::move(circuitOf(analysis, i, paths[i]), std::back_inserter(out));
    }
    return out;
}

Blocks circuitOf(const analysis::Analysis& analysis, size_t circuit, const std::vector<electrics::Path>& paths)
{
    const job::Job& job = *analysis.job;
    const proof::CircuitView& view = analysis.circuits[circuit];
    Blocks out{factsOf(job, job.circuits[circuit], view)};
    for (const electrics::Path& path : paths)
        if (path.role == parts::PinRole::Signal && path.points.size() > 1)
            out.push_back(Picture{stripOf(job, path, analysis::promised(analysis, view.id, job::Condition::KeyOn))});
    if (Table readings = readingsOf(analysis, view); !readings.rows.empty())
        out.push_back(std::move(readings));
    else
        out.push_back(Paragraph{phrase("Nothing is to be read on its wires.")});
    return out;
}

} // namespace vicegrip::book
