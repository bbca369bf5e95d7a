#pragma once

#include "app/desk/desk.h"

#include <QWidget>

#include <functional>

class QComboBox;
class QGridLayout;

namespace vicegrip::app {

class TypedField;

/// What decides a circuit's scaling: its sensor, its input's pull-up, and the table asked for. Every change is an edit.
class CircuitForm : public QWidget
{
    Q_OBJECT

  public:
    explicit CircuitForm(Desk& desk, QWidget* parent = nullptr);
    void refresh();

  private:
    [[nodiscard]] units::Dimension axisOfSelected() const;
    using Set = std::function<void(job::Job&, double)>;

    TypedField* add(QGridLayout* grid, const QString& name, const char* objectName,
                    const std::function<Result<double>(const QString&)>& read,
                    const std::function<QString(double)>& say, Set set);
    void addPullUp(QGridLayout* grid);
    void addTable(QGridLayout* grid);
    void addBreakpoints(QGridLayout* grid);
    [[nodiscard]] QString ecuUnit() const;
    void offerSensors();
    void chooseBreakpoints(int index);
    void chooseSensor(int index);
    void edit(TypedField* field, const QString& description, const Change& change);

    Desk& m_desk;
    QComboBox *m_sensor, *m_breakpoints;
    TypedField *m_pullUp, *m_points, *m_fixed, *m_low, *m_high, *m_outputStep, *m_inputStep;
};

} // namespace vicegrip::app
