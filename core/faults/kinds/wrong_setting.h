#pragma once

#include "core/base/phrase.h"
#include "core/faults/network_edits.h"

#include <optional>

namespace vicegrip::faults {

/// An input is set otherwise than planned: another pull-up, or none.
struct InputSetting
{
    parts::InputId input;
    std::optional<double> pull_up_ohm; ///< none: off

    static constexpr std::string_view kName = "setting";
    [[nodiscard]] std::string missing(const job::Job& job) const
    {
        return job::findInput(job, input) != nullptr ? "" : phrase("input \"{}\"", input.value);
    }
    /// What a mend of it touches, as facts name it.
    [[nodiscard]] Subjects subjects(const job::Job& /*job*/) const { return {"input " + input.value}; }
    void rewire(job::Job& job) const
    {
        if (parts::EcuInput* set = job::findInput(job, input))
            set->pull_up_ohm = pull_up_ohm;
    }
};

template <class A> void listFields(A& a, InputSetting& f)
{
    a("input", f.input);
    a("pull_up_ohm", f.pull_up_ohm);
}

} // namespace vicegrip::faults
