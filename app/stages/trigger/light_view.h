#pragma once

#include "app/desk/desk.h"

#include <QWidget>

#include <array>

class QLabel;

namespace vicegrip::app {

class KeyButton;
class ListTable;
class TypedField;

/// The timing locked, and a light at the wheel: what was commanded and what was seen, at two speeds and more, give the
/// trigger's offset and its delay.
class LightView : public QWidget
{
    Q_OBJECT

  public:
    explicit LightView(Desk& desk, QWidget* parent = nullptr);
    void refresh();

  private:
    void add();
    void removeSelected();

    Desk& m_desk;
    TypedField *m_rpm, *m_commanded, *m_seen;
    std::array<std::optional<double>, 3> m_typed; ///< the reading that is being typed: rpm, commanded, seen
    KeyButton *m_add, *m_remove;
    ListTable* m_table;
    QLabel *m_offset, *m_delay, *m_verdict;
};

} // namespace vicegrip::app
