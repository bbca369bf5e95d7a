#pragma once

#include "app/desk/desk.h"
#include "app/desk/worked.h"
#include "core/hand_test/hand_test.h"

#include <QTimer>
#include <QWidget>

#include <map>
#include <optional>

class QLabel;
class QVBoxLayout;

namespace vicegrip::app {

class Caution;
class KeyButton;
class LooseFeed;
class TypedField;
class WheelView;

/// The engine turned by hand, tooth by tooth past the sensor of the selected circuit: what a meter must read, which
/// tooth comes next, and what was seen. The bench turns by itself, a meter that is linked is listened to, and any other
/// is told by keys.
class HandView : public QWidget
{
    Q_OBJECT

  public:
    explicit HandView(Desk& desk, QWidget* parent = nullptr);
    void refresh();

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    /// One turn that is under way.
    struct Session
    {
        std::string wheel; ///< its line
        hand_test::Count count;
        double crank_deg = 0; ///< of the bench
        bool onTooth = false; ///< the bench's wheel stands so
    };

    /// What must be read, worked out beside the window.
    struct Promised
    {
        std::shared_ptr<const job::Job> job;
        job::CircuitId circuit;
        std::optional<hand_test::Due> due;
        QString trouble; ///< why nothing is
    };

    void buildFigures(QVBoxLayout* column);
    void buildKeys(QVBoxLayout* column);
    [[nodiscard]] Session* session();
    [[nodiscard]] const hand_test::Standing* standing() const;
    void work();
    void take(const Promised& promised);
    /// What was read and promised is of something else.
    void forget()
    {
        m_due.reset();
        m_trouble.clear();
        m_read_v.reset();
        m_said.clear();
    }
    void show();
    void showDue();
    void showVerdict();
    void showWheel();
    void mark(bool seen);
    void takeBack();
    void turnOn();
    void listen();
    void hear(double volts, bool told);
    void keep();

    Desk& m_desk;
    AnalysisPtr m_analysis;
    job::CircuitId m_circuit; ///< that is shown
    std::map<job::CircuitId, Session> m_sessions;
    std::optional<hand_test::Due> m_due;
    std::shared_ptr<const job::Job> m_dueOf; ///< the job that it was worked out of
    QString m_trouble; ///< why nothing is due
    QString m_said; ///< of the last reading
    bool m_bad = false; ///< what was said is wrong
    bool m_turning = false; ///< the bench turns, or its meter reads what that did
    std::optional<double> m_read_v;
    int m_tries = 0; ///< readings of it that came to nothing
    WheelView* m_wheel;
    LooseFeed* m_loose;
    TypedField* m_reading;
    QLabel *m_context, *m_title, *m_leads, *m_tooth, *m_gap, *m_now, *m_verdict, *m_todo;
    KeyButton *m_turn, *m_seen, *m_missed, *m_back, *m_keep;
    Caution* m_caution;
    QTimer m_listen; ///< to a meter that is linked, while this is shown
    Worked<Promised> m_worked; ///< last: it waits for what is under way
};

} // namespace vicegrip::app
