#pragma once

#include "app/stages/stage_page.h"

class QLabel;

namespace vicegrip::app {

/// A stage whose work is still to be built: the question it answers, what it will do, and what this job already knows
/// of it.
class AheadPage : public StagePage
{
    Q_OBJECT

  public:
    AheadPage(Desk& desk, analysis::Stage stage, QWidget* parent = nullptr);

    void refresh() override;

  private:
    analysis::Stage m_stage;
    QLabel* m_known;
};

} // namespace vicegrip::app
