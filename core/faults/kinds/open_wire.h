#pragma once

#include "core/faults/network_edits.h"

namespace vicegrip::faults {

/// The conductor is broken.
struct OpenWire
{
    job::WireId wire;

    static constexpr std::string_view kName = "open"; ///< in files
    [[nodiscard]] std::string missing(const job::Job& job) const { return missingWire(job, wire); }
    /// What a mend of it touches, as facts name it.
    [[nodiscard]] Subjects subjects(const job::Job& /*job*/) const { return {"wire " + wire.value}; }
    void change(NetworkEdits& net) const { net.open.insert(wire); }
};

template <class A> void listFields(A& a, OpenWire& f)
{
    a("wire", f.wire);
}

} // namespace vicegrip::faults
