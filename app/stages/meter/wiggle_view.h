#pragma once

#include "app/desk/desk.h"
#include "app/desk/worked.h"
#include "core/wiggle/wiggle.h"

#include <QElapsedTimer>
#include <QWidget>

#include <map>
#include <optional>

class QLabel;
class QVBoxLayout;

namespace vicegrip::app {

class KeyButton;
class ListTable;
class TracePlot;

/// The wiggle test: what the input of the selected circuit says while hands go from place to place, and which of them
/// explains what falls out of it.
class WiggleView : public QWidget
{
    Q_OBJECT

  public:
    explicit WiggleView(Desk& desk, QWidget* parent = nullptr);
    void refresh();

  protected:
    void hideEvent(QHideEvent* event) override;

  private:
    /// What a circuit said, and where it can be held.
    struct Session
    {
        std::vector<wiggle::Hold> holds;
        wiggle::Watch watch;
        wiggle::Verdict verdict;
    };
    /// Worked out beside the window.
    struct Places
    {
        job::CircuitId circuit;
        std::vector<wiggle::Hold> holds;
        double grain = 0;
    };

    [[nodiscard]] KeyButton* button(const char* name, const QString& words, Qt::Key key, bool primary = false);
    void buildWatch(QVBoxLayout* column);
    void buildPlaces(QVBoxLayout* column);
    void take(const Places& places);
    [[nodiscard]] Session* session();
    [[nodiscard]] const wiggle::Standing* standing() const;
    /// Where the next mark goes: what is asked for, or what was chosen in the table.
    [[nodiscard]] std::optional<size_t> target();
    /// Hands have been at the place that was mended, or at all of them.
    [[nodiscard]] bool enough();
    void hear();
    void show();
    void showNone();
    void showSession(Session& s);
    void showTable(const Session& s);
    void handsAt(std::optional<size_t> hold);
    void letGo();
    void beginAnew();
    void keep();
    void mended();
    [[nodiscard]] std::vector<faults::Loose> loose();
    [[nodiscard]] QString bidden(const Session& s);
    [[nodiscard]] bool isKept();
    [[nodiscard]] double seconds() const { return static_cast<double>(m_clock.nsecsElapsed()) * 1e-9; }

    Desk& m_desk;
    AnalysisPtr m_analysis;
    QString m_path; ///< of the job that the sessions are of
    job::CircuitId m_circuit; ///< that is watched
    job::Condition m_condition = job::Condition::KeyOn;
    QElapsedTimer m_clock;
    std::map<job::CircuitId, Session> m_sessions;
    std::optional<size_t> m_chosen; ///< in the table
    std::optional<size_t> m_kept; ///< so many drop-outs were heard when it was kept; none: it was not
    QLabel *m_context, *m_title, *m_reading, *m_held, *m_says, *m_todo;
    TracePlot* m_trace;
    KeyButton *m_there, *m_off, *m_again, *m_keep, *m_mended;
    ListTable* m_table;
    Worked<Places> m_worked; ///< last: it waits for what is under way
};

} // namespace vicegrip::app
