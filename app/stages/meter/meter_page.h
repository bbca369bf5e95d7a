#pragma once

#include "app/stages/stage_page.h"

class QStackedWidget;

namespace vicegrip::app {

class ClickView;
class PlacesView;

/// Is it wired as drawn? Place by place with a meter; and what the ECU drives, output by output, by what answers.
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
};

} // namespace vicegrip::app
