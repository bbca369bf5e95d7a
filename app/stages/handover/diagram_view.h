#pragma once

#include "app/desk/desk.h"
#include "core/diagram/diagram.h"

#include <QWidget>

#include <map>
#include <vector>

class QComboBox;
class QLabel;

namespace vicegrip::app {

class FigureView;
class KeyButton;

/// The wiring diagram, a sheet at a time; the selected circuit's wires have a halo, and a wire that is picked selects
/// its circuit.
class DiagramView : public QWidget
{
    Q_OBJECT

  public:
    explicit DiagramView(Desk& desk, QWidget* parent = nullptr);

    void refresh();

  private:
    void showSheet(int sheet);
    void showSelected();
    void picked(const QString& about);
    void save();

    Desk& m_desk;
    QComboBox* m_choice;
    QLabel* m_said;
    FigureView* m_figure;
    KeyButton *m_whole, *m_next, *m_save;
    JobPtr m_of; ///< the job the sheets are of
    std::vector<diagram::Sheet> m_sheets;
    std::map<job::CircuitId, std::set<std::string>> m_links; ///< of each circuit, by what they are about
    job::CircuitId m_shownFor; ///< the circuit its sheet was turned to
};

} // namespace vicegrip::app
