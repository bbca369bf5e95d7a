#pragma once

#include "core/base/phrase.h"
#include "core/faults/network_edits.h"

namespace vicegrip::faults {

/// An input is set to another kind of signal than its sensor's: the ECU shows nothing of it, or nonsense. No meter
/// reads otherwise for it.
struct WrongMode
{
    parts::InputId input;
    parts::InputMode mode = parts::InputMode::Analog;

    static constexpr std::string_view kName = "mode";
    [[nodiscard]] std::string missing(const job::Job& job) const
    {
        const parts::EcuInput* set = job::findInput(job, input);
        return set != nullptr && set->takes(mode) ? "" : phrase("input \"{}\" with such a mode", input.value);
    }
    /// What a mend of it touches, as facts name it.
    [[nodiscard]] Subjects subjects(const job::Job& /*job*/) const { return {"input " + input.value}; }
    void rewire(job::Job& job) const
    {
        if (parts::EcuInput* set = job::findInput(job, input))
            set->setTo = mode;
    }
};

template <class A> void listFields(A& a, WrongMode& f)
{
    a("input", f.input);
    a("mode", f.mode);
}

} // namespace vicegrip::faults
