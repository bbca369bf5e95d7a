#pragma once

#include "app/desk/desk.h"

#include <QWidget>

namespace vicegrip::app {

class TypedField;

/// The ambient and the barometer as they are while probing: expected readings follow them at once.
class SurroundingsForm : public QWidget
{
    Q_OBJECT

  public:
    explicit SurroundingsForm(Desk& desk, QWidget* parent = nullptr);
    void refresh();

  private:
    using Member = double job::Surroundings::*;
    TypedField* add(const QString& name, const char* objectName, units::Dimension dimension, std::string_view unit,
                    Member member);
    [[nodiscard]] QString shown(units::Dimension dimension, std::string_view unit, Member member) const;

    Desk& m_desk;
    TypedField *m_ambient, *m_barometer;
};

} // namespace vicegrip::app
