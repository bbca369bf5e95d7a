#pragma once

#include "app/look/look.h"
#include "core/capture/overview.h"

#include <QWidget>

#include <functional>
#include <span>

namespace vicegrip::app {

/// 1, 2 or 5 times a power of ten, so that about `lines` of them fit.
[[nodiscard]] double stepFor(double span, int lines);

/// Something over time, of any length. The line in the middle is now: drag, or the arrow keys, move the time past it;
/// wheel, + and - zoom about it; 0 shows all.
class TimePlot : public QWidget
{
    Q_OBJECT

  public:
    [[nodiscard]] double now_s() const { return m_now; }
    void goTo(double time_s);

  signals:
    void moved(double time_s);

  protected:
    explicit TimePlot(QWidget* parent) : QWidget(parent) {}

    static constexpr look::Px kTimesHigh{22}; ///< of the line of times beneath the field

    [[nodiscard]] virtual QRectF field() const = 0;
    [[nodiscard]] virtual double all_s() const = 0; ///< from 0
    [[nodiscard]] virtual double least_s() const = 0; ///< that can be zoomed to

    /// Shows so much of it, with this in the middle; says nothing of it.
    void setExtent(double now_s, double span_s);
    [[nodiscard]] double timeAt(double x) const;
    [[nodiscard]] double xAt(double time_s) const;
    void paintTime(QPainter& p, const QRectF& box) const;
    /// The line of now, and of the focus.
    void paintNow(QPainter& p, const QRectF& box, double bottom) const;

    /// Samples over time.
    struct Values
    {
        std::span<const float> values;
        const capture::Overview* overview = nullptr; ///< of `values`
        std::function<size_t(double time_s)> indexAt; ///< of what holds then, from 0 to their number
        std::function<double(size_t)> timeOf;
        bool stairs = false; ///< each holds until the next
    };
    /// A line where a pixel has few samples, what they reach where it has many.
    void paintValues(QPainter& p, const QRectF& box, const Values& of, const std::function<double(double)>& y,
                     const QColor& ink) const;

    void wheelEvent(QWheelEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

  private:
    void zoom(double factor);

    double m_now = 0, m_span = 1; ///< s
    double m_grabbed = 0; ///< x of the mouse when it was pressed, or since
};

} // namespace vicegrip::app
