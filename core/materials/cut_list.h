#pragma once

#include "core/job/job.h"
#include "core/materials/habits.h"

#include <string>
#include <vector>

/// How long each wire is cut, and what is stripped at its ends.
namespace vicegrip::materials {

/// A wire as it is cut.
struct Cut
{
    job::WireId wire;
    std::string from, to; ///< in words
    std::string colour; ///< IEC 60757
    double area_m2 = 0;
    double drawn_m = 0;
    double cut_m = 0; ///< with slack, service loops and stagger, rounded up to whole centimetres
    double stripFrom_m = 0, stripTo_m = 0; ///< what the terminal or splice at each end needs
    double stagger_m = 0; ///< why it is longer than its neighbours: its splices sit so much further out
    std::vector<job::WireId> twistedWith; ///< the other cores of its lead
    bool shielded = false; ///< a core of a lead that is bought as one
    std::vector<std::string> drain; ///< where that lead's shield lands, in words; empty: nowhere
};

/// Every wire with what it is twisted with, thickest first, then by colour and length, so that one reel is cut through
/// before the next. Splices are staggered in the order they are drawn: each sits a stagger further from the plug than
/// the one before.
[[nodiscard]] std::vector<Cut> cutList(const job::Job& job, const Habits& habits = {});

/// What hands do with a wire but cut it, for a reader and for a file: "splice 40 mm further out", "twisted with w7".
[[nodiscard]] std::string noteShown(const Cut& cut);
[[nodiscard]] std::string noteOf(const Cut& cut);

/// RFC 4180, a header line first. Lengths in m, areas in mm², strips in mm.
[[nodiscard]] std::string toCsv(const std::vector<Cut>& cuts);

} // namespace vicegrip::materials
