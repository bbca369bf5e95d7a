#pragma once

#include "app/desk/desk.h"
#include "app/look/look.h"
#include "core/seating/plan.h"

#include <QWidget>

#include <map>
#include <vector>

namespace vicegrip::app {

/// "0–5 V  ·  pull-up 1k": what a seat can do, or a circuit asks for.
[[nodiscard]] QString seatingWords(const std::vector<std::string>& words);

/// The seating plan, drawn: circuits on the left, the units' inputs and outputs on the right, a line for every seat.
/// With a circuit selected each seat says in its row why it would not take it. Up and Down walk, Right goes to the
/// seats and Left back, Enter seats, Del unseats, L locks; a circuit can be dragged onto a seat.
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
    void seatAsked(const QString& seat); ///< an input's name, or an output's
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
    /// An input, an output, or the heading of a unit.
    struct SeatRow
    {
        const parts::EcuInput* input = nullptr;
        const parts::EcuOutput* output = nullptr;
        seating::SupplyBudget budget; ///< of the unit, for its heading
        int top = 0;

        [[nodiscard]] bool isSeat() const { return input != nullptr || output != nullptr; }
        [[nodiscard]] QString id() const;
        [[nodiscard]] std::vector<std::string> capabilities() const;
        [[nodiscard]] bool seats(const job::Circuit& circuit) const;
        [[nodiscard]] const job::Circuit* occupant(const job::Job& job) const;
    };

    void layRows();
    void paintCircuit(QPainter& p, size_t index);
    void paintSeat(QPainter& p, size_t index);
    void paintUnit(QPainter& p, const SeatRow& row, const QRect& box);
    void paintSeats(QPainter& p);
    void walk(int step);
    void selectCircuit(int index);
    void pointAt(int row);
    [[nodiscard]] int circuitAt(const QPoint& where) const;
    [[nodiscard]] int seatAt(const QPoint& where) const;
    [[nodiscard]] int selectedCircuit() const;
    [[nodiscard]] QRect circuitRect(int index) const;
    [[nodiscard]] QRect seatRect(size_t row) const;
    [[nodiscard]] QString reasonFor(const SeatRow& row) const;
    /// Whether a circuit of its kind is selected, and nothing speaks against this seat.
    [[nodiscard]] bool wouldTake(const SeatRow& row) const;
    void describe();
    void bringIntoSight();

    Desk& m_desk;
    JobPtr m_job; ///< what the rows point into
    std::vector<SeatRow> m_rows;
    std::vector<const job::Resistor*> m_fitted; ///< each circuit's pull-up in the harness, or null
    std::vector<seating::Refusal> m_refusals;
    int m_pointed = -1; ///< row of the seats' side; -1: the circuits' side has the keys
    int m_dragged = -1; ///< circuit
    job::CircuitId m_shown; ///< selected when it was last brought into sight
    QPoint m_drag;
};

} // namespace vicegrip::app
