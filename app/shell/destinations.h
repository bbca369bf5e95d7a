#pragma once

#include "app/shell/command_finder.h"
#include "app/stages/stage_page.h"

#include <QAction>

namespace vicegrip::app {

/// What the finder offers: the window's actions, the spots of its stages, and all of the job (none: no job is open).
[[nodiscard]] std::vector<CommandFinder::Offer> offers(const QList<QAction*>& actions,
                                                       const std::vector<std::pair<analysis::Stage, StagePage*>>& pages,
                                                       const analysis::Analysis* analysis);

/// Where a place of the wiring is read: a circuit and the key of its station. None: no conductor goes through it.
struct ReadAt
{
    job::CircuitId circuit;
    std::string station;
};
[[nodiscard]] std::optional<ReadAt> readAt(const analysis::Analysis& analysis, const std::string& place);

} // namespace vicegrip::app
