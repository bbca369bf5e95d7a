#pragma once

#include "core/electrics/electrics.h"
#include "core/harness/edits.h"
#include "core/harness/start.h"
#include "core/parts/library.h"

#include <gtest/gtest.h>

/// The shipped library, and jobs begun from it.
namespace vicegrip::test {

inline const parts::Library& library();

/// The sensors of it, without what the ECU drives.
inline const std::vector<parts::Part>& sensors()
{
    static const std::vector<parts::Part> all = [] {
        std::vector<parts::Part> out = library().parts;
        std::erase_if(out, parts::isDriven);
        return out;
    }();
    return all;
}

inline const parts::Library& library()
{
    static const parts::Library kLibrary = parts::readLibrary({std::string(VICEGRIP_SOURCE_DIR) + "/data/library"});
    EXPECT_TRUE(kLibrary.complaints.empty());
    return kLibrary;
}

inline const parts::EcuProfile& ecu(const char* id)
{
    const auto* found = parts::find(library(), parts::EcuId{id});
    EXPECT_NE(found, nullptr) << id;
    static const parts::EcuProfile kNone;
    return found == nullptr ? kNone : *found;
}

inline const parts::Part& sensor(const char* id)
{
    const auto* found = parts::find(library(), parts::PartId{id});
    EXPECT_NE(found, nullptr) << id;
    static const parts::Part kNone;
    return found == nullptr ? kNone : *found;
}

inline job::Job jobOn(const char* ecuId)
{
    return harness::startJob("Test", ecu(ecuId));
}

inline job::CircuitId add(job::Job& job, const char* function, const char* part, job::Want want = job::Want::Required)
{
    return harness::addCircuit(job, {function}, function, want, sensor(part));
}

} // namespace vicegrip::test
