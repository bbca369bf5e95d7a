#pragma once

#include "app/desk/worked.h"
#include "app/stages/stage_page.h"
#include "core/diagnosis/diagnosis.h"

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
    void askForShared();

    BoardModel* m_model;
    QTableView* m_table;
    QLabel *m_nextTitle, *m_nextDetail;
    KeyButton *m_go, *m_practise;
    QWidget* m_card; ///< the next task
    QVBoxLayout* m_then;
    QLabel* m_shared; ///< one fault behind several circuits
    AnalysisPtr m_of; ///< what that was worked out of
    Worked<std::optional<diagnosis::Shared>> m_worked; ///< last: it waits for what is under way
};

} // namespace vicegrip::app
