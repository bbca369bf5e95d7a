#pragma once

#include "core/base/result.h"
#include "core/faults/kinds/added_resistance.h"
#include "core/faults/kinds/bad_contact.h"
#include "core/faults/kinds/bad_stud.h"
#include "core/faults/kinds/dead_cranking.h"
#include "core/faults/kinds/drift.h"
#include "core/faults/kinds/exchanged_plugs.h"
#include "core/faults/kinds/held_table.h"
#include "core/faults/kinds/loose.h"
#include "core/faults/kinds/miscounted.h"
#include "core/faults/kinds/moved_end.h"
#include "core/faults/kinds/no_charge.h"
#include "core/faults/kinds/noisy_signal.h"
#include "core/faults/kinds/open_wire.h"
#include "core/faults/kinds/other_part.h"
#include "core/faults/kinds/short.h"
#include "core/faults/kinds/slack_belt.h"
#include "core/faults/kinds/swapped_cavities.h"
#include "core/faults/kinds/wheel_off.h"
#include "core/faults/kinds/wrong_edge.h"
#include "core/faults/kinds/wrong_mode.h"
#include "core/faults/kinds/wrong_setting.h"

#include <filesystem>
#include <string_view>
#include <variant>
#include <vector>

/// What is wrong with a car. A fault list is JSON after data/schema/faults.schema.json:
///
///     {"faults": [{"kind": "open", "wire": "w12"}, {"kind": "swap", "connector": "A", "cavities": ["7", "8"]}]}
///
/// In this room: kinds/ (a file for each kind: what it is called, what it needs of the job, what it changes),
/// network_edits.h (what can be changed in a network).
namespace vicegrip::faults {

/// All kinds there are. Each edits the wiring (`rewire`), the network (`change`), or what the ECU was left holding.
using Fault = std::variant<OpenWire, AddedResistance, BadContact, BadStud, Short, SwappedCavities, Miscounted, MovedEnd,
                           InputSetting, WrongMode, OtherPart, ExchangedPlugs, DeadCranking, NoCharge, Drift, HeldTable,
                           Loose, WheelOff, NoisySignal, SlackBelt, WrongEdge>;
using FaultList = std::vector<Fault>;

/// Reads a fault list for this job. Errors as for a job, and Reference for a wire or cavity the job does not have.
[[nodiscard]] Result<FaultList> readFaults(std::string_view text, const job::Job& job);
[[nodiscard]] Result<FaultList> readFaultsFile(const std::filesystem::path& file, const job::Job& job);
/// The text that is read back as the same list.
[[nodiscard]] std::string writeFaults(const FaultList& faults);

/// The job as it is really wired and fitted: exchanged cavities, ends that are elsewhere, other settings and parts.
[[nodiscard]] job::Job asWired(job::Job job, const FaultList& faults);
/// Whether that would be another job.
[[nodiscard]] bool rewires(const FaultList& faults);
/// Whether the job has what it is a fault of.
[[nodiscard]] bool isThere(const Fault& fault, const job::Job& job);
/// What a mend of it touches in this job, as facts name it: what rests on those must be read again.
[[nodiscard]] Subjects subjectsOf(const Fault& fault, const job::Job& job);
/// What they change in its network.
[[nodiscard]] NetworkEdits editsOf(const FaultList& faults);

} // namespace vicegrip::faults
