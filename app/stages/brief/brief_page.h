#pragma once

#include "app/stages/stage_page.h"
#include "core/brief/range.h"

#include <vector>

class QLabel;
class QPushButton;
class QScrollArea;
class QVBoxLayout;

namespace vicegrip::app {

class AirMethods;
class Caution;
class CompareGrid;
class ConsequenceList;
class FactsForm;
class KeyButton;
class QuestionsForm;
class RangeChart;

/// Brief: the facts of the engine on the left, what follows from them on the right, on one page read from top to
/// bottom.
class BriefPage : public StagePage
{
    Q_OBJECT

  public:
    explicit BriefPage(Desk& desk, QWidget* parent = nullptr);

    void refresh() override;
    [[nodiscard]] std::vector<Spot> spots() const override;
    void goToSpot(const QString& key) override;
    [[nodiscard]] bool wantsList() const override { return false; }

  private:
    /// A part of the page, and the link above that goes to it.
    struct Section
    {
        QWidget* part;
        QPushButton* link;
    };
    QWidget* addSection(const QString& name, const char* objectName, const QString& title = {});
    void buildRange(QVBoxLayout* column);
    void refreshRange();
    void refreshHarness();
    void refreshSiting();
    void goToSection(const Section& section);
    void markWhere();
    void takeChosen();
    [[nodiscard]] job::FunctionId rangeFunction() const;

    FactsForm* m_facts;
    QScrollArea* m_scroll;
    QVBoxLayout* m_column;
    QWidget* m_index;
    std::vector<Section> m_sections;
    ConsequenceList* m_consequences;
    AirMethods* m_air;
    RangeChart* m_range;
    QLabel *m_rangeTitle, *m_rangeVerdict;
    KeyButton* m_fit;
    CompareGrid* m_harness;
    QLabel *m_sitingTitle, *m_siting;
    Caution* m_caution;
    QuestionsForm* m_questions;
};

} // namespace vicegrip::app
