#pragma once

#include "core/dbc/database.h"
#include "core/job/job.h"

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

/// The signals whose unit fits what the circuit's input can be told to be, the likest first. A signal in volts tells
/// the input's volts, unless its sensor measures volts itself; without a unit its words say whether it is volts or
/// counts. Signals of other units are not in it; those of a unit that is not known come last.
[[nodiscard]] std::vector<Candidate> candidates(const job::Job& job, const job::Circuit& circuit,
                                                const dbc::Database& database);

/// What each circuit is told, as far as the words leave no doubt: one signal for each thing that can be told, the
/// likest pairs first; a signal of an unknown unit is not taken; where two signals are as like each other as they are
/// to the circuit, none is taken. Circuits without a sensor or a seat are told nothing.
struct Matched
{
    job::CircuitId circuit;
    job::Told told;
    double likeness = 0;
};
[[nodiscard]] std::vector<Matched> match(const job::Job& job, const dbc::Database& database);

/// The signal, as it stands for the circuit where it sits now.
[[nodiscard]] job::Told toldBy(const job::Circuit& circuit, const Candidate& candidate);

} // namespace vicegrip::stream
