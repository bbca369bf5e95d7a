#include "app/stages/stage_page.h"

#include "app/widgets/view_bar.h"

namespace vicegrip::app {

std::vector<StagePage::Spot> StagePage::spots() const
{
    std::vector<Spot> out;
    if (const ViewBar* views = bar())
        for (const auto& [key, name] : views->offered())
            out.push_back({key, name});
    return out;
}

void StagePage::goToSpot(const QString& key)
{
    if (ViewBar* views = bar())
        views->choose(key);
}

QString StagePage::view() const
{
    const ViewBar* views = bar();
    return views == nullptr ? QString() : views->chosenName();
}

} // namespace vicegrip::app
