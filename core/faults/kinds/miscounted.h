#pragma once

#include "core/base/phrase.h"
#include "core/faults/network_edits.h"

namespace vicegrip::faults {

enum class Count {
    OtherEnd, ///< numbered from the last cavity down
    ByOne, ///< each wire one cavity on, the last in the first
    Mirrored ///< each row from its other side: the face was read from the wrong side
};

/// A whole plug counted wrong.
struct Miscounted
{
    std::string connector;
    Count how = Count::Mirrored;

    static constexpr std::string_view kName = "miscounted";
    [[nodiscard]] std::string missing(const job::Job& job) const
    {
        return job::findConnector(job, connector) != nullptr ? "" : phrase("plug \"{}\"", connector);
    }
    /// What a mend of it touches, as facts name it.
    [[nodiscard]] Subjects subjects(const job::Job& job) const;
    void rewire(job::Job& job) const;
};

template <class A> void listFields(A& a, Miscounted& f)
{
    a("connector", f.connector);
    a("how", f.how);
}

} // namespace vicegrip::faults

template <> struct vicegrip::fields::EnumNames<vicegrip::faults::Count>
{
    static constexpr std::pair<vicegrip::faults::Count, std::string_view> kNames[] = {
        {vicegrip::faults::Count::OtherEnd, "other-end"},
        {vicegrip::faults::Count::ByOne, "by-one"},
        {vicegrip::faults::Count::Mirrored, "mirrored"}};
};
