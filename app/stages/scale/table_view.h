#pragma once

#include "app/desk/desk.h"
#include "app/desk/worked.h"
#include "app/stages/scale/budget_place.h"

#include <QWidget>

class QLabel;
class QPushButton;
class QStackedWidget;
class QVBoxLayout;

namespace vicegrip::app {

class CircuitForm;
class KeyButton;
class OldTable;
class PointsPanel;
class TransferPlot;
class TypedField;
class Verifier;
class VerifyRound;

/// The table the ECU needs for this input, handed over, and the value that comes back.
class TableView : public QWidget
{
    Q_OBJECT

  public:
    explicit TableView(Desk& desk, QWidget* parent = nullptr);

    void refresh();
    void refreshLive();

    /// Writes what the ECU takes: JSON where the name ends so, else CSV. Errors (Io) with the file.

  private:
    void buildStimulus(QVBoxLayout* column);
    void buildVerify(QVBoxLayout* column);
    [[nodiscard]] QString allText() const;
    void send();
    void record();
    void exportBeside();
    void apply(const QString& typed);
    void letGo();
    void showOld(bool shown);
    void showVerified();
    void say(const QString& sentence, bool bad = false);
    [[nodiscard]] std::optional<InputNow> sample() const;
    [[nodiscard]] std::optional<double> readingNow() const;
    [[nodiscard]] const proof::Expectation* expected(proof::StationKind kind) const;

    Desk& m_desk;
    AnalysisPtr m_analysis;
    CircuitForm* m_form;
    TransferPlot* m_plot;
    PointsPanel* m_points;
    QStackedWidget* m_stack; ///< the table, or an old one pasted beside it
    OldTable* m_old;
    TypedField* m_stimulus; ///< hands on the bench
    Verifier* m_verifier;
    VerifyRound* m_round;
    std::vector<proof::Judged> m_stations; ///< of the circuit, with the key on
    std::optional<proof::Expectation> m_held; ///< what must come back while hands hold the sensor
    job::CircuitId m_heldCircuit;
    void hold(const BudgetPlace& applied);
    Worked<BudgetPlace> m_applied{[this](const BudgetPlace& applied) { hold(applied); }};
    QLabel* m_mixUp;
    QLabel *m_mustReturn, *m_expected, *m_returned, *m_said;
    KeyButton *m_send, *m_record, *m_verify;
    QPushButton *m_compare, *m_export, *m_verifyAll;
};

} // namespace vicegrip::app
