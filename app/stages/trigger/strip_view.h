#pragma once

#include "app/desk/desk.h"
#include "core/trigger/air_gap.h"

#include <QWidget>

#include <optional>

class QLabel;

namespace vicegrip::app {

class TypedField;

/// How the narrow strip in a sensor's face lies over its teeth, what that costs in air gap, and how far it may lie off.
class StripView : public QWidget
{
    Q_OBJECT

  public:
    explicit StripView(Desk& desk, QWidget* parent = nullptr);

    /// `turn`: what hands do about the gap; none: it is not known.
    void refresh(const trigger::AirGap& gap, const std::optional<trigger::GapTurn>& turn);

  private:
    [[nodiscard]] QString asks() const;
    void say(const trigger::AirGap& gap, const std::optional<trigger::GapTurn>& turn);

    Desk& m_desk;
    QLabel *m_verdict, *m_why;
    TypedField *m_lies, *m_beside, *m_across, *m_thick, *m_wide, *m_long;
};

} // namespace vicegrip::app
