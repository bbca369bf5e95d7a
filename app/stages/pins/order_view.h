#pragma once

#include "app/desk/desk.h"

#include <QWidget>

#include <vector>

class QCheckBox;
class QComboBox;
class QLabel;

namespace vicegrip::app {

class KeyButton;
class ListTable;

/// The order of hands: steps by place, what is on already, and where each plug is in this car.
class OrderView : public QWidget
{
    Q_OBJECT

  public:
    explicit OrderView(Desk& desk, QWidget* parent = nullptr);

    void refresh();

  signals:
    void plugAsked(const std::string& connector); ///< its step is done there

  private:
    void tick();
    void setPlace();
    void showPlace();
    void edit(const QString& description, const Change& change);
    [[nodiscard]] std::string current() const; ///< id of the step; empty on a heading

    Desk& m_desk;
    KeyButton* m_tick;
    ListTable* m_table;
    QLabel *m_said, *m_placeOf;
    QComboBox* m_place;
    std::vector<QCheckBox*> m_gates;
    std::vector<std::string> m_stepOf; ///< id by row; empty for a heading
};

} // namespace vicegrip::app
