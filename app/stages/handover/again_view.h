#pragma once

#include "app/desk/desk.h"
#include "core/recheck/recheck.h"

#include <QWidget>

#include <vector>

class QLabel;

namespace vicegrip::app {

class KeyButton;
class ListTable;

/// After a change: what can change about this car and what each would cost, and what is then to be proved again, in the
/// order of risk. What reads as before is kept again by a tick.
class AgainView : public QWidget
{
    Q_OBJECT

  public:
    explicit AgainView(Desk& desk, QWidget* parent = nullptr);

    void refresh();

  signals:
    void goTo(vicegrip::analysis::Stage stage);

  private:
    void showAgain();
    void toPlace();
    void renew();
    [[nodiscard]] const recheck::Again* current() const;

    Desk& m_desk;
    ListTable *m_changeList, *m_againList;
    QLabel *m_title, *m_said;
    KeyButton *m_go, *m_same;
    std::vector<recheck::Change> m_changes;
    std::vector<recheck::Again> m_again;
};

} // namespace vicegrip::app
