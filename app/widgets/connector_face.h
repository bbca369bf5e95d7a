#pragma once

#include "app/look/look.h"
#include "core/pinning/pinning.h"

#include <QWidget>

#include <vector>

/// A connector's face to scale. The wire side shows wires in their colours; the mating face is its mirror, darker, with
/// the blades' slots, so that nobody takes one for the other.
namespace vicegrip::app {

class ConnectorFace : public QWidget
{
    Q_OBJECT

  public:
    struct Cell
    {
        QString cavity;
        QString colours; ///< IEC 60757: "BU/WH"; empty without a wire
        pinning::PinState state = pinning::PinState::Open;
        bool proved = false; ///< the meter read right there
        QString spoken; ///< what it is, for a screen reader
    };

    explicit ConnectorFace(QWidget* parent = nullptr);

    void show(const parts::Layout& layout, std::vector<Cell> cells, parts::Face face, int current);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override { return {320_px, 110_px}; }

  signals:
    void picked(int index); ///< of the cells

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

  private:
    void place();
    void paintHousing(QPainter& p);
    void paintCavity(QPainter& p, size_t index);
    void paintNumber(QPainter& p, size_t index);
    void paintCount(QPainter& p);
    void move(int right, int down);
    [[nodiscard]] QRectF box(size_t index) const;

    parts::Layout m_layout;
    std::vector<Cell> m_cells;
    std::vector<const parts::Cavity*> m_places; ///< one per cell; null when the face has no such cavity
    std::vector<parts::Cavity> m_cavities;
    parts::Face m_face = parts::Face::Wire;
    int m_current = -1;
    double m_scale = 1; ///< pixels per metre
    QPointF m_origin;
};

} // namespace vicegrip::app
