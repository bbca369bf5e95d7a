#pragma once

#include "core/job/job.h"

#include <array>
#include <map>
#include <string>
#include <vector>

/// A job's electrical facts under names a person knows, each as one short text. A proof keeps the facts it rests on;
/// comparing them with today's says whether it is stale, and why in one line.
///
///     {"input AN3 pull-up": "2k49 Ω", "wire w12": "BU/WH 0.5 mm² 0.9 m, CLT.1 to BE.6", "ECU firmware": "0.4"}
namespace vicegrip::job {

using Facts = std::map<std::string, std::string>;

/// The subjects of a unit (its place in job::units), of its sensor supply, and of what it draws itself: "ECU", "supply"
/// and "feed", or "expander 1", "expander-supply 1" and "expander-feed 1".
[[nodiscard]] std::string unitSubject(size_t unit);
[[nodiscard]] std::string supplySubject(size_t unit);
[[nodiscard]] std::string feedSubject(size_t unit);

/// The subject of a device that is fitted: "sensor clt", or "actuator inj1" where the ECU drives it.
[[nodiscard]] std::string partSubject(const parts::Part& part, const DeviceId& device);

/// When a subject was last mended by hand, as a fact: "mended wire w20".
inline constexpr std::string_view kMended = "mended ";

/// The fact of what nobody has said yet.
inline constexpr std::string_view kNotSaid = "not said";

/// How a wheel and its sensor stand to each other: before the circuit's id.
inline constexpr std::array<const char*, 6> kStands = {"wheel ",   "wheel hole ", "wheel side ",
                                                       "air gap ", "strip lie ",  "wheel beside "};

/// Every fact of the job a reading could rest on, and when which of them was mended. Subjects: "wire ID", "sensor
/// DEVICE", "actuator DEVICE", "input ID", "output ID", "switch ID", "lead ID", "resistor ID", "stud JOINT", "contact
/// CONNECTOR.CAVITY", "load ID", "battery", "charging", "scaling CIRCUIT", "wheel CIRCUIT", "wheel hole CIRCUIT",
/// "wheel side CIRCUIT" and the others of `kStands`, and those of the units: every label an
/// element of the network bears, but for contacts and crimps of a size that no job says.
[[nodiscard]] Facts facts(const Job& job);

/// The facts of these subjects ("wire w12" also takes "wire w12 ...", and "mended wire w12"); a subject without facts
/// is left out.
[[nodiscard]] Facts factsOf(const Facts& all, const std::vector<std::string>& subjects);

/// Whether a fact that changed is one of these, or says when something was mended that one of these is about.
[[nodiscard]] bool concerns(const std::string& changed, const Facts& facts);

/// What has changed since, as sentences' middles ("pull-up of input AN3 changed from 1k Ω to 2k49 Ω", "wire w12 was
/// mended"); empty when the proof still stands.
[[nodiscard]] std::vector<std::string> changes(const Facts& then, const Facts& now);

} // namespace vicegrip::job
