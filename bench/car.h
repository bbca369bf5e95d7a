#pragma once

#include "bench/loose_wires.h"
#include "bench/under_bonnet.h"
#include "core/electrics/readings.h"
#include "core/job/job.h"
#include "link/ecu_frames.h"

#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <random>
#include <string>
#include <vector>

/// The simulated car: the job's own network with a fault list, what hands have done to it, and the instruments' noise.
namespace vicegrip::bench {

class Car
{
  public:
    /// `job` is as drawn. The car as fitted is never quite nominal: `seed` decides how far within tolerance its supply
    /// and battery lie.
    Car(job::Job job, faults::FaultList faults, unsigned seed = 1);

    /// Another drawing or fault list; what hands have done stays. Errors as electrics::build; the car stays as it was.
    Result<void> rewire(job::Job job, faults::FaultList faults);

    /// Faults from who practises on it, in no file; the ECU is left holding the table that each circuit asks for.
    /// Errors as faults::readFaults.
    Result<void> practise(std::string_view faults);
    [[nodiscard]] const faults::FaultList& faults() const { return m_faults; }

    /// What hands do. Errors (Reference) name what the car does not have.
    Result<void> setCondition(job::Condition condition);
    Result<void> putProbes(const job::PointRef& red, const job::PointRef& black);
    /// Of a scope, a tip and a clip for each channel.
    Result<void> putTips(std::vector<electrics::Leads> channels);
    Result<void> apply(const job::CircuitId& circuit, double value); ///< SI
    Result<void> setAmbient(double kelvin);
    /// Fuel, onto so much that is in the tank. It reaches the sensor as the pump moves it. Errors (Range): no fuel, or
    /// more than a tank holds.
    Result<void> pour(double onto_m3, const fuel::Fill& fill);
    /// The crank, by hand: degrees since it was left alone. Errors (Range): the engine turns by itself.
    Result<void> turn(double crank_deg);

    /// All that hands have put right, mend by mend, as facts: faults whose mend touches no more than one of them are
    /// gone, and what is in none of them any more is broken again. A table that was left in the ECU goes with its
    /// fault.
    Result<void> mend(std::vector<faults::Subjects> mends);

    /// What hands hold and move, as faults::Loose::heldAs; empty: they are off.
    void hold(std::set<std::string> held) { m_loose.hold(std::move(held)); }
    /// So many seconds later: what is loose may have let go, or touch again, and the engine has gone on by what its ECU
    /// reads.
    void pass(double seconds);

    /// One step of a drive: who drives moves throttle, gear and brakes, and nothing is in a hurry.
    void drive(double seconds, engine::Driver& driver);
    [[nodiscard]] const UnderBonnet& engine() const { return m_engine; }
    /// Whether the engine runs by itself. It may be asked to, and not.
    [[nodiscard]] bool runs() const { return m_condition == job::Condition::Running && m_engine.runs(); }

    /// The ECU switches one of its outputs on by itself: the circuits whose part answers. Errors (Reference): no such
    /// output, or the ECU is off.
    [[nodiscard]] Result<std::vector<job::CircuitId>> click(const parts::OutputId& output) const;

    /// What a scope's channels see while the engine turns, or stands: the same moment of each, `samples` of them
    /// `step_s` apart. Errors (Reference): nobody has put its tips anywhere, or the car has changed under them.
    [[nodiscard]] Result<std::vector<std::vector<float>>> scope(double step_s, size_t samples);
    /// What the ECU counts of the crank, turns a minute: 0 where its wheel does not decode by the edge it counts.
    [[nodiscard]] double countedRpm();

    /// What the ECU has for each circuit of the job by the tables it was given, SI; none: it is told nothing of it.
    [[nodiscard]] std::vector<std::optional<double>> values();
    /// At the ECU's own feed; 0 without power.
    [[nodiscard]] double feedVolts() const;

    /// The meter across the probes. No value: overload, or nothing that can be measured so.
    [[nodiscard]] std::optional<double> volts();
    [[nodiscard]] std::optional<double> ohms();

    /// What the ECU sends; nothing while it has no power. Tables as last accepted.
    [[nodiscard]] std::vector<link::EcuSample> samples();
    /// What the ECU counts on its frequency inputs. An output that cannot pull its line down, or whose line is not
    /// pulled up, gives no pulses.
    [[nodiscard]] std::vector<link::EcuPulses> pulses();
    /// What the ECU was left holding: the tables whose value the job has on record, and what the fault list says.
    void takeUpTables();
    /// As it takes them up, of these circuits.
    void takeUpTables(const std::function<bool(const job::Circuit&)>& given);
    void accept(const link::EcuTable& table) { m_tables[table.input] = table; }

    [[nodiscard]] const job::Job& job() const { return m_job; }
    [[nodiscard]] job::Condition condition() const { return m_condition; }

  private:
    [[nodiscard]] electrics::Situation situation() const;
    [[nodiscard]] faults::FaultList left() const;
    [[nodiscard]] faults::FaultList now() const; ///< those left, and what has let go
    [[nodiscard]] Result<void> areThere(const std::vector<electrics::Leads>& places) const;
    [[nodiscard]] double counted();
    [[nodiscard]] std::vector<float> seenBetween(const electrics::Leads& leads, double step_s, size_t samples);
    [[nodiscard]] bool makesSense(const parts::EcuInput& input) const;
    void takeUp(const faults::HeldTable& held);
    Result<void> solve();
    Result<void> changed();
    void keepAsked();
    void goOn(double seconds, UnderBonnet::By by, double hurry);
    [[nodiscard]] bool feelsOtherwise() const;
    [[nodiscard]] std::map<job::CircuitId, double> measurands() const;
    double noise(double sigma) { return std::normal_distribution<double>(0, sigma)(m_random); }

    job::Job m_job; ///< as drawn
    job::Job m_asBuilt; ///< with the tolerances this car came out with
    job::Job m_fitted; ///< as its faults have it
    faults::FaultList m_faults;
    std::vector<faults::Subjects> m_mends;
    LooseWires m_loose;
    UnderBonnet m_engine;
    electrics::Situation m_solvedWith; ///< when the network was solved last
    job::Condition m_condition = job::Condition::KeyOn; ///< that hands have asked for
    job::Condition m_state = job::Condition::KeyOn; ///< of the car: an engine that was asked to run may stand
    std::map<job::CircuitId, double> m_measurands;
    double m_ambient_k;
    std::optional<double> m_crank_deg; ///< where hands have turned it to; none: it stands where no tooth is seen
    job::PointRef m_red, m_black;
    std::vector<electrics::Leads> m_tips; ///< of a scope
    std::shared_ptr<const electrics::Electrics> m_electrics; ///< null: it cannot be solved
    std::map<int, link::EcuTable> m_tables;
    std::optional<double> m_counts; ///< of the crank's speed, so much; none: not looked at since the car changed
    double m_countsAt_rpm = 0, m_last_rpm = 0;
    std::uint32_t m_captures = 0; ///< so far: chance is another each time
    unsigned m_seed;
    std::mt19937 m_random;
};

} // namespace vicegrip::bench
