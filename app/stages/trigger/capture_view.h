#pragma once

#include "app/desk/desk.h"
#include "app/desk/worked.h"
#include "app/stages/trigger/opened.h"

#include <QWidget>

#include <map>
#include <memory>

class QCheckBox;
class QComboBox;
class QLabel;
class QVBoxLayout;

namespace vicegrip::app {

class KeyButton;
class ListTable;
class ScopeRow;
class TypedField;
class WavePlot;
class WheelView;

/// A capture of the selected circuit's sensor: wheel, waveform and decode under one angle of the crank, and what is
/// right and what is wrong with it.
class CaptureView : public QWidget
{
    Q_OBJECT

  public:
    explicit CaptureView(Desk& desk, QWidget* parent = nullptr);
    void refresh();

  private:
    void buildHow(QVBoxLayout* column);
    void open(const QString& file);
    void ask();
    void take(std::shared_ptr<const Opened> opened);
    void show();
    void showVerdicts();
    void showDetail(int row);
    void showChannels();
    void turnTo(double time_s);
    void takeWheel();
    void save();
    void keep();
    [[nodiscard]] Looking begun();
    [[nodiscard]] Looking how() const;

    Desk& m_desk;
    job::CircuitId m_circuit; ///< that is shown
    std::map<job::CircuitId, std::shared_ptr<const Opened>> m_opened; ///< what was opened last for each
    std::shared_ptr<const Capture> m_reading; ///< of which more is asked
    TypedField* m_file;
    KeyButton *m_choose, *m_take, *m_save, *m_keep;
    QComboBox *m_channel, *m_beside;
    QCheckBox* m_coil;
    bool m_saysCoil = false; ///< a hand has said whether it is a coil's
    WheelView* m_wheel;
    WavePlot* m_wave;
    ScopeRow* m_scope;
    QLabel *m_title, *m_at, *m_limit, *m_todo;
    ListTable* m_table;
    Worked<std::shared_ptr<const Opened>> m_worked; ///< last: it waits for what is under way
};

} // namespace vicegrip::app
