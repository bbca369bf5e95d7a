#pragma once

#include "app/desk/desk.h"

#include <QWidget>

class QLabel;

namespace vicegrip::app {

class Caution;
class KeyButton;
class ListTable;

/// What the units on the bus say of themselves over OBD: values and codes; and clearing the codes, which asks first.
class UnitsView : public QWidget
{
    Q_OBJECT

  public:
    explicit UnitsView(Desk& desk, QWidget* parent = nullptr);
    void refresh();

  private:
    void buildButtons();
    void askToClear(bool ask);
    void clear();
    [[nodiscard]] QString status() const;
    [[nodiscard]] std::vector<QStringList> rows(std::vector<int>& headings) const;
    [[nodiscard]] QStringList stored() const;

    Desk& m_desk;
    QLabel* m_status;
    ListTable* m_table;
    KeyButton *m_ask, *m_read, *m_clear, *m_really, *m_keep;
    Caution* m_caution;
};

} // namespace vicegrip::app
