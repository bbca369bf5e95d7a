#pragma once

#include "core/diagnosis/two_at_once.h"

#include <map>
#include <optional>
#include <string>
#include <vector>

namespace vicegrip::diagnosis {

/// A reading beside those of the job: what is in hand, and not written down. An overload of what the ECU reports: it
/// reports nothing.
struct Taken
{
    job::CircuitId circuit;
    std::string station; ///< key, as proof::Station
    job::Reading reading;
};

/// What a reading would mean.
struct Outcome
{
    std::string shows; ///< "4.9 to 5.1 V", "open"
    std::string means; ///< the likeliest of what would show it
    double share = 0; ///< how likely it is
};

/// A reading that can be taken next.
struct Probe
{
    Spot spot;
    bool again = false; ///< it was read: whether that was a slip is worth knowing
    double bits = 0; ///< expected
    double seconds = 0; ///< of work
    std::vector<Outcome> outcomes; ///< the likeliest first
};

struct Diagnosis
{
    std::vector<Suspect> suspects;
    std::vector<double> belief; ///< by suspect
    std::vector<Group> groups; ///< the likeliest first; by what the circuit's places could show
    std::vector<Probe> probes; ///< the most bits for a second first
    /// Where the likeliest is proved mended: it reads otherwise there than a sound car, for the least work. None where
    /// nothing is wrong.
    std::optional<Spot> secondLook;
    std::vector<job::CircuitId> explains; ///< circuits whose wrong readings the likeliest explains, all of them
    bool enough = false; ///< one group is as good as sure, or no probe is worth its work
    std::vector<std::string> slips; ///< readings that what is believed does not explain, as sentences
    std::string trouble; ///< why nothing can be said; empty where something is
};

/// What may be wrong with a circuit of a job that was analysed, with the table that the ECU is given for it.
[[nodiscard]] std::vector<Suspect> suspects(const analysis::Analysis& analysis, const job::CircuitId& circuit,
                                            const Families& families, const parts::Library& library);

/// Looks for what is wrong with one circuit. The networks of all suspects are solved once; a further reading moves the
/// belief, and no more. Where no single one explains what was read, pairs are put into the network too. The analysis,
/// the families and the library must outlive it.
class Finder
{
  public:
    Finder(const analysis::Analysis& analysis, const job::CircuitId& circuit, const Families& families,
           const parts::Library& library);

    /// Goes on with the job as it has become: after a reading, a click, a mend. False where what is drawn is another,
    /// and a new one must look.
    [[nodiscard]] bool goOnWith(const analysis::Analysis& analysis);

    /// From every reading of the job that still stands and those in hand: all of the circuit, and those of others,
    /// which share its grounds and its supply. `now`: the condition the car is in, for the costs. `most`: that many
    /// probes are worked out in words.
    [[nodiscard]] Diagnosis diagnosis(const std::vector<Taken>& inHand, job::Condition now, size_t most = 3);

  private:
    /// All that is suspected, for one set of readings: single faults, then pairs.
    struct Looked
    {
        std::vector<Suspect> suspects;
        std::vector<std::vector<Prediction>> predicted;
    };

    void weigh();
    void know(const std::vector<Spot>& spots);
    void knowOwn(const std::vector<Taken>& inHand);
    void addPairs(Looked& looked, const std::vector<Evidence>& evidence, const std::vector<double>& spans);
    [[nodiscard]] bool isOwn(size_t spot) const { return m_spots[spot].circuit == m_circuit; }
    [[nodiscard]] std::optional<Spot> secondLook(const Looked& looked, size_t suspect) const;

    const analysis::Analysis* m_analysis;
    job::CircuitId m_circuit;
    const Families& m_families;
    const parts::Library& m_library;
    std::string m_trouble;
    std::vector<Suspect> m_suspects; ///< single faults
    std::vector<double> m_clickChances; ///< by suspect
    std::vector<Spot> m_spots; ///< of the circuit, and of others that were read
    std::vector<std::vector<Prediction>> m_predicted; ///< by suspect, for these spots
    std::map<Pair, std::vector<Prediction>> m_pairs; ///< those that were looked at
};

} // namespace vicegrip::diagnosis
