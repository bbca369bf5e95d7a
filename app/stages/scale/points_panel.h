#pragma once

#include "app/desk/desk.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QTableWidget;
class QVBoxLayout;

namespace vicegrip::app {

class GainBars;

/// What the ECU is given: the table's points, or the coefficients of a formula; its worst error, and the readings
/// beyond which it should take the input for failed.
class PointsPanel : public QWidget
{
    Q_OBJECT

  public:
    explicit PointsPanel(Desk& desk, QWidget* parent = nullptr);

    void show(const job::Job& job, const proof::CircuitView& view, const job::Circuit& circuit,
              const parts::Part& sensor);
    void clear(const QString& sentence, bool bad = false);

  signals:
    void copied(const QString& sentence);

  private:
    void build();
    void addWritten(QVBoxLayout* column);
    void change(const QString& what, const std::function<void(job::ScalingSpec&, const parts::Part&)>& change);
    void showTaken(const job::ScalingSpec& spec, const parts::Part& sensor);
    void fill(const scaling::Table& table, const parts::Part& sensor, const job::ScalingSpec& spec);
    void sayWorst(const scaling::Table& table, const parts::Part& sensor, const job::ScalingSpec& spec);
    void copy();

    Desk& m_desk;
    QComboBox *m_takes, *m_unit, *m_order;
    QTableWidget* m_table;
    GainBars* m_gain;
    QLabel *m_worst, *m_limits;
    std::string m_copy; ///< what goes on the clipboard
};

} // namespace vicegrip::app
