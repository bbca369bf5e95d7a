#pragma once

#include "app/stages/stage_page.h"

class QLabel;
class QTableWidget;
class QVBoxLayout;

namespace vicegrip::app {

class CircuitForm;
class KeyButton;
class TransferPlot;

/// The table the ECU needs for this input, handed over, and the value that comes back.
class ScalePage : public StagePage
{
    Q_OBJECT

  public:
    explicit ScalePage(Desk& desk, QWidget* parent = nullptr);

    void refresh() override;
    void refreshLive() override;

    /// Writes the table as CSV. Errors (Io) with the file.
    [[nodiscard]] Result<void> exportCsv(const QString& path) const;

  private:
    void buildVerify(QVBoxLayout* column);
    void showTable(const analysis::CircuitView& view, const job::Circuit& circuit, const parts::Sensor& sensor);
    void send();
    void record();
    void exportBeside();
    void say(const QString& sentence, bool bad = false);
    [[nodiscard]] std::optional<link::EcuSample> sample() const;
    [[nodiscard]] const proof::Expectation* expected(proof::StationKind kind) const;

    AnalysisPtr m_analysis;
    CircuitForm* m_form;
    TransferPlot* m_plot;
    QTableWidget* m_table;
    QLabel *m_worst, *m_expected, *m_returned, *m_said;
    KeyButton *m_send, *m_record, *m_export;
};

} // namespace vicegrip::app
