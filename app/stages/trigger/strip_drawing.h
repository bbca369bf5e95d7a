#pragma once

#include "app/look/look.h"
#include "core/trigger/strip.h"

#include <QWidget>

#include <optional>

namespace vicegrip::app {

/// A sensor's strip over the teeth that pass under it, to scale, as seen from behind the sensor.
class StripDrawing : public QWidget
{
    Q_OBJECT

  public:
    explicit StripDrawing(QWidget* parent = nullptr);

    /// `after_deg`: how it lies after it was turned; none: it is not turned.
    void show(const std::optional<trigger::Strip>& strip, std::optional<double> after_deg);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    std::optional<trigger::Strip> m_strip;
    std::optional<double> m_after;
};

} // namespace vicegrip::app
