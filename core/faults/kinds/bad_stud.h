#pragma once

#include "core/base/phrase.h"
#include "core/faults/network_edits.h"

namespace vicegrip::faults {

/// What is under a stud's ring is paint or rust: so many ohm between it and the metal.
struct BadStud
{
    std::string joint;
    double ohm = 0;

    static constexpr std::string_view kName = "stud";
    [[nodiscard]] std::string missing(const job::Job& job) const
    {
        const job::Joint* there = job::findJoint(job, joint);
        return there != nullptr && there->kind == job::JointKind::Stud ? "" : phrase("stud \"{}\"", joint);
    }
    /// What a mend of it touches, as facts name it.
    [[nodiscard]] Subjects subjects(const job::Job& /*job*/) const { return {"stud " + joint}; }
    void change(NetworkEdits& net) const { net.stud_ohm[joint] += ohm; }
};

template <class A> void listFields(A& a, BadStud& f)
{
    a("joint", f.joint);
    a("ohm", f.ohm);
}

} // namespace vicegrip::faults
