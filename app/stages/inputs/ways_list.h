#pragma once

#include "app/desk/desk.h"
#include "core/seating/ways_out.h"

#include <QWidget>

#include <vector>

class QLabel;
class QVBoxLayout;

namespace vicegrip::app {

/// What would get the selected circuit a seat, each with its figures and a button that does it. Where a pull-up is
/// fitted, the values it was weighed against stand in a table: the row that is chosen is the one that is fitted.
class WaysList : public QWidget
{
    Q_OBJECT

  public:
    explicit WaysList(Desk& desk, QWidget* parent = nullptr);

    void refresh();
    void take(size_t index);

  private:
    void clear();
    void add(size_t index);
    void addTable(size_t index, const seating::AddedPullUp& fitted);
    void describe(size_t index);

    Desk& m_desk;
    std::vector<seating::WayOut> m_ways;
    struct Said
    {
        QLabel *title, *detail;
        QWidget* take;
    };
    std::vector<Said> m_said; ///< one for each way
    QVBoxLayout* m_column;
};

} // namespace vicegrip::app
