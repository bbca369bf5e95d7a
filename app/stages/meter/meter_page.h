#pragma once

#include "app/stages/stage_page.h"

class QStackedWidget;

namespace vicegrip::app {

class ClickView;
class PlacesView;
class WiggleView;

/// Is it wired as drawn? Place by place with a meter; what the ECU drives, output by output, by what answers; and what
/// comes and goes, by hands that move it.
class MeterPage : public StagePage
{
    Q_OBJECT

  public:
    explicit MeterPage(Desk& desk, QWidget* parent = nullptr);

    void refresh() override;

  private:
    [[nodiscard]] ViewBar* bar() const override { return m_bar; }

    ViewBar* m_bar;
    QStackedWidget* m_stack;
    PlacesView* m_places;
    ClickView* m_clicks;
    WiggleView* m_wiggle;
};

} // namespace vicegrip::app
