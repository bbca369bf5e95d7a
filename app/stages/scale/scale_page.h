#pragma once

#include "app/stages/stage_page.h"

#include <functional>
#include <vector>

class QStackedWidget;

namespace vicegrip::app {

class Signpost;
class ViewBar;

/// Scale: the table of an input, readings beside another instrument, how wrong its value can be, and what a throttle, a
/// flex sensor, a switch, a speed sensor and a thermocouple need besides. One is shown; the bar offers those that the
/// circuit has.
class ScalePage : public StagePage
{
    Q_OBJECT

  public:
    explicit ScalePage(Desk& desk, QWidget* parent = nullptr);

    void refresh() override;
    void refreshLive() override;

  protected:
    [[nodiscard]] ViewBar* bar() const override { return m_bar; }

  private:
    enum View { Table, Readings, Budget, Strokes, Fuel, Switch, Speed, Probe, kViews };

    /// A view as the page deals with it; what it does not need live is empty.
    struct Shown
    {
        QWidget* widget;
        std::function<void()> refresh, refreshLive;
    };
    template <class V> V* add();
    void show(int view);
    void sizeStack();
    [[nodiscard]] std::vector<bool> offered() const;
    void showNothing();

    ViewBar* m_bar;
    QStackedWidget* m_stack; ///< the views, then the signpost
    Signpost* m_nothing;
    std::vector<Shown> m_views; ///< as View counts them
};

} // namespace vicegrip::app
