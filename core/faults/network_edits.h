#pragma once

#include "core/job/job.h"

#include <map>
#include <set>
#include <string>
#include <vector>

/// What faults change in a network, beside the wiring: ohms along wires, at contacts and under studs, places that
/// touch, sensors that are off.
namespace vicegrip::faults {

struct Bridge
{
    job::PointRef from, to;
    double ohm = 0;
};

struct NetworkEdits
{
    std::set<job::WireId> open;
    std::map<job::WireId, double> added_ohm;
    std::map<job::PointRef, double> contact_ohm; ///< more than a good one has; infinite: they do not touch
    std::map<std::string, double> stud_ohm; ///< by joint
    std::vector<Bridge> bridges;
    std::map<job::CircuitId, double> drift; ///< of the sensor's range
};

/// Fact subjects (core/job/facts.h): "wire w12", "stud G1", "sensor clt".
using Subjects = std::set<std::string>;
[[nodiscard]] Subjects wiresAt(const job::Job& job, const std::vector<job::PointRef>& cavities); ///< joints are none
/// The contact of a bulkhead's halves; in another plug what ends there.
/// Whether a mend touches all of these.
[[nodiscard]] bool isIn(const Subjects& subjects, const job::Mend& mend);
[[nodiscard]] Subjects contactAt(const job::Job& job, const job::PointRef& cavity);

/// What the job does not have of these, as people name it; empty when it is there.
[[nodiscard]] std::string missingWire(const job::Job& job, const job::WireId& wire);
[[nodiscard]] std::string missingCavity(const job::Job& job, const job::PointRef& cavity);
[[nodiscard]] std::string missingPlace(const job::Job& job, const job::PointRef& place);

/// Ends in these cavities of the plug go to those.
void permute(job::Job& job, const std::string& connector, const std::map<std::string, std::string>& to);

/// A place in a file: "CLT.1", "S2".
template <class A> void place(A& a, const char* name, job::PointRef& at)
{
    std::string text = at.text();
    a(name, text);
    at = job::PointRef::fromText(text);
}

} // namespace vicegrip::faults
