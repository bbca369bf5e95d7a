#pragma once

#include "app/stages/trigger/opened.h"
#include "app/widgets/time_plot.h"

#include <functional>

namespace vicegrip::app {

/// What a channel of a capture did over time, with the teeth it was followed by beneath. The line in the middle is now:
/// drag, or the arrow keys, move the time past it; wheel, + and - zoom about it; 0 shows all.
class WavePlot : public TimePlot
{
    Q_OBJECT

  public:
    explicit WavePlot(QWidget* parent = nullptr);

    void show(std::shared_ptr<const Opened> opened);

  protected:
    void paintEvent(QPaintEvent* event) override;
    [[nodiscard]] QRectF field() const override;
    [[nodiscard]] double all_s() const override;
    [[nodiscard]] double least_s() const override;

  private:
    void paintChannel(QPainter& p, const QRectF& box, size_t channel, bool main) const;
    void paintLine(QPainter& p, const QRectF& box, size_t channel, const std::function<double(double volts)>& y,
                   const QColor& ink) const;
    void paintTeeth(QPainter& p, const QRectF& strip) const;

    std::shared_ptr<const Opened> m_opened;
};

} // namespace vicegrip::app
