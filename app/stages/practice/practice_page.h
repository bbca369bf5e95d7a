#pragma once

#include "app/desk/desk.h"
#include "app/desk/worked.h"

#include <QWidget>

#include <vector>

class QLabel;
class QLineEdit;
class QStackedWidget;
class QVBoxLayout;

namespace vicegrip::app {

class KeyButton;
class ListTable;

/// In the stage's place: which round is played, what the learner says is wrong, and what a round was worth.
class PracticePage : public QWidget
{
    Q_OBJECT

  public:
    explicit PracticePage(Desk& desk, QWidget* parent = nullptr);

    /// `car`: the name of the job that is practised on.
    void choose(const QString& car);
    /// What may be wrong with the selected circuit, to be named and mended.
    void name();
    void debrief();

  signals:
    void beginAsked(vicegrip::practice::Level level);
    void left();
    void overAsked(); ///< back to the job that was open before

  protected:
    void keyPressEvent(QKeyEvent* event) override;

  private:
    QWidget* buildChoice();
    QWidget* buildNaming();
    QWidget* buildDebrief();
    void fillCandidates();
    void mend();
    void showDebrief(const practice::Debrief& told);
    void showReturning();

    Desk& m_desk;
    QStackedWidget* m_faces;
    QLabel *m_car, *m_returning, *m_of, *m_verdict, *m_truth, *m_account;
    ListTable *m_kinds, *m_candidates, *m_steps, *m_best;
    QLineEdit* m_filter;
    std::vector<diagnosis::Suspect> m_all, m_shown; ///< that can be named; that the filter leaves
    Worked<std::vector<diagnosis::Suspect>> m_worked; ///< last: it waits for what is under way
};

} // namespace vicegrip::app
