#pragma once

#include "app/stages/stage_page.h"

class QStackedWidget;

namespace vicegrip::app {

class LogView;
class RunSheetView;
class ViewBar;

/// Start: the run sheet from the first power on, and what logs say once it is driven.
class StartStage : public StagePage
{
    Q_OBJECT

  public:
    explicit StartStage(Desk& desk, QWidget* parent = nullptr);

    void refresh() override;
    void refreshLive() override;
    [[nodiscard]] bool wantsList() const override { return false; }

  protected:
    [[nodiscard]] ViewBar* bar() const override { return m_bar; }

  private:
    ViewBar* m_bar;
    QStackedWidget* m_stack;
    RunSheetView* m_sheet;
    LogView* m_logs;
};

} // namespace vicegrip::app
