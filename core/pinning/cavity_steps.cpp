#include "core/pinning/cavity_steps.h"

#include "core/base/phrase.h"
#include "core/parts/conductor.h"
#include "core/units/units.h"

namespace vicegrip::pinning {

std::vector<CavityStep> cavitySteps(const parts::TerminalFamily& f, double area_m2)
{
    const bool pull = f.seating == parts::Seating::Pull;
    std::vector<CavityStep> out;
    if (f.sealed)
        out.push_back({CavityStepKind::BlankOut, phrase("Blank plug out, from the front; shake the debris out"),
                       phrase("A stuck piece jams the new terminal.")});
    if (f.boot)
        out.push_back(
            {CavityStepKind::Boot, phrase("Boot onto the wire"), phrase("It does not go on over a crimped terminal.")});
    if (f.sealed)
        out.push_back(
            {CavityStepKind::Seal, phrase("Seal onto the wire"), phrase("It does not go on over a crimped terminal.")});
    if (pull)
        out.push_back({CavityStepKind::Thread, phrase("Thread the bare wire through the empty cavity, from the rear"),
                       phrase("A pull-to-seat terminal does not pass the cavity once it is crimped.")});
    out.push_back({CavityStepKind::Strip,
                   phrase("Strip {}", units::format(f.strip_m, units::Dimension::Length, "mm",
                                                    std::fmod(f.strip_m * 1e4, 10) < 0.5 ? 0 : 1)),
                   phrase("Only what the crimp needs.")});
    out.push_back(
        {CavityStepKind::Crimp,
         f.sealed ? phrase("Crimp slowly: conductor, then seal") : phrase("Crimp slowly: conductor, then insulation"),
         {}});
    out.push_back({CavityStepKind::Tug, phrase("Tug the crimp"),
                   phrase("At {} it must hold {} N (IEC 60352-2). One that slips now is found now.",
                          parts::areaText(area_m2), units::formatNumber(parts::crimpHolds(area_m2), 0))});
    out.push_back({CavityStepKind::Home,
                   pull ? (f.sealed ? phrase("Pull it home until it locks, seal included")
                                    : phrase("Pull it home until it locks"))
                        : phrase("Push it in from the rear until it clicks"),
                   phrase("One that will not click is of the wrong family, the wrong way round, or has a bent tang.")});
    out.push_back({CavityStepKind::TugHome, phrase("Tug the wire in its cavity"), phrase("It must not come back.")});
    return out;
}

std::vector<CavityStep> blankSteps()
{
    return {{CavityStepKind::Home, phrase("Blank plug in, until it is flush"),
             phrase("An open cavity lets water in to all the others.")}};
}

} // namespace vicegrip::pinning
