#pragma once

#include "app/desk/desk.h"

#include <QFrame>

class QLabel;

namespace vicegrip::app {

class KeyButton;

/// Under the header while a round is played: what the driver says, and what the learner can do besides his work.
class PracticeBar : public QFrame
{
    Q_OBJECT

  public:
    explicit PracticeBar(Desk& desk, QWidget* parent = nullptr);
    void refresh();

  signals:
    void nameAsked(); ///< he knows what it is
    void debriefAsked();

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    Desk& m_desk;
    QLabel* m_complaint;
    KeyButton *m_name, *m_hint, *m_giveUp, *m_debrief;
};

} // namespace vicegrip::app
