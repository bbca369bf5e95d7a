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

    void show(const std::shared_ptr<const job::Job>& job, const analysis::CircuitView& view,
              const job::Circuit& circuit, const parts::Sensor& sensor);
    void clear(const QString& sentence, bool bad = false);

    /// What the ECU makes of a value by the formula that is chosen; empty with points.
    [[nodiscard]] const std::function<double(double)>& formula() const { return m_formula; }

  signals:
    void formChanged();
    void copied(const QString& sentence);

  private:
    void build();
    void addWritten(QVBoxLayout* column);
    void change(const QString& what, const std::function<void(job::ScalingSpec&, const parts::Sensor&)>& change);
    void showForm();
    void showPoints();
    void showCoefficients();
    void fill(const std::vector<std::pair<QString, QString>>& rows, const QString& left, const QString& right);
    void copy();
    /// Degree of the polynomial that is chosen, 0 for Steinhart-Hart; none: the points.
    [[nodiscard]] std::optional<int> chosenDegree() const;

    Desk& m_desk;
    QComboBox *m_form, *m_unit, *m_order;
    QTableWidget* m_table;
    GainBars* m_gain;
    QLabel *m_worst, *m_limits;
    std::shared_ptr<const job::Job> m_job;
    std::optional<analysis::CircuitView> m_view;
    std::string m_copy; ///< what goes on the clipboard
    std::function<double(double)> m_formula;
};

} // namespace vicegrip::app
