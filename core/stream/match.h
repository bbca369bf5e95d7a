#pragma once

#include "core/dbc/database.h"
#include "core/job/job.h"

#include <map>
#include <memory>
#include <optional>
#include <set>
#include <string>
#include <vector>

/// Signals of a database beside the circuits of a job.
namespace vicegrip::stream {

/// A signal that may stand for a circuit.
struct Candidate
{
    const dbc::Message* message = nullptr;
    const dbc::Signal* signal = nullptr;
    job::Tells tells = job::Tells::Value;
    double likeness = 0; ///< of the words: from 0 to 1
    bool unknownUnit = false; ///< a unit that nobody here knows: a hand must say it
};

/// What a circuit is told.
struct Matched
{
    job::CircuitId circuit;
    job::Told told;
    double likeness = 0;
};

/// A database whose names were read into words once: it may have tens of thousands of signals. It changes nothing as it
/// is asked, so any thread may.
class Matcher
{
  public:
    explicit Matcher(std::shared_ptr<const dbc::Database> database);

    [[nodiscard]] const std::shared_ptr<const dbc::Database>& database() const { return m_database; }

    /// The signals whose unit fits what the circuit's input can be told to be, the likest first. A signal in volts
    /// tells the input's volts, unless its sensor measures volts itself; without a unit its words say whether it is
    /// volts or counts. Signals of other units are not in it; those of a unit that is not known come last.
    [[nodiscard]] std::vector<Candidate> candidates(const job::Job& job, const job::Circuit& circuit) const;

    /// What each circuit is told, as far as the words leave no doubt: one signal for each thing that can be told, the
    /// likest pairs first; a signal of an unknown unit is not taken; where two signals are as like each other as they
    /// are to the circuit, none is taken. Circuits without a sensor or a seat are told nothing.
    [[nodiscard]] std::vector<Matched> match(const job::Job& job) const;

  private:
    /// What a name is about: its words, by their numbers in m_words, rising, and its own number apart.
    struct About
    {
        std::vector<int> words;
        std::string number;
    };
    /// A signal as its names say it.
    struct Read
    {
        const dbc::Message* message = nullptr;
        const dbc::Signal* signal = nullptr;
        About own, withMessage;
        bool volts = false, counts = false, pulses = false, low = false; ///< what its words say of its numbers
        bool isKnown = false; ///< its unit is one of ours
    };
    [[nodiscard]] About about(const std::set<std::string>& words) const;
    [[nodiscard]] std::vector<About> namesOf(const job::Job& job, const job::Circuit& circuit) const;
    [[nodiscard]] static std::optional<job::Tells> tellsOf(const Read& read, const parts::Part& sensor);

    std::shared_ptr<const dbc::Database> m_database;
    std::map<std::string, int> m_words;
    std::vector<Read> m_signals;
};

/// The signal, as it stands for the circuit where it sits now.
[[nodiscard]] job::Told toldBy(const job::Circuit& circuit, const Candidate& candidate);

} // namespace vicegrip::stream
