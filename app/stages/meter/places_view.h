#pragma once

#include "app/desk/desk.h"

#include <QWidget>

class QLabel;
class QTableWidget;
class QVBoxLayout;

namespace vicegrip::app {

class BeliefView;
class KeyButton;
class SurroundingsForm;
class TypedField;

/// Is it wired as drawn? One place to probe at a time, with what must be read there before the probe touches.
class PlacesView : public QWidget
{
    Q_OBJECT

  public:
    explicit PlacesView(Desk& desk, QWidget* parent = nullptr);

    void refresh();

  private:
    void buildProbe(QVBoxLayout* column);
    void buildTable(QVBoxLayout* column);
    void showProbe(const job::Circuit& circuit);
    void showTable();
    void take();
    void takeFromEcu(const proof::Expectation& place);
    void goOn();
    void recordTyped(const QString& typed);
    void record(const job::Reading& reading, job::ReadingSource source);
    [[nodiscard]] bool isInside(const job::Circuit& circuit) const;
    [[nodiscard]] const proof::Judged* probed() const; ///< the station the page is at; null when there is none

    Desk& m_desk;
    AnalysisPtr m_analysis;
    std::vector<proof::Judged>
        m_stations; ///< of the circuit, under the condition, that a probe can reach or the ECU tells
    QLabel *m_context, *m_title, *m_leads, *m_must, *m_unit, *m_bounds, *m_verdict, *m_caution;
    TypedField* m_reading;
    KeyButton *m_take, *m_on;
    BeliefView* m_belief;
    SurroundingsForm* m_surroundings;
    QTableWidget* m_table;
};

} // namespace vicegrip::app
