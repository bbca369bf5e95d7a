#pragma once

#include "app/stages/stage_page.h"

class QPushButton;
class QStackedWidget;

namespace vicegrip::app {

class FeedsView;
class HarnessView;
class ListTable;
class OrderView;
class PlugView;
class RemapView;
class ViewBar;
class WiresView;

/// Pins: a plug and the pin in hand, an old plug beside the new one, every wire, how they lie, what is
/// bought, the order of hands, and what hangs on each fuse. One of the seven is shown.
class PinsPage : public StagePage
{
    Q_OBJECT

  public:
    explicit PinsPage(Desk& desk, QWidget* parent = nullptr);

    void refresh() override;
    void goToEntry(const lookup::Entry& entry) override;
    [[nodiscard]] bool wantsList() const override;

  protected:
    [[nodiscard]] ViewBar* bar() const override { return m_bar; }

  private:
    enum View { Plug, Remap, Wires, Harness, Buy, Order, Feeds };

    void show(int view);
    void exportShown();
    void refreshBuy();

    ViewBar* m_bar;
    QPushButton* m_export;
    QStackedWidget* m_stack;
    PlugView* m_plug;
    RemapView* m_remap;
    WiresView* m_wires;
    HarnessView* m_harness;
    FeedsView* m_feeds;
    ListTable* m_buy;
    OrderView* m_order;
};

} // namespace vicegrip::app
