#pragma once

#include "core/diagnosis/families.h"
#include "core/faults/fault_list.h"
#include "core/parts/library.h"

#include <string>
#include <vector>

/// What may be wrong with a circuit, before anything is known of it.
namespace vicegrip::diagnosis {

/// One thing that may be wrong: as edits of the car, so that the network says what would be read.
struct Suspect
{
    std::string family; ///< of families.h; "nothing" where the car is as drawn
    faults::FaultList faults;
    std::string what; ///< "Wire w20 is open between Cavity A11 and Plug FP 2"
    std::string mend; ///< what hands do about it
    std::vector<job::PointRef> places; ///< where it is
    double weight = 0; ///< its share of the family's, more where hands worked that day, less where it was mended
    std::string raised = {}; ///< why; empty where it is neither
    faults::Subjects subjects = {}; ///< what its mend touches, as facts name it
    std::string series = {}; ///< those that differ by their size alone bear the same one; empty: it has no size
    double size = 0; ///< ohms, or a share of the sensor's range
    bool solved = true; ///< else what is read lies between what is read at the sizes that are
};

/// Every single fault that touches the circuit, its neighbours in its plugs, its supply or its grounds; first of all
/// that nothing is wrong. `table` is what the ECU was given for it, in the ECU's unit; empty for none.
[[nodiscard]] std::vector<Suspect> suspects(const job::Job& job, const job::CircuitId& circuit,
                                            const Families& families, const parts::Library& library,
                                            const std::vector<faults::HeldTable::Point>& table);

} // namespace vicegrip::diagnosis
