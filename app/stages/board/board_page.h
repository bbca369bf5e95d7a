#pragma once

#include "app/stages/stage_page.h"

class QLabel;
class QTableView;
class QVBoxLayout;

namespace vicegrip::app {

class BoardModel;
class KeyButton;

/// Where the whole job stands, and what to do next.
class BoardPage : public StagePage
{
    Q_OBJECT

  public:
    explicit BoardPage(Desk& desk, QWidget* parent = nullptr);

    void refresh() override;
    void refreshLive() override;
    [[nodiscard]] bool wantsList() const override { return false; }
    [[nodiscard]] bool fitsTight() const override { return true; }

  protected:
    void resizeEvent(QResizeEvent* event) override;

  private:
    void go();
    void showTasks();

    BoardModel* m_model;
    QTableView* m_table;
    QLabel *m_nextTitle, *m_nextDetail;
    KeyButton* m_go;
    QWidget* m_card; ///< the next task
    QVBoxLayout* m_then;
};

} // namespace vicegrip::app
