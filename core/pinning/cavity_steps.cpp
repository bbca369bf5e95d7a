#include "core/pinning/cavity_steps.h"

#include "core/parts/conductor.h"
#include "core/units/units.h"

namespace vicegrip::pinning {

std::vector<CavityStep> cavitySteps(const parts::TerminalFamily& f, double area_m2)
{
    const bool pull = f.seating == parts::Seating::Pull;
    std::vector<CavityStep> out;
    if (f.sealed)
        out.push_back({CavityStepKind::BlankOut, "Blank plug out, from the front; shake the debris out",
                       "A stuck piece jams the new terminal."});
    if (f.boot)
        out.push_back({CavityStepKind::Boot, "Boot onto the wire", "It does not go on over a crimped terminal."});
    if (f.sealed)
        out.push_back({CavityStepKind::Seal, "Seal onto the wire", "It does not go on over a crimped terminal."});
    if (pull)
        out.push_back({CavityStepKind::Thread, "Thread the bare wire through the empty cavity, from the rear",
                       "A pull-to-seat terminal does not pass the cavity once it is crimped."});
    out.push_back({CavityStepKind::Strip,
                   "Strip " + units::format(f.strip_m, units::Dimension::Length, "mm",
                                            std::fmod(f.strip_m * 1e4, 10) < 0.5 ? 0 : 1),
                   "Only what the crimp needs."});
    out.push_back({CavityStepKind::Crimp,
                   f.sealed ? "Crimp slowly: conductor, then seal" : "Crimp slowly: conductor, then insulation",
                   {}});
    out.push_back({CavityStepKind::Tug, "Tug the crimp",
                   "At " + parts::areaText(area_m2) + " it must hold " +
                       units::formatNumber(parts::crimpHolds(area_m2), 0) +
                       " N (IEC 60352-2). One that slips now is found now."});
    out.push_back({CavityStepKind::Home,
                   pull ? (f.sealed ? "Pull it home until it locks, seal included" : "Pull it home until it locks")
                        : "Push it in from the rear until it clicks",
                   "One that will not click is of the wrong family, the wrong way round, or has a bent tang."});
    out.push_back({CavityStepKind::TugHome, "Tug the wire in its cavity", "It must not come back."});
    return out;
}

std::vector<CavityStep> blankSteps()
{
    return {
        {CavityStepKind::Home, "Blank plug in, until it is flush", "An open cavity lets water in to all the others."}};
}

} // namespace vicegrip::pinning
