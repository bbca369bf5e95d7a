#pragma once

#include "app/stages/stage_page.h"

#include <vector>

class QCheckBox;
class QLabel;
class QPushButton;
class QStackedWidget;

namespace vicegrip::app {

class KeyButton;
class ListTable;
class PlugView;
class WiresView;

/// Pins: a plug and the pin in hand, every wire, what is bought, and the order of hands. One of the four is shown.
class PinsPage : public StagePage
{
    Q_OBJECT

  public:
    explicit PinsPage(Desk& desk, QWidget* parent = nullptr);

    void refresh() override;
    [[nodiscard]] bool wantsList() const override;

  private:
    enum View { Plug, Wires, Buy, Order, kViews };

    void show(View view);
    void exportShown();
    void refreshBuy();
    void refreshOrder();
    QWidget* buildOrder();
    void tickChore();
    void edit(const QString& description, const std::function<void(job::Job&)>& change);

    QPushButton* m_buttons[kViews]{};
    QPushButton* m_export;
    KeyButton* m_tick;
    QStackedWidget* m_stack;
    PlugView* m_plug;
    WiresView* m_wires;
    ListTable *m_buy, *m_order;
    QLabel* m_orderSaid;
    std::vector<QCheckBox*> m_gates;
    std::vector<std::string> m_choreOf; ///< id by row of the order; empty for a heading
};

} // namespace vicegrip::app
