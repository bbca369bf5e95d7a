#include "core/diagnosis/predictions.h"

#include "core/base/in_parallel.h"
#include "core/diagnosis/between.h"
#include "core/electrics/readings.h"
#include "core/scaling/table.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace vicegrip::diagnosis {
namespace {

using job::Condition;
using units::Dimension;

/// The spots of one circuit under one condition, by their place in the list.
using Asked = std::map<Condition, std::map<job::CircuitId, std::vector<size_t>>>;

/// A bound that an instrument keeps is two of its standard deviations.
constexpr double kBoundOfSigmas = 2;

/// What no drawing says, a contact that is a little worse, a lead that lies otherwise, is worth this much: finer than
/// that no reading tells two faults apart (typical).
constexpr double kUnknown_v = 0.01, kUnknown_ohm = 0.1, kUnknownShare = 0.0025;

/// Of a car's error at a place, the share of its square that the other places of that way have too: both ends of a
/// wire are off as one, the ECU's own resistors and its table are its own (typical).
constexpr double kProbesShare = 0.98, kEcuShares = 0.7;

/// How far what is shown may be from what the model says, beside the car's tolerances.
double instrumentSigma(const job::Job& job, const Spot& spot, double value)
{
    using proof::StationKind;
    const job::Meter& m = job.meter;
    const bool volts = spot.place.dimension == Dimension::Voltage;
    if (spot.place.station.kind == StationKind::Probe)
        return std::hypot(((volts ? m.voltsShare : m.ohmsShare) * std::abs(value) + (volts ? m.volts_v : m.ohms_ohm)) /
                              kBoundOfSigmas,
                          volts ? kUnknown_v : kUnknown_ohm);
    const job::Circuit* circuit = job::find(job, spot.circuit);
    const parts::Part* sensor = job::sensorOf(job, *circuit);
    if (spot.place.station.kind == StationKind::Value)
        return sensor == nullptr ? kUnknownShare * std::abs(value) : kUnknownShare * (sensor->high - sensor->low);
    const parts::EcuInput* input = job::findInput(job, circuit->input);
    const double unit =
        spot.place.station.kind == StationKind::Counts && input != nullptr ? electrics::countVolts(job, *input) : 1;
    return volts || unit != 1 ? kUnknown_v / unit : std::max(1.0, kUnknownShare * std::abs(value));
}

class Predictor
{
  public:
    Predictor(const analysis::Analysis& analysis, const job::CircuitId& of, const std::vector<Spot>& spots)
        : m_analysis(analysis), m_job(*analysis.job), m_of(of), m_spots(spots)
    {
        const electrics::Wiring wiring(m_job);
        for (size_t i = 0; i < spots.size(); ++i) {
            m_asked[spots[i].place.condition][spots[i].circuit].push_back(i);
            if (!m_paths.contains(spots[i].circuit))
                m_paths[spots[i].circuit] = wiring.paths(*job::find(m_job, spots[i].circuit));
        }
    }

    [[nodiscard]] Solved of(const Suspect& suspect) const
    {
        Solved out{std::vector<Prediction>(m_spots.size()), {}};
        const job::Job fitted = faults::rewires(suspect.faults) ? faults::asWired(m_job, suspect.faults) : job::Job();
        const job::Job& job = faults::rewires(suspect.faults) ? fitted : m_job;
        for (const auto& [condition, circuits] : m_asked) {
            const auto car = electrics::build(m_job, {.condition = condition,
                                                      .surroundings = m_job.surroundings,
                                                      .faults = suspect.faults,
                                                      .bounded = false});
            if (!car)
                continue;
            for (const electrics::UnitNodes& unit : car->units)
                out.powered.push_back(unit.powered);
            for (const auto& [id, elements] : car->circuits)
                out.powered.push_back(elements.powered);
            electrics::Readings readings(*car, false);
            for (const auto& [id, asked] : circuits)
                circuit(out.shows, suspect, job, readings, id, asked);
        }
        return out;
    }

  private:
    void circuit(std::vector<Prediction>& out, const Suspect& suspect, const job::Job& job,
                 electrics::Readings& readings, const job::CircuitId& id, const std::vector<size_t>& asked) const
    {
        std::vector<proof::Place> places;
        for (const size_t i : asked)
            places.push_back(m_spots[i].place);
        const proof::CircuitView* view = analysis::find(m_analysis, id);
        const job::Circuit& of = *job::find(job, id);
        const auto table = view == nullptr ? std::nullopt : heldTable(*view, of, suspect);
        const auto all = proof::expectations(job, readings, of, m_paths.at(id), table ? &*table : nullptr, places);
        const parts::EcuInput* input = job::findInput(job, of.input);
        const parts::Part* sensor = job::sensorOf(job, of);
        const bool nonsense = input != nullptr && sensor != nullptr && parts::isSetOtherwise(*input, *sensor);
        for (size_t k = 0; k < asked.size(); ++k)
            if (nonsense && m_spots[asked[k]].place.station.kind != proof::StationKind::Probe)
                out[asked[k]].kind = Prediction::Kind::Anything;
            else
                out[asked[k]] = predicted(m_spots[asked[k]], all[k], table && falls(*table) ? -1 : 1);
    }

    [[nodiscard]] std::optional<scaling::Table> heldTable(const proof::CircuitView& view, const job::Circuit& circuit,
                                                          const Suspect& suspect) const
    {
        std::optional<scaling::Table> out = view.table;
        const parts::Part* sensor = job::sensorOf(m_job, circuit);
        for (const faults::Fault& fault : suspect.faults) {
            const auto* held = std::get_if<faults::HeldTable>(&fault);
            if (held == nullptr || !out || sensor == nullptr || held->input != circuit.input)
                continue;
            out->formula.reset();
            out->points.clear();
            for (const auto& p : held->points)
                out->points.push_back({p.volts, units::fromUnit(p.value, sensor->measures, out->unit)});
        }
        return out;
    }

    [[nodiscard]] bool atTheEnd(const Spot& spot, double value) const
    {
        const parts::EcuInput* input = job::findInput(m_job, job::find(m_job, spot.circuit)->input);
        if (spot.place.station.kind != proof::StationKind::Input || input == nullptr ||
            spot.place.dimension != Dimension::Voltage)
            return false;
        const double full = electrics::fullScaleVolts(m_job, *input);
        return value <= 1e-6 * full || value >= (1 - 1e-6) * full;
    }

    /// Whether its value falls where volts rise.
    static bool falls(const scaling::Table& table)
    {
        return table.points.size() > 1 && table.points.back().value < table.points.front().value;
    }

    /// What all readings along one way have in common, of the circuit that is looked at.
    [[nodiscard]] int causeOf(const Spot& spot) const
    {
        const job::Circuit& circuit = *job::find(m_job, spot.circuit);
        const parts::Part* sensor = job::sensorOf(m_job, circuit);
        if (spot.circuit != m_of || spot.place.dimension == Dimension::Frequency ||
            (spot.place.station.kind == proof::StationKind::Value && sensor != nullptr && parts::countsValue(*sensor)))
            return -1;
        using parts::PinRole;
        const PinRole role = spot.place.station.role;
        return (role == PinRole::Supply   ? 0
                : role == PinRole::Ground ? 1
                                          : 2) +
               (spot.place.dimension == Dimension::Resistance ? 3 : 0);
    }

    /// `sense`: which way it goes where the car's volts are too high.
    [[nodiscard]] Prediction predicted(const Spot& spot, const proof::Expectation& e, int sense) const
    {
        if (!e.promises() || e.due.isOverload())
            return {};
        if (e.due.isOpen())
            return {.kind = Prediction::Kind::Open};
        const double value = e.due.si();
        if (!std::isfinite(value))
            return {};
        // At an end of the converter it shows the end, however far beyond what is there may be.
        const double sigma = atTheEnd(spot, value) ? 0 : e.sigma;
        const bool probe = spot.place.station.kind == proof::StationKind::Probe;
        const int cause = causeOf(spot);
        const double shared = cause < 0 ? 0 : probe ? kProbesShare : kEcuShares;
        return {.kind = Prediction::Kind::Quantity,
                .value = value,
                .car = (spot.place.station.kind == proof::StationKind::Value ? sense : 1) * std::sqrt(shared) * sigma,
                .own = std::hypot(std::sqrt(1 - shared) * sigma, instrumentSigma(m_job, spot, value)),
                .grown = 0,
                .cause = cause};
    }

    const analysis::Analysis& m_analysis;
    const job::Job& m_job;
    job::CircuitId m_of;
    const std::vector<Spot>& m_spots;
    Asked m_asked;
    std::map<job::CircuitId, std::vector<electrics::Path>> m_paths;
};

} // namespace

std::vector<std::vector<Prediction>> predictions(const analysis::Analysis& analysis, const job::CircuitId& of,
                                                 const std::vector<Suspect>& suspects, const std::vector<Spot>& spots)
{
    std::vector<Solved> solved(suspects.size());
    const Predictor predictor(analysis, of, spots);
    const auto solve = [&](const std::vector<size_t>& which) {
        inParallel(which.size(), [&](size_t i) { solved[which[i]] = predictor.of(suspects[which[i]]); });
    };
    std::vector<size_t> first;
    const auto isOf = [&](size_t s, const std::string& series) {
        return s < suspects.size() && suspects[s].series == series;
    };
    for (size_t s = 0; s < suspects.size(); ++s)
        if (suspects[s].solved || !isOf(s + 1, suspects[s].series) || // nothing lies beyond the last of a series
            (suspects[s].size < 0 && !isOf(s - 1, suspects[s].series)))
            first.push_back(s);
    solve(first);
    const auto bends = bendsOf(analysis, spots);
    for (int pass = 0; pass < 3; ++pass)
        solve(needSolving(suspects, spots, bends, solved));
    fillBetween(suspects, spots, bends, solved);
    std::vector<std::vector<Prediction>> out;
    for (Solved& s : solved)
        out.push_back(std::move(s.shows));
    return out;
}

} // namespace vicegrip::diagnosis
