#pragma once

#include "core/bus/bus.h"

#include <QWidget>

namespace vicegrip::app {

/// A bus as it lies: everybody on the line in order, to scale where there is room, with what closes its ends; what
/// hangs beside the line hangs below it.
class BusLine : public QWidget
{
    Q_OBJECT

  public:
    explicit BusLine(QWidget* parent = nullptr);

    /// Hidden where there is none. `selected` is marked.
    void show(const bus::Bus* line, const job::CircuitId& selected);

    [[nodiscard]] QSize sizeHint() const override;

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    [[nodiscard]] int heightOfRow() const;
    [[nodiscard]] bool isClosed(size_t end) const;

    std::optional<bus::Bus> m_line;
    job::CircuitId m_selected;
};

} // namespace vicegrip::app
