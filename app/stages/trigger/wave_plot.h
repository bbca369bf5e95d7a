#pragma once

#include "app/stages/trigger/opened.h"

#include <QWidget>

#include <functional>

namespace vicegrip::app {

/// What a channel of a capture did over time, with the teeth it was followed by beneath. The line in the middle is now:
/// drag, or the arrow keys, move the time past it; wheel, + and - zoom about it; 0 shows all.
class WavePlot : public QWidget
{
    Q_OBJECT

  public:
    explicit WavePlot(QWidget* parent = nullptr);

    void show(std::shared_ptr<const Opened> opened);
    [[nodiscard]] double now_s() const { return m_now; }
    void goTo(double time_s);

  signals:
    void moved(double time_s);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

  private:
    [[nodiscard]] QRectF field() const;
    [[nodiscard]] double timeAt(double x) const;
    [[nodiscard]] double xAt(double time_s) const;
    void zoom(double factor);
    void paintChannel(QPainter& p, const QRectF& box, size_t channel, bool main) const;
    void paintLine(QPainter& p, const QRectF& box, size_t channel, const std::function<double(double volts)>& y,
                   const QColor& ink) const;
    void paintTeeth(QPainter& p, const QRectF& strip) const;
    void paintTime(QPainter& p, const QRectF& box) const;

    std::shared_ptr<const Opened> m_opened;
    double m_now = 0, m_span = 1; ///< s
    double m_grabbed = 0; ///< x of the mouse when it was pressed, or since
};

} // namespace vicegrip::app
