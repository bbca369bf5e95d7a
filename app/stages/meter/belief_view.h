#pragma once

#include "app/desk/desk.h"
#include "app/desk/worked.h"
#include "core/diagnosis/diagnosis.h"

#include <QWidget>
#include <array>

class QLabel;

namespace vicegrip::app {

class KeyButton;
class ShareBar;

/// What is likely wrong with the circuit, where a reading of it fails: the three likeliest, and the place that tells
/// most for the least work. Worked out beside the window, for as long as nothing has changed.
class BeliefView : public QWidget
{
    Q_OBJECT

  public:
    explicit BeliefView(Desk& desk, QWidget* parent = nullptr);

    void refresh();
    /// Whether something is said: its readings contradict the drawing, and what is wrong has been worked out, or cannot
    /// be.
    [[nodiscard]] bool says() const { return !m_diagnosis.groups.empty() || !m_diagnosis.trouble.empty(); }
    /// To the place that tells most, under the condition it is read under.
    void goThere();
    /// The likeliest has been put right: what rests on it is to be read again, first where that shows most easily.
    void mended();

  signals:
    /// It says something else, or nothing any more.
    void changed();

  private:
    struct Looking;
    static constexpr size_t kShown = 3;

    void work();
    void show(const diagnosis::Diagnosis& found);
    void showNext(const diagnosis::Diagnosis& found);
    void goTo(const diagnosis::Spot& spot);

    Desk& m_desk;
    AnalysisPtr m_of; ///< what the diagnosis is of
    job::CircuitId m_circuit;
    job::Condition m_now = job::Condition::KeyOn;
    diagnosis::Diagnosis m_diagnosis;
    QLabel *m_heading, *m_next, *m_outcomes;
    std::array<ShareBar*, kShown> m_bars{};
    std::array<QLabel*, kShown> m_sentences{};
    KeyButton *m_go, *m_mended;
    std::shared_ptr<Looking> m_looking; ///< for as long as nothing else is drawn; work under way has it alone
    Worked<diagnosis::Diagnosis> m_worked; ///< last: it waits for what is under way
};

} // namespace vicegrip::app
