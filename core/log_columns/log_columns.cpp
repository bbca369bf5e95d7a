#include "core/log_columns/log_columns.h"

#include "core/alike/alike.h"
#include "core/dbc/dbc.h"
#include "core/stream/stream.h"
#include "core/units/shown.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <filesystem>
#include <map>
#include <set>

namespace vicegrip::log_columns {
namespace {

using enum Quantity;
using units::Dimension;
using Words = std::set<std::string>;

Words wordsOf(const log::Column& column)
{
    return alike::wordsOf(alike::apart(column.name));
}

bool any(const Words& words, std::initializer_list<const char*> of)
{
    return std::ranges::any_of(of, [&](const char* w) { return words.contains(w); });
}

bool all(const Words& words, std::initializer_list<const char*> of)
{
    return std::ranges::all_of(of, [&](const char* w) { return words.contains(w); });
}

bool isAsked(const Words& words)
{
    return any(words, {"target", "asked", "desired", "demand", "demanded", "setpoint", "command", "commanded",
                       "requested", "request", "aim", "goal", "wanted", "soll"});
}

/// Two values and no others, at least one change between them.
bool isSwitched(const log::Column& column)
{
    float low = NAN, high = NAN;
    for (const float v : column.values) {
        if (std::isnan(v) || v == low || v == high)
            continue;
        if (!std::isnan(high))
            return false;
        (std::isnan(low) ? low : high) = v;
    }
    return !std::isnan(high);
}

/// What words and unit say of a column alone.
Quantity byWords(const log::Column& column)
{
    const Words w = wordsOf(column);
    const std::string& unit = column.unit;
    const bool second = any(w, {"2", "b"});
    const bool pressure = unit.empty() || units::measures(unit, Dimension::AbsolutePressure);
    const bool temperature = unit.empty() || units::measures(unit, Dimension::Temperature);
    if (isAsked(w)) {
        if (any(w, {"pressure", "charge", "manifold"}) && pressure)
            return AskedPressure;
        return any(w, {"lambda"}) ? AskedMixture : Other;
    }
    if (any(w, {"correction", "trim", "stft", "ltft"}) || all(w, {"closed", "loop"}))
        return Correction;
    if (any(w, {"rpm"}) || (all(w, {"engine", "speed"}) && !w.contains("road")))
        return any(w, {"turbocharger", "wheel"}) ? Other : EngineSpeed;
    if (any(w, {"duty", "motor", "valve", "error", "rate"}))
        return isSwitched(column) ? Consumer : Other;
    if (any(w, {"throttle"}))
        return second ? SecondThrottle : Throttle;
    if (any(w, {"pedal"}))
        return second ? SecondPedal : Pedal;
    if (any(w, {"manifold"}) && pressure)
        return Manifold;
    if (all(w, {"charge", "pressure"}) && pressure)
        return Charge;
    if (any(w, {"lambda"}))
        return Mixture;
    if (all(w, {"intake", "air", "temp"}) || all(w, {"charge", "temp"}))
        return temperature ? IntakeAir : Other;
    if (any(w, {"temp"}) && temperature)
        return any(w, {"coolant"})                   ? (w.contains("charge") ? Other : Coolant)
               : any(w, {"gearbox", "transmission"}) ? GearboxTemp
               : any(w, {"oil"})                     ? OilTemp
                                                     : Other;
    if (all(w, {"oil", "pressure"}) && pressure)
        return OilPressure;
    if (all(w, {"fuel", "composition"}))
        return Ethanol;
    if (any(w, {"gear"}) && unit.empty())
        return Gear;
    if (units::measures(unit, Dimension::Speed) || all(w, {"road", "speed"}))
        return RoadSpeed;
    if (all(w, {"sensor", "supply"}))
        return Supply;
    if (all(w, {"power", "feed"}) && (unit.empty() || units::measures(unit, Dimension::Voltage)))
        return Battery;
    return unit.empty() && isSwitched(column) ? Consumer : Other;
}

/// What a circuit is to an engine.
Quantity ofFunction(const std::string& function)
{
    static const std::map<std::string, Quantity, std::less<>> kFunctions = {{"crank", EngineSpeed},
                                                                            {"map", Manifold},
                                                                            {"charge-pressure", Charge},
                                                                            {"iat", IntakeAir},
                                                                            {"clt", Coolant},
                                                                            {"tps", Throttle},
                                                                            {"tps2", SecondThrottle},
                                                                            {"pedal1", Pedal},
                                                                            {"pedal2", SecondPedal},
                                                                            {"flex", Ethanol},
                                                                            {"wideband", Mixture},
                                                                            {"oil-pressure", OilPressure},
                                                                            {"oil-temp", OilTemp},
                                                                            {"gearbox-temp", GearboxTemp},
                                                                            {"speed", RoadSpeed},
                                                                            {"gear", Gear}};
    const auto it = kFunctions.find(function);
    return it == kFunctions.end() ? Other : it->second;
}

Dimension measured(Quantity quantity, const std::string& unit)
{
    switch (quantity) {
    case EngineSpeed:
        return Dimension::Frequency;
    case Throttle:
    case SecondThrottle:
    case Pedal:
    case SecondPedal:
    case Correction:
    case Ethanol:
        return Dimension::Ratio;
    case Manifold:
    case Charge:
    case AskedPressure:
        return Dimension::AbsolutePressure;
    case OilPressure:
        return Dimension::GaugePressure;
    case Mixture:
    case AskedMixture:
        return Dimension::Lambda;
    case RoadSpeed:
        return Dimension::Speed;
    case Battery:
    case Supply:
        return Dimension::Voltage;
    case IntakeAir:
    case Coolant:
    case OilTemp:
    case GearboxTemp:
        return Dimension::Temperature;
    case Other:
    case Gear:
    case Consumer:
        break;
    }
    for (const Dimension d : {Dimension::Voltage, Dimension::Temperature, Dimension::GaugePressure,
                              Dimension::Frequency, Dimension::MassFlow, Dimension::Current})
        if (!unit.empty() && units::measures(unit, d))
            return d;
    return unit == "%" ? Dimension::Ratio : Dimension::Counts;
}

float leastOf(const log::Column& column)
{
    float least = INFINITY;
    for (const float v : column.values)
        least = v < least ? v : least;
    return least;
}

/// How the column's numbers become SI.
void setScale(Meaning& meaning, const log::Column& column, double barometer_pa)
{
    constexpr double kNoShare = 1.5; // a share has no unit and goes to 1; above that it is percent
    std::string unit = meaning.unit;
    if (meaning.quantity == EngineSpeed && meaning.tells == job::Tells::Value)
        unit = unit.empty() || unit == "1/min" || unit == "r/min" ? "rpm" : unit;
    if (meaning.measures == Dimension::Ratio && unit.empty() && meaning.quantity != Correction)
        unit = std::ranges::any_of(column.values, [&](float v) { return v > kNoShare; }) ? "%" : "";
    if (meaning.measures == Dimension::Temperature && unit.empty())
        unit = "°C";
    if ((meaning.measures == Dimension::AbsolutePressure || meaning.measures == Dimension::GaugePressure) &&
        unit.empty())
        unit = "kPa";
    if (const auto si = stream::toSi(meaning.tells, meaning.measures, unit)) {
        meaning.scale = si->scale;
        meaning.offset = si->offset;
    }
    constexpr double kBelow = 0.1; // of the air outside: an engine's manifold is never that empty
    if (meaning.measures == Dimension::AbsolutePressure && meaning.tells == job::Tells::Value &&
        meaning.toSi(leastOf(column)) < kBelow * barometer_pa) {
        meaning.gauge = true;
        meaning.offset += barometer_pa;
    }
}

/// A command that never goes low says nothing of its zero: that is the one of the pressure it is for.
void takeZero(std::vector<Meaning>& meanings, std::size_t asked)
{
    for (const Quantity q : {Charge, Manifold})
        for (std::size_t c = 0; c < meanings.size(); ++c)
            if (meanings[c].quantity == q && meanings[c].unit == meanings[asked].unit) {
                meanings[asked].gauge = meanings[c].gauge;
                meanings[asked].offset = meanings[c].offset;
                return;
            }
}

/// Of a circuit's input: its value, or its volts where that is what the unit fits.
void setCircuit(Meaning& meaning, const job::Circuit& circuit, const parts::Part& sensor, job::Tells tells)
{
    meaning.circuit = circuit.id;
    meaning.tells = tells;
    meaning.measures = tells == job::Tells::Value ? sensor.measures : Dimension::Voltage;
    if (tells != job::Tells::Value)
        meaning.quantity = Other;
    else if (const Quantity q = ofFunction(circuit.function.value); q != Other)
        meaning.quantity = q;
}

/// What a hand said goes, as far as it can be.
void takeSaid(Meaning& meaning, const job::LogColumn& said, const job::Job& job)
{
    meaning.byHand = true;
    meaning.unit = said.in.empty() ? meaning.unit : said.in;
    const job::Circuit* circuit = job::find(job, said.circuit);
    const parts::Part* sensor = circuit == nullptr ? nullptr : job::sensorOf(job, *circuit);
    if (const auto quantity = quantityOf(said.holds); quantity || sensor != nullptr)
        meaning.quantity = quantity.value_or(Other);
    meaning.measures = measured(meaning.quantity, meaning.unit);
    if (sensor == nullptr)
        return;
    const bool isVolts = !meaning.unit.empty() && !stream::toSi(job::Tells::Value, sensor->measures, meaning.unit) &&
                         stream::toSi(job::Tells::Volts, sensor->measures, meaning.unit);
    setCircuit(meaning, *circuit, *sensor, isVolts ? job::Tells::Volts : job::Tells::Value);
}

/// The circuits whose inputs the columns hold, by the words of both.
void matchCircuits(std::vector<Meaning>& meanings, const log::Log& log, const job::Job& job)
{
    dbc::Message rows{1, false, "", 0, {}};
    for (std::size_t c = 0; c < log.columns.size(); ++c) {
        const Quantity q = meanings[c].quantity;
        if (meanings[c].byHand || q == AskedPressure || q == AskedMixture || q == Correction || q == Consumer ||
            isAsked(wordsOf(log.columns[c])))
            continue;
        dbc::Signal signal;
        signal.name = log.columns[c].name;
        signal.unit = log.columns[c].unit;
        rows.carries.push_back(std::move(signal));
    }
    const stream::Matcher matcher(std::make_shared<const dbc::Database>(std::vector{rows}));
    for (const stream::Matched& m : matcher.match(job)) {
        const auto column = std::ranges::find(log.columns, m.told.signal, &log::Column::name);
        const job::Circuit* circuit = job::find(job, m.circuit);
        const parts::Part* sensor = circuit == nullptr ? nullptr : job::sensorOf(job, *circuit);
        if (column == log.columns.end() || sensor == nullptr ||
            std::ranges::any_of(meanings, [&](const Meaning& x) { return x.byHand && x.circuit == m.circuit; }))
            continue;
        setCircuit(meanings[static_cast<std::size_t>(column - log.columns.begin())], *circuit, *sensor, m.told.tells);
    }
}

} // namespace

std::vector<Meaning> meaningsOf(const log::Log& log, const job::Job* job)
{
    constexpr double kStandard_pa = 101325; // ISO 2533
    std::vector<Meaning> out(log.columns.size());
    for (std::size_t c = 0; c < out.size(); ++c) {
        out[c].quantity = byWords(log.columns[c]);
        out[c].unit = log.columns[c].unit;
        out[c].measures = measured(out[c].quantity, out[c].unit);
        if (const job::LogColumn* said = job == nullptr ? nullptr : saidOf(*job, log.columns[c]))
            takeSaid(out[c], *said, *job);
    }
    if (job != nullptr)
        matchCircuits(out, log, *job);
    for (std::size_t c = 0; c < out.size(); ++c)
        setScale(out[c], log.columns[c], job == nullptr ? kStandard_pa : job->surroundings.barometer_pa);
    for (std::size_t c = 0; c < out.size(); ++c)
        if (out[c].quantity == AskedPressure)
            takeZero(out, c);
    return out;
}

std::optional<std::size_t> columnOf(const std::vector<Meaning>& meanings, Quantity quantity)
{
    std::optional<std::size_t> out;
    for (std::size_t c = 0; c < meanings.size(); ++c)
        if (meanings[c].quantity == quantity && (!out || (meanings[c].byHand && !meanings[*out].byHand)))
            out = c;
    return out;
}

const job::LogColumn* saidOf(const job::Job& job, const log::Column& column)
{
    const auto it = std::ranges::find_if(job.logColumns, [&](const job::LogColumn& said) {
        return said.name == column.name && said.unit == column.unit;
    });
    return it == job.logColumns.end() ? nullptr : &*it;
}

void say(job::Job& job, job::LogColumn said)
{
    std::erase_if(job.logColumns, [&](const job::LogColumn& c) { return c.name == said.name && c.unit == said.unit; });
    if (!said.circuit.empty() || !said.holds.empty() || !said.in.empty())
        job.logColumns.push_back(std::move(said));
}

std::vector<job::LogMark> marksOf(const job::Job& job, const std::string& file)
{
    std::vector<job::LogMark> out;
    const std::string name = std::filesystem::path(file).filename().string();
    std::ranges::copy_if(job.logMarks, std::back_inserter(out), [&](const job::LogMark& m) { return m.log == name; });
    std::ranges::stable_sort(out, {}, &job::LogMark::at_s);
    return out;
}

namespace {

/// A number with as many decimals as four digits need.
std::string plain(double value, const std::string& unit)
{
    const double size = std::abs(value);
    const int decimals = size >= 1000 ? 0 : size >= 100 ? 1 : size >= 10 ? 1 : 2;
    return units::formatNumber(value, decimals) + (unit.empty() ? "" : " " + unit);
}

} // namespace

std::string valueText(const Meaning& meaning, double value)
{
    if (meaning.quantity == EngineSpeed && meaning.tells == job::Tells::Value)
        return units::formatNumber(meaning.toSi(value) * 60, 0) + " rpm";
    if (meaning.measures == Dimension::AbsolutePressure && meaning.tells == job::Tells::Value)
        return meaning.gauge ? plain(value, meaning.unit) + " gauge"
                             : units::format(meaning.toSi(value), meaning.measures,
                                             meaning.unit.empty() ? "kPa" : meaning.unit, 1);
    if (meaning.measures == Dimension::Temperature && meaning.tells == job::Tells::Value)
        return units::format(meaning.toSi(value), meaning.measures, "°C", 1);
    return plain(value, meaning.unit);
}

std::string pressureDifferenceText(double pa)
{
    const std::string unit = units::shownUnit(Dimension::AbsolutePressure, "kPa");
    const double off = units::differenceToUnit(pa, Dimension::AbsolutePressure, unit);
    return units::formatNumber(off, unit == "kPa" ? 1 : 2) + " " + unit;
}

std::string differenceText(const Meaning& meaning, double difference)
{
    if (meaning.quantity == EngineSpeed && meaning.tells == job::Tells::Value)
        return units::formatNumber(difference * meaning.scale * 60, 0) + " rpm";
    if (meaning.measures == Dimension::Temperature && meaning.tells == job::Tells::Value)
        return units::format(difference * meaning.scale, Dimension::TemperatureDifference, "K", 1);
    if (meaning.measures == Dimension::Lambda && meaning.tells == job::Tells::Value)
        return units::formatNumber(difference * meaning.scale, 3) + " λ";
    return plain(difference, meaning.unit);
}

} // namespace vicegrip::log_columns
