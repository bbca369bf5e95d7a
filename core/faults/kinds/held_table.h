#pragma once

#include "core/base/phrase.h"
#include "core/base/result.h"
#include "core/faults/network_edits.h"

namespace vicegrip::faults {

/// What somebody left in the ECU for an input: a line in another unit, gauge for absolute, of the sensor before.
struct HeldTable
{
    parts::InputId input;
    struct Point
    {
        double volts = 0, value = 0; ///< value as the ECU shows it
    };
    std::vector<Point> points; ///< rising volts, at least two

    static constexpr std::string_view kName = "held-table";
    [[nodiscard]] std::string missing(const job::Job& job) const
    {
        return job::findInput(job, input) != nullptr ? "" : phrase("input \"{}\"", input.value);
    }
    /// What a mend of it touches, as facts name it.
    [[nodiscard]] Subjects subjects(const job::Job& job) const
    {
        Subjects out;
        for (const job::Circuit& c : job.circuits)
            if (c.input == input)
                out.insert("scaling " + c.id.value);
        return out;
    }
    /// Volts that do not rise are refused.
    [[nodiscard]] Result<void> check() const;
};

template <class A> void listFields(A& a, HeldTable& f)
{
    a("input", f.input);
    std::vector<std::vector<double>> pairs;
    for (const auto& p : f.points)
        pairs.push_back({p.volts, p.value});
    a("points", pairs);
    f.points.clear();
    for (const auto& p : pairs)
        f.points.push_back({p.at(0), p.at(1)});
}

} // namespace vicegrip::faults
