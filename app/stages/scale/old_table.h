#pragma once

#include "app/desk/desk.h"

#include <QWidget>

namespace vicegrip::app {

class OffPlot;
class PastePanel;

/// A table somebody has, beside the one that is worked out here: the difference line by line and as a curve. Its places
/// can be taken over where the ECU's are fixed.
class OldTable : public QWidget
{
    Q_OBJECT

  public:
    explicit OldTable(Desk& desk, QWidget* parent = nullptr);

    void begin(); ///< empty, for the selected circuit

  signals:
    void left();

  private:
    void read();
    void take();

    Desk& m_desk;
    PastePanel* m_paste;
    OffPlot* m_plot;
    std::vector<double> m_readings; ///< of the table that was read
};

} // namespace vicegrip::app
