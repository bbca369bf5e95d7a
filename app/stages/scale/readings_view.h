#pragma once

#include "app/desk/desk.h"
#include "app/desk/worked.h"
#include "core/scaling/as_measured.h"
#include "core/scaling/budget.h"

#include <QWidget>

#include <optional>
#include <vector>

class QLabel;
class QPushButton;
class QStackedWidget;

namespace vicegrip::app {

class KeyButton;
class ListTable;
class OffPlot;
class PastePanel;
class TypedField;

/// Readings beside another instrument: what the sheet says of each, whether the sensor agrees with it, the fit.
class ReadingsView : public QWidget
{
    Q_OBJECT

  public:
    explicit ReadingsView(Desk& desk, QWidget* parent = nullptr);

    void refresh();
    void refreshLive();

  private:
    void layOut();
    void capture();
    [[nodiscard]] double within() const;
    void showPaste(bool shown);
    void readPasted();
    void takePasted();
    void makeCurve();
    /// What is worked out of a circuit's readings beside the window.
    struct Verdict
    {
        AnalysisPtr analysis;
        job::CircuitId circuit;
        Result<scaling::CapturedVerdict> compared;
        Result<parts::Part> measured;
        std::vector<scaling::Budget> allowed;
        std::vector<scaling::FitPlace> curve;
    };
    [[nodiscard]] static Verdict compare(const AnalysisPtr& analysis, const job::CircuitId& id);
    void showNothing(const QString& why);
    void showVerdict(const Verdict& verdict);
    void showPlot(const job::Circuit& circuit, const parts::Part& sensor, const Verdict& verdict);
    void change(const QString& what, const std::function<void(std::vector<job::Captured>&, size_t)>& change);
    void fillTable(const job::Circuit& circuit, const parts::Part& sensor, const scaling::CapturedVerdict& verdict);
    [[nodiscard]] QString fitText(const parts::Part& sensor, const scaling::CapturedVerdict& verdict) const;

    Desk& m_desk;
    TypedField *m_value, *m_volts, *m_within;
    KeyButton* m_capture;
    QPushButton *m_aside, *m_remove, *m_pasting, *m_curve;
    OffPlot* m_plot;
    PastePanel* m_paste;
    QStackedWidget* m_stack; ///< the readings, or a list pasted from elsewhere
    ListTable* m_table;
    QLabel *m_verdict, *m_fit;
    job::CircuitId m_shown;
    std::optional<parts::Part> m_measured; ///< what the readings make of the sensor
    Worked<Verdict> m_compared{[this](const Verdict& verdict) { showVerdict(verdict); }};
};

} // namespace vicegrip::app
