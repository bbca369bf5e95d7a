#pragma once

#include "app/stages/stage_page.h"

namespace vicegrip::app {

/// A stage whose work is still to be built: the question it answers and what it will do.
class AheadPage : public StagePage
{
    Q_OBJECT

  public:
    AheadPage(Desk& desk, analysis::Stage stage, QWidget* parent = nullptr);

    void refresh() override {}
};

} // namespace vicegrip::app
