#pragma once

#include "app/stages/stage_page.h"

class QLabel;
class QStackedWidget;

namespace vicegrip::app {

class CaptureView;
class GapView;
class HandView;
class LightView;
class MountView;
class Signpost;
class ViewBar;
class WheelRow;

/// Trigger: whether a crank or cam signal decodes. Turned by hand, the gap and how the wheel sits, a capture, the
/// timing light, and where to mount it.
class TriggerPage : public StagePage
{
    Q_OBJECT

  public:
    explicit TriggerPage(Desk& desk, QWidget* parent = nullptr);

    void refresh() override;

  protected:
    [[nodiscard]] ViewBar* bar() const override { return m_bar; }

  private:
    enum View { ByHand, Gap, ACapture, Light, Mount };
    void refreshView();
    void showNothing();
    [[nodiscard]] QString overview() const;
    /// The first circuit that reads a wheel; empty: there is none.
    [[nodiscard]] job::CircuitId firstTrigger() const;

    ViewBar* m_bar;
    WheelRow* m_row;
    QStackedWidget* m_stack; ///< the views, then the signpost
    Signpost* m_nothing;
    QLabel* m_overview; ///< beneath it
    HandView* m_hand;
    GapView* m_gap;
    CaptureView* m_capture;
    LightView* m_light;
    MountView* m_mount;
};

} // namespace vicegrip::app
