#pragma once

#include "app/desk/desk.h"
#include "app/look/look.h"
#include "core/seating/plan.h"

#include <QWidget>

#include <map>
#include <vector>

namespace vicegrip::app {

/// The seating plan, drawn: circuits on the left, the units' inputs on the right, a line for every seat. With a circuit
/// selected each input says in its row why it would not take it. Up and Down walk, Right goes to the inputs and Left
/// back, Enter seats, Del unseats, L locks; a circuit can be dragged onto an input.
class SeatingView : public QWidget
{
    Q_OBJECT

  public:
    explicit SeatingView(Desk& desk, QWidget* parent = nullptr);

    void refresh();
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override { return {420_px, sizeHint().height()}; }

    /// Why the selected circuit would not sit on the input that is pointed at; empty when it would.
    [[nodiscard]] const std::vector<seating::Refusal>& refusals() const { return m_refusals; }

  signals:
    void seatAsked(const QString& input);
    void unseatAsked();
    void lockAsked();
    void keepInSight(const QRect& row);
    void described(const QString& words); ///< what is selected and pointed at, in full

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    struct InputRow
    {
        const parts::EcuInput* input = nullptr; ///< null: a unit's heading
        seating::SupplyBudget budget; ///< of the unit, for its heading
        int top = 0;
    };

    void layRows();
    void paintCircuit(QPainter& p, size_t index);
    void paintInput(QPainter& p, size_t index);
    void paintUnit(QPainter& p, const InputRow& row, const QRect& box);
    void paintSeats(QPainter& p);
    void walk(int step);
    void selectCircuit(int index);
    void pointAt(int row);
    [[nodiscard]] int circuitAt(const QPoint& where) const;
    [[nodiscard]] int inputAt(const QPoint& where) const;
    [[nodiscard]] int selectedCircuit() const;
    [[nodiscard]] QRect circuitRect(int index) const;
    [[nodiscard]] QRect inputRect(size_t row) const;
    [[nodiscard]] QString reasonFor(const parts::EcuInput& input) const;
    void describe();

    Desk& m_desk;
    JobPtr m_job; ///< what the rows point into
    std::vector<InputRow> m_rows;
    std::vector<const job::Resistor*> m_fitted; ///< each circuit's pull-up in the harness, or null
    std::vector<seating::Refusal> m_refusals;
    int m_pointed = -1; ///< row of the inputs' side; -1: the circuits' side has the keys
    int m_dragged = -1; ///< circuit
    QPoint m_drag;
};

} // namespace vicegrip::app
