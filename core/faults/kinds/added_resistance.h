#pragma once

#include "core/faults/network_edits.h"

namespace vicegrip::faults {

/// So many ohm more along a wire: a bad crimp, a ground on paint, copper that has gone green.
struct AddedResistance
{
    job::WireId wire;
    double ohm = 0;

    static constexpr std::string_view kName = "resistance";
    [[nodiscard]] std::string missing(const job::Job& job) const { return missingWire(job, wire); }
    /// What a mend of it touches, as facts name it.
    [[nodiscard]] Subjects subjects(const job::Job& /*job*/) const { return {"wire " + wire.value}; }
    void change(NetworkEdits& net) const { net.added_ohm[wire] += ohm; }
};

template <class A> void listFields(A& a, AddedResistance& f)
{
    a("wire", f.wire);
    a("ohm", f.ohm);
}

} // namespace vicegrip::faults
