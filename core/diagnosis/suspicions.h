#pragma once

#include "core/diagnosis/sizes.h"
#include "core/diagnosis/suspect.h"

#include <set>
#include <string>
#include <vector>

/// Suspects as they are gathered, each with its weight.
namespace vicegrip::diagnosis {

class Suspicions
{
  public:
    Suspicions(const job::Job& job, const Families& families);

    /// With its family's weight, more where hands worked that day, less where it was mended.
    void add(Suspect s);

    /// One of every size, solved or not. `what` says one of them.
    void sized(const std::vector<Size>& sizes, const std::string& series, const Suspect& like, const auto& fault,
               const auto& what)
    {
        for (const Size& size : sizes) {
            Suspect s = like;
            s.faults = {fault(size.value)};
            s.what = what(size.value);
            s.series = series;
            s.size = size.value;
            s.solved = size.solved;
            add(std::move(s));
        }
    }

    /// All of them. A family's weight is that of all its suspects together: more places do not make it likelier.
    [[nodiscard]] std::vector<Suspect> take();

  private:
    const job::Job& m_job;
    const Families& m_families;
    std::string m_day; ///< that was last worked on
    std::set<job::PointRef> m_today;
    std::vector<Suspect> m_out;
};

/// What is wrong where no wire is: with the input's setting, the sensor, the table (suspect_part.cpp). `table` as
/// `suspects` has it.
void suspectPart(Suspicions& out, const job::Job& job, const job::Circuit& circuit, const parts::Library& library,
                 const std::vector<faults::HeldTable::Point>& table);

} // namespace vicegrip::diagnosis
