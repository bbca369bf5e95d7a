#pragma once

#include "core/parts/terminal.h"

#include <string>
#include <vector>

/// What hands do, in order, to put one wire into one cavity.
namespace vicegrip::pinning {

enum class CavityStepKind { BlankOut, Boot, Seal, Thread, Strip, Crimp, Tug, Home, TugHome };

struct CavityStep
{
    CavityStepKind kind = CavityStepKind::Strip;
    std::string text; ///< "Strip 4.5 mm"
    std::string why; ///< what goes wrong otherwise; empty where it is plain
};

/// The steps for a wire of this area in this family's cavity. A pull-to-seat terminal is threaded through before it is
/// crimped; seal and boot go on before either (common practice).
[[nodiscard]] std::vector<CavityStep> cavitySteps(const parts::TerminalFamily& family, double area_m2);

/// The one step of an unused cavity of a sealed plug.
[[nodiscard]] std::vector<CavityStep> blankSteps();

} // namespace vicegrip::pinning
