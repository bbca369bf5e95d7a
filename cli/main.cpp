#include "cli/commands.h"
#include "core/base/old_names.h"
#include "core/units/shown.h"

#include <CLI/CLI.hpp>
#include <exception>
#include <iostream>
#include <string>
#include <vector>

namespace {

/// Numbers as the library's own range check has them let "nan" through.
CLI::Validator between(double low, double high)
{
    const std::string range = vicegrip::units::shortest(low) + " to " + vicegrip::units::shortest(high);
    return {[=](std::string& typed) {
                double value = 0;
                return CLI::detail::lexical_cast(typed, value) && value >= low && value <= high
                           ? std::string()
                           : "\"" + typed + "\" is not a number from " + range;
            },
            range};
}

} // namespace

int main(int argc, char** argv)
{
    using namespace vicegrip::cli;
    namespace units = vicegrip::units;
    CLI::App app{"Vicegrip on the command line: what a job promises, without a window."};
    app.footer("Exit codes: 0 fine; 1 check found something to stop for or to fix; 2 the command line is wrong;\n"
               "3 a file cannot be read or is not what it claims to be; 4 what was asked for is not in the job or\n"
               "cannot be worked out.");
    app.set_version_flag("--version", "vicegrip-cli " VICEGRIP_VERSION);
    app.require_subcommand(1);
    app.fallthrough(); // so that --units may follow the command
    app.add_option("--units", "What quantities are printed in, and bare numbers meant in: metric or us. JSON and CSV "
                              "keep the job's own")
        ->check(CLI::IsMember({"metric", "us"}))
        ->each([](const std::string& system) {
            // Neither system can be refused.
            (void)units::setShown({system == "us" ? units::System::US : units::System::Metric, {}});
        });
    int code = kFine;

    CheckOptions checkOptions;
    auto* checkCommand = app.add_subcommand("check", "Read a job and print what is to be stopped for, fixed or known.");
    checkCommand->add_option("JOB", checkOptions.job, "A .vicegrip file")->required();
    checkCommand->add_flag("--json", checkOptions.json, "Print JSON");
    checkCommand->callback([&] { code = check(checkOptions); });

    const auto conditions = CLI::IsMember({"battery-off", "key-on", "cranking", "running"});
    ExpectOptions expectOptions;
    auto* expectCommand =
        app.add_subcommand("expect", "Print what the meter must read at every place a probe can reach.");
    expectCommand->add_option("JOB", expectOptions.job, "A .vicegrip file")->required();
    expectCommand->add_option("--circuit", expectOptions.circuit, "One circuit, by id");
    expectCommand
        ->add_option("--condition", expectOptions.condition, "battery-off (Ohm), key-on, cranking or running (V)")
        ->check(conditions);
    expectCommand->add_option("--ambient", expectOptions.ambient, "Ambient temperature, such as 22C or \"72 F\"");
    expectCommand->add_option("--barometer", expectOptions.barometer, "Barometer, such as 98.4kPa");
    expectCommand->add_flag("--json", expectOptions.json, "Print JSON");
    expectCommand->callback([&] { code = expect(expectOptions); });

    NetlistOptions netlistOptions;
    auto* netlistCommand =
        app.add_subcommand("netlist", "Print the job as a SPICE deck, to be solved by another program.");
    netlistCommand->add_option("JOB", netlistOptions.job, "A .vicegrip file")->required();
    netlistCommand->add_option("--condition", netlistOptions.condition, "battery-off, key-on, cranking or running")
        ->check(conditions);
    netlistCommand->add_option("--faults", netlistOptions.faults, "A fault list");
    netlistCommand->add_flag_callback(
        "--running", [&] { netlistOptions.condition = "running"; }, "The same as --condition running");
    netlistCommand->callback([&] { code = netlist(netlistOptions); });

    ScaleOptions scaleOptions;
    auto* scaleCommand = app.add_subcommand("scale", "Print the table the ECU needs for a circuit.");
    scaleCommand->add_option("JOB", scaleOptions.job, "A .vicegrip file")->required();
    scaleCommand->add_option("--circuit", scaleOptions.circuit, "The circuit, by id")->required();
    scaleCommand->add_option("--points", scaleOptions.points, "Points of the table, 2 to 200")
        ->check(CLI::Range(2, 200));
    scaleCommand->add_option("--breakpoints", scaleOptions.breakpoints, "even, best (on the curve) or free (beside it)")
        ->check(CLI::IsMember({"even", "best", "free"}));
    scaleCommand
        ->add_option("--kind", scaleOptions.kind,
                     "table, line (offset and slope), polynomial, or steinhart (coefficients of a thermistor); "
                     "without it what the job says")
        ->check(CLI::IsMember({"table", "line", "polynomial", "steinhart"}));
    scaleCommand->add_option("--degree", scaleOptions.degree, "Degree of the polynomial, 1 to 8")
        ->check(CLI::Range(1, 8));
    scaleCommand->add_flag("--counts", scaleOptions.counts, "Converter counts in place of volts");
    scaleCommand->add_option("--against", scaleOptions.against,
                             "A table the ECU holds now (CSV or JSON): print the difference");
    auto* csv = scaleCommand->add_flag("--csv", scaleOptions.csv, "Print CSV (RFC 4180)");
    scaleCommand->add_flag("--json", scaleOptions.json, "Print JSON")->excludes(csv);
    scaleCommand->callback([&] { code = scale(scaleOptions); });

    BudgetOptions budgetOptions;
    auto* budgetCommand =
        app.add_subcommand("budget", "Print how wrong a value can be, part by part, and what that costs in mixture.");
    budgetCommand->add_option("JOB", budgetOptions.job, "A .vicegrip file")->required();
    budgetCommand->add_option("--circuit", budgetOptions.circuit, "The circuit, by id")->required();
    budgetCommand->add_option("--at", budgetOptions.at, "The value, such as 80C; without it, over the range");
    budgetCommand->add_flag("--json", budgetOptions.json, "Print JSON");
    budgetCommand->callback([&] { code = budget(budgetOptions); });

    ThrottleOptions throttleOptions;
    auto* throttleCommand = app.add_subcommand(
        "throttle", "Find a throttle's rests and limits in a recording of strokes, and what is wrong with it.");
    throttleCommand
        ->add_option("STROKES", throttleOptions.strokes,
                     "Columns: time (s, or ms by its heading), V, and V of a second track")
        ->required();
    throttleCommand->add_option("--bits", throttleOptions.bits, "Of the ECU's converter")->check(CLI::Range(6, 24));
    throttleCommand->add_option("--span", throttleOptions.span_v, "Volts of its full scale")->check(between(0.1, 50));
    throttleCommand->add_flag("--json", throttleOptions.json, "Print JSON");
    throttleCommand->callback([&] { code = throttle(throttleOptions); });

    BlendOptions blendOptions;
    auto* blendCommand = app.add_subcommand("blend", "Print what a tank holds after fuels are poured together.");
    blendCommand->add_option("--in", blendOptions.in, "What is in the tank: 20L@E10");
    blendCommand->add_option("--add", blendOptions.add, "What goes in: 25L@E85");
    blendCommand->add_option("--tank", blendOptions.tank, "What the tank holds: 55L");
    blendCommand->add_option("--target", blendOptions.target,
                             "Content to reach, such as E40, by as much as needed of the last --add");
    blendCommand->add_option("--baseline", blendOptions.baseline, "The fuel the calibration was made on");
    blendCommand->add_flag("--json", blendOptions.json, "Print JSON");
    blendCommand->callback([&] { code = blend(blendOptions); });

    FindOptions findOptions;
    auto* findCommand = app.add_subcommand(
        "find", "Name what is likely wrong with a circuit after these readings, and the reading to take next.");
    findCommand->add_option("JOB", findOptions.job, "A .vicegrip file")->required();
    findCommand->add_option("--circuit", findOptions.circuit, "The circuit, by id; else that of the first reading");
    findCommand->add_option("--reading", findOptions.readings,
                            "PLACE@CONDITION=VALUE, beside those of the job: A.11@key-on=0.03V, clt:value@key-on=85C");
    findCommand->add_option("--next", findOptions.next, "How many readings to propose")->check(CLI::Range(0, 20));
    findCommand->add_flag("--json", findOptions.json, "Print JSON");
    findCommand->callback([&] { code = find(findOptions); });

    SeatOptions seatOptions;
    FusesOptions fusesOptions;
    auto* fusesCommand =
        app.add_subcommand("fuses", "List what hangs on each fuse, why it is rated so, and what would make it right.");
    fusesCommand->add_option("JOB", fusesOptions.job, "A .vicegrip file")->required();
    fusesCommand->add_flag("--json", fusesOptions.json, "Print JSON");
    fusesCommand->callback([&] { code = fuses(fusesOptions); });

    auto* seatCommand = app.add_subcommand(
        "seat", "Seat every sensor as well as it can be; print the seats, the refusals and the ways out.");
    seatCommand->add_option("JOB", seatOptions.job, "A .vicegrip file")->required();
    seatCommand->add_flag("--json", seatOptions.json, "Print JSON");
    seatCommand->callback([&] { code = seat(seatOptions); });

    RangeOptions rangeOptions;
    auto* rangeCommand = app.add_subcommand("range", "Rank the library's pressure sensors for a circuit.");
    rangeCommand->add_option("JOB", rangeOptions.job, "A .vicegrip file")->required();
    rangeCommand->add_option("--circuit", rangeOptions.circuit, "The circuit, by id")->required();
    rangeCommand->add_flag("--json", rangeOptions.json, "Print JSON");
    rangeCommand->callback([&] { code = range(rangeOptions); });

    NeedsOptions needsOptions;
    auto* needsCommand = app.add_subcommand("needs", "Print the circuits that the job's brief asks for, and why.");
    needsCommand->add_option("JOB", needsOptions.job, "A .vicegrip file")->required();
    needsCommand->add_flag("--json", needsOptions.json, "Print JSON");
    needsCommand->callback([&] { code = needs(needsOptions); });

    PinsOptions pinsOptions;
    auto* pinsCommand =
        app.add_subcommand("pins", "Print what belongs in each cavity, how to count to it, how far it is.");
    pinsCommand->add_option("JOB", pinsOptions.job, "A .vicegrip file")->required();
    pinsCommand->add_option("--connector", pinsOptions.connector, "One connector, by id");
    pinsCommand->add_option("--face", pinsOptions.face, "wire or mating: the side the count is for")
        ->check(CLI::IsMember({"wire", "mating"}));
    pinsCommand->add_flag("--json", pinsOptions.json, "Print JSON");
    pinsCommand->callback([&] { code = pins(pinsOptions); });

    ListOptions cutOptions, buyOptions;
    const auto addList = [&](const char* name, const char* what, ListOptions& options, int (*run)(const ListOptions&)) {
        auto* command = app.add_subcommand(name, what);
        command->add_option("JOB", options.job, "A .vicegrip file")->required();
        auto* asCsv = command->add_flag("--csv", options.csv, "Print CSV (RFC 4180)");
        command->add_flag("--json", options.json, "Print JSON")->excludes(asCsv);
        command->callback([&options, &code, run] { code = run(options); });
    };
    addList("cut", "Print every wire as it is cut: length with slack, strip at both ends.", cutOptions, cut);
    addList("buy", "Print what is bought for the wires, with spares.", buyOptions, buy);

    BundleOptions bundleOptions;
    auto* bundleCommand =
        app.add_subcommand("bundle", "Print how thick a bundle is, and the sleeve, shrink and grommet that fit it.");
    bundleCommand->add_option("WIRES", bundleOptions.wires, "Outer diameters in mm and numbers: 1.6x7 2.1x3")
        ->required();
    bundleCommand->add_flag("--json", bundleOptions.json, "Print JSON");
    bundleCommand->callback([&] { code = bundle(bundleOptions); });

    DecodeOptions decodeOptions;
    auto* decodeCommand = app.add_subcommand("decode", "Print what recorded CAN frames carry, as CSV.");
    decodeCommand->add_option("LOG", decodeOptions.log, "Recorded frames in the candump log format")->required();
    decodeCommand->add_option("--dbc", decodeOptions.dbc, "A file (DBC) that describes them")->required();
    decodeCommand->callback([&] { code = decode(decodeOptions); });

    TriggerOptions triggerOptions;
    auto* triggerCommand = app.add_subcommand("trigger", "Say which wheel a capture shows, and whether it decodes.");
    triggerCommand->add_option("FILE", triggerOptions.file, "A capture: columns (CSV), changes (VCD) or sound (WAV)")
        ->required();
    triggerCommand->add_option("--wheel", triggerOptions.wheel, "The wheel, such as 36-1; else it is recognised");
    triggerCommand->add_option("--edge", triggerOptions.edge, "The edge that counts; else the one that is more even")
        ->check(CLI::IsMember({"rising", "falling"}));
    triggerCommand->add_option("--channel", triggerOptions.channel, "By its name; else the first");
    triggerCommand->add_flag("--coil", triggerOptions.coil, "The sensor is a coil: an edge is where it crosses zero");
    triggerCommand->add_flag("--high-on-tooth", triggerOptions.highOnTooth, "The sensor is high before a tooth");
    triggerCommand->add_flag("--cam", triggerOptions.cam, "The wheel turns once in two turns of the crank");
    triggerCommand->add_flag("--json", triggerOptions.json, "Print JSON");
    triggerCommand->callback([&] { code = readTrigger(triggerOptions); });

    WheelOptions wheelOptions;
    auto* wheelCommand = app.add_subcommand("wheel", "Write what a sensor makes of a wheel that turns.");
    wheelCommand->add_option("LINE", wheelOptions.line, "The wheel, such as 60-2")->required();
    wheelCommand->add_option("--out", wheelOptions.out, "A file: .vcd, .wav or .csv")->required();
    wheelCommand->add_option("--rpm", wheelOptions.rpm, "Turns of the crank a minute")->check(CLI::Range(1.0, 20000.0));
    wheelCommand->add_option("--ripple", wheelOptions.ripple, "Share that compressions slow it")
        ->check(CLI::Range(0.0, 0.9));
    wheelCommand->add_option("--cylinders", wheelOptions.cylinders, "How many")->check(CLI::Range(1, 16));
    wheelCommand->add_option("--seconds", wheelOptions.seconds, "How long")->check(CLI::Range(0.01, 600.0));
    wheelCommand->add_option("--rate", wheelOptions.rate_hz, "Samples a second")->check(CLI::Range(1000.0, 1e6));
    wheelCommand->add_option("--gap", wheelOptions.gap, "Air gap, such as 1.5mm");
    wheelCommand->add_option("--run-out", wheelOptions.runOut, "From the least gap to the greatest, such as 0.3mm");
    wheelCommand->add_flag("--coil", wheelOptions.coil, "A variable-reluctance sensor");
    wheelCommand->add_flag("--exchanged", wheelOptions.exchanged, "Its two wires are exchanged");
    wheelCommand->add_option("--noise", wheelOptions.noise, "Root mean square, such as 20mV");
    wheelCommand->callback([&] { code = makeWheel(wheelOptions); });

    GapOptions gapOptions;
    auto* gapCommand =
        app.add_subcommand("gap", "Say how far a sensor in a thread is turned, and where it stands then.");
    gapCommand->add_option("--now", gapOptions.now, "The gap that was measured, such as 1.9mm")->required();
    gapCommand->add_option("--window", gapOptions.window, "Where it may be, such as 1.0-1.5mm")->required();
    gapCommand->add_option("--pitch", gapOptions.pitch, "Of its thread, such as 1mm (default: a plain seat, shimmed)");
    gapCommand->add_option("--run-out", gapOptions.runOut, "Of the wheel, such as 0.1mm");
    gapCommand->add_option("--wheel", gapOptions.wheel, "It stands before, for how its strip lies: 36-1");
    gapCommand->add_option("--across", gapOptions.across, "The wheel, over its teeth, such as 150mm");
    gapCommand->add_option("--thick", gapOptions.thick, "The wheel, such as 6mm");
    gapCommand->add_option("--strip-wide", gapOptions.wide, "What senses in its face (default: 1mm)");
    gapCommand->add_option("--strip-long", gapOptions.length, "What senses in its face (default: 5mm)");
    gapCommand->add_option("--lies", gapOptions.lies, "Degrees from along the teeth, clockwise from behind");
    gapCommand->add_option("--beside", gapOptions.beside, "From its middle to the wheel's, such as 2mm");
    gapCommand->callback([&] { code = airGap(gapOptions); });

    RecordOptions recordOptions;
    auto* recordCommand =
        app.add_subcommand("record", "Record what frames on standard input tell of a job's circuits.");
    recordCommand->add_option("OUT", recordOptions.out, "The recording, CSV")->required();
    recordCommand->add_option("--job", recordOptions.job, "The job whose circuits are told of")->required();
    recordCommand->add_option("--dbc", recordOptions.dbc, "A file (DBC) that describes the frames")->required();
    recordCommand->callback([&] { code = record(recordOptions); });

    ReplayOptions replayOptions;
    auto* replayCommand = app.add_subcommand("replay", "Print a recording as it came, as CSV.");
    replayCommand->add_option("FILE", replayOptions.file, "A recording, or frames in the candump log format")
        ->required();
    replayCommand->add_option("--job", replayOptions.job, "The job whose inputs it is of")->required();
    replayCommand->add_option("--dbc", replayOptions.dbc, "A file (DBC) that describes the frames");
    replayCommand->add_option("--speed", replayOptions.speed, "Times as fast; 0: as fast as it goes")
        ->check(CLI::Range(0.0, 1000.0));
    replayCommand->callback([&] { code = replay(replayOptions); });

    FitOptions fitOptions;
    auto* fitCommand = app.add_subcommand("fit", "Put a curve through readings and print how well it sits.");
    fitCommand
        ->add_option("POINTS", fitOptions.points,
                     "Columns of numbers: x, y and their standard deviations for a line; °C, Ohm and that of "
                     "°C for ntc; x and y for monotone")
        ->required();
    fitCommand->add_option("--kind", fitOptions.kind, "line, ntc (Steinhart-Hart) or monotone")
        ->check(CLI::IsMember({"line", "ntc", "monotone"}));
    fitCommand->add_flag("--json", fitOptions.json, "Print JSON");
    fitCommand->callback([&] { code = fitPoints(fitOptions); });

    SwitchOptions switchOptions;
    auto* switchCommand = app.add_subcommand("switch", "Print the thresholds that tell a switch's states apart.");
    switchCommand->add_option("JOB", switchOptions.job, "A .vicegrip file")->required();
    switchCommand->add_option("--circuit", switchOptions.circuit, "The circuit, by id")->required();
    switchCommand->add_flag("--json", switchOptions.json, "Print JSON");
    switchCommand->callback([&] { code = switchLevels(switchOptions); });

    SpeedOptions speedOptions;
    auto* speedCommand =
        app.add_subcommand("speed", "Print the pulses to a distance, by tyre and gears, and judge a measured run.");
    speedCommand->add_option("--tyre", speedOptions.tyre, "As its side says, such as \"205/55 R16\"")->required();
    speedCommand->add_option("--teeth", speedOptions.pulsesPerTurn, "Pulses in a turn of what is counted")
        ->required()
        ->check(between(0.5, 1000));
    speedCommand->add_option("--ratio", speedOptions.ratio, "Its turns to one of the wheel")->check(between(0.01, 100));
    speedCommand->add_option("--pulses", speedOptions.runPulses, "Pulses counted on a run")->check(between(1, 1e9));
    speedCommand->add_option("--distance", speedOptions.distance, "Of the run, such as 1km");
    speedCommand->add_option("--within", speedOptions.distanceError, "How well that is known, such as 5m");
    speedCommand->add_flag("--json", speedOptions.json, "Print JSON");
    speedCommand->callback([&] { code = speed(speedOptions); });

    ProbeOptions probeOptions;
    auto* probeCommand = app.add_subcommand("probe", "Tell how a type K probe is wired by what is shown in a bath.");
    probeCommand->add_option("--tip", probeOptions.tip, "Temperature of the bath, such as 100C")->required();
    probeCommand->add_option("--joint", probeOptions.joint, "Where the probe's own wires end")->required();
    probeCommand->add_option("--box", probeOptions.box, "At the conditioner")->required();
    probeCommand->add_option("--shown", probeOptions.shown, "What the ECU shows; without it, what each would");
    probeCommand->add_flag("--json", probeOptions.json, "Print JSON");
    probeCommand->callback([&] { code = probe(probeOptions); });

    PlanOptions planOptions;
    auto* planCommand =
        app.add_subcommand("plan", "Print the order of hands: what is done where, before it is buried.");
    planCommand->add_option("JOB", planOptions.job, "A .vicegrip file")->required();
    planCommand->add_option("--closed", planOptions.closed, "What is on already: intake, front-drive, undertray")
        ->check(CLI::IsMember({"intake", "front-drive", "undertray"}));
    planCommand->add_flag("--json", planOptions.json, "Print JSON");
    planCommand->callback([&] { code = plan(planOptions); });

    BookOptions bookOptions;
    auto* bookCommand = app.add_subcommand("book", "Write the build book: everything fitted, proved, scaled and open.");
    bookCommand->add_option("JOB", bookOptions.job, "A .vicegrip file")->required();
    auto* bookAs = bookCommand->add_option_group("as");
    bookAs->add_option("--pdf", bookOptions.pdf, "Write a PDF to this file");
    bookAs->add_option("--html", bookOptions.html, "Write a page of HTML to this file");
    bookAs->require_option(1);
    bookCommand->add_option("--chapter", bookOptions.chapters, "Only these chapters, by name; may be repeated");
    bookCommand->add_option("--since", bookOptions.since,
                            "The job as it was in the last book: what changed is a chapter");
    bookCommand->callback([&] { code = writeBook(bookOptions); });

    DiagramOptions diagramOptions;
    auto* diagramCommand = app.add_subcommand("diagram", "Draw the wiring as sheets; without --svg, name them.");
    diagramCommand->add_option("JOB", diagramOptions.job, "A .vicegrip file")->required();
    diagramCommand->add_option("--sheet", diagramOptions.sheet, "One sheet, by name");
    diagramCommand->add_option("--svg", diagramOptions.svg, "Write SVG: to a file with --sheet, else into a folder");
    diagramCommand->callback([&] { code = drawDiagram(diagramOptions); });

    LabelOptions labelOptions;
    auto* labelCommand =
        app.add_subcommand("labels", "Print wire labels, connector faces and templates at their own size.");
    labelCommand->add_option("JOB", labelOptions.job, "A .vicegrip file")->required();
    auto* labelAs = labelCommand->add_option_group("as");
    labelAs->add_option("--pdf", labelOptions.pdf, "Write a PDF to this file");
    labelAs->add_option("--svg", labelOptions.svg, "Write a file of SVG for each page into this folder");
    labelAs->require_option(1);
    labelCommand->add_option("--print", labelOptions.kinds,
                             "What: rule, labels, faces, holes, strips; may be repeated (default: rule and labels)");
    labelCommand->add_flag("--wrap", labelOptions.wrap, "Labels that are wound round the wire, not folded to flags");
    labelCommand->add_option("--paper", labelOptions.paper, "A4 (default), A3, letter, or width x height in mm");
    labelCommand->add_option("--label", labelOptions.label, "Width x height of one label, mm (default: 50 x 9)");
    labelCommand->add_option("--gap", labelOptions.gap, "Between neighbours, across x down, mm (default: none)");
    labelCommand->add_option("--margin", labelOptions.margin,
                             "From the paper's edges to the first label, mm; without it lines to cut along are drawn");
    labelCommand->add_option("--used", labelOptions.used, "So many labels are gone from the first sheet");
    labelCommand->callback([&] { code = printLabels(labelOptions); });

    PacketOptions packetOptions;
    auto* packetCommand =
        app.add_subcommand("packet", "Write the tuner's packet: what to trust, tables, errors, the book.");
    packetCommand->add_option("JOB", packetOptions.job, "A .vicegrip file")->required();
    packetCommand->add_option("OUT", packetOptions.out, "A file that ends in .zip, else a folder")->required();
    packetCommand->add_option("--log", packetOptions.logs, "A log that goes with it; may be repeated");
    packetCommand->add_option("--since", packetOptions.since,
                              "The job as it was in the last book, for that of the packet");
    packetCommand->callback([&] { code = writePacket(packetOptions); });

    RecheckOptions recheckOptions;
    auto* recheckCommand =
        app.add_subcommand("recheck", "Print what is to be measured again after a change, in the order of risk.");
    recheckCommand->add_option("JOB", recheckOptions.job, "A .vicegrip file")->required();
    recheckCommand->add_option(
        "--after", recheckOptions.after,
        "firmware, supply, battery, plug NAME, ground NAME, fuse NAME, relay NAME, switch NAME, sensor "
        "CIRCUIT, actuator CIRCUIT; without it, what can change is printed");
    recheckCommand->add_flag("--json", recheckOptions.json, "Print JSON");
    recheckCommand->callback([&] { code = recheckAfter(recheckOptions); });

    CompareOptions compareOptions;
    auto* compareCommand =
        app.add_subcommand("compare", "Print what is different between two jobs, or two states of one.");
    compareCommand->add_option("BEFORE", compareOptions.before, "A .vicegrip file")->required();
    compareCommand->add_option("AFTER", compareOptions.after, "A .vicegrip file")->required();
    auto* compareCsv = compareCommand->add_flag("--csv", compareOptions.csv, "Print CSV");
    compareCommand->add_flag("--json", compareOptions.json, "Print JSON")->excludes(compareCsv);
    compareCommand->callback([&] { code = compareJobs(compareOptions); });

    PrintedListOptions listOptions;
    auto* listCommand = app.add_subcommand("list", "Print a list for a spreadsheet, as CSV.");
    listCommand->add_option("JOB", listOptions.job, "A .vicegrip file")->required();
    listCommand->add_option("KIND", listOptions.kind, "wires, cavities or parts")
        ->required()
        ->check(CLI::IsMember({"wires", "cavities", "parts"}));
    listCommand->callback([&] { code = printList(listOptions); });

    TakenListOptions takeOptions;
    auto* takeCommand = app.add_subcommand("take", "Say what a list that comes back would change, and write that job.");
    takeCommand->add_option("JOB", takeOptions.job, "A .vicegrip file")->required();
    takeCommand->add_option("LIST", takeOptions.list, "A CSV with the columns that list prints")->required();
    takeCommand->add_option("--out", takeOptions.out, "Write the job with the list taken to this file");
    takeCommand->callback([&] { code = takeList(takeOptions); });

    SheetOptions sheetOptions;
    auto* sheetCommand = app.add_subcommand("sheet", "Print the run sheet: what is seen before power, start and road.");
    sheetCommand->add_option("JOB", sheetOptions.job, "A .vicegrip file")->required();
    sheetCommand->add_flag("--json", sheetOptions.json, "Print JSON");
    sheetCommand->callback([&] { code = runSheet(sheetOptions); });

    ReviewOptions reviewOptions;
    auto* reviewCommand =
        app.add_subcommand("review", "Say what a log shows of sensors and wiring, or what a change did.");
    reviewCommand->add_option("LOG", reviewOptions.log, "A CSV of any logger")->required();
    reviewCommand->add_option("JOB", reviewOptions.job, "A .vicegrip file")->required();
    auto* beforeOption =
        reviewCommand->add_option("--before", reviewOptions.before, "An older log, from before a change");
    auto* purposeOption =
        reviewCommand->add_option("--for", reviewOptions.purpose, "range, reading, offset or temperature");
    auto* columnOption = reviewCommand->add_option("--column", reviewOptions.column, "Of which column");
    purposeOption->needs(beforeOption)->needs(columnOption);
    columnOption->needs(purposeOption);
    reviewCommand->add_option("--out", reviewOptions.out, "Write a job that keeps what the log says");
    reviewCommand->add_flag("--json", reviewOptions.json, "Print JSON");
    reviewCommand->callback([&] { code = reviewLog(reviewOptions); });

    PullsOptions pullsOptions;
    auto* pullsCommand = app.add_subcommand("pulls", "Find the pulls of a log, and those a tuner wants to see.");
    pullsCommand->add_option("LOG", pullsOptions.log, "A CSV of any logger")->required();
    pullsCommand->add_option("--out", pullsOptions.out, "Write those to OUT-1.csv, OUT-2.csv ...");
    pullsCommand->add_flag("--json", pullsOptions.json, "Print JSON");
    pullsCommand->callback([&] { code = findPulls(pullsOptions); });

    try {
        std::vector<std::string> renewed;
        for (int i = 0; i < argc; ++i)
            renewed.push_back(vicegrip::old_names::option(argv[i]));
        std::vector<const char*> arguments;
        for (const std::string& argument : renewed)
            arguments.push_back(argument.c_str());
        app.parse(argc, arguments.data());
    } catch (const CLI::ParseError& e) {
        return app.exit(e) == 0 ? kFine : kUsage;
    } catch (const std::exception& e) {
        std::cerr << "vicegrip-cli: " << e.what() << '\n';
        return kNoAnswer;
    }
    return code;
}
