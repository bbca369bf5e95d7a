#pragma once

#include "app/desk/worked.h"
#include "app/store/config_file.h"
#include "app/store/job_store.h"
#include "core/practice/practice.h"

#include <QObject>

#include <optional>

namespace vicegrip::app {

/// A round of practice in this window, and what the learner has practised. What is wrong is in no view and in no file
/// until the round is over.
class Practice : public QObject
{
    Q_OBJECT

  public:
    explicit Practice(JobStore& store);

    enum class State { Off, Playing, Over };
    [[nodiscard]] State state() const { return m_state; }
    /// The round that is played, or that was; none while off.
    [[nodiscard]] const practice::Round* round() const { return m_round ? &*m_round : nullptr; }
    /// Once the round is over and what was done has been gone through.
    [[nodiscard]] const practice::Debrief* debrief() const { return m_debrief ? &*m_debrief : nullptr; }
    [[nodiscard]] const practice::Record& record() const { return m_record; }
    /// What was wrong with the file of the record; empty: nothing.
    [[nodiscard]] const QString& complaint() const { return m_file.complaint(); }

    /// A round on the job that is open, which is how it starts. `of`: what it was made with. `before`: the file that
    /// was open; empty: none.
    void begin(practice::Round round, AnalysisPtr of, const QString& before);
    [[nodiscard]] const QString& before() const { return m_before; }
    /// The finder speaks until something is done.
    void hint();
    [[nodiscard]] int hints() const { return m_hints; }
    /// Whether the finder may say what it believes.
    [[nodiscard]] bool finderSpeaks() const { return m_state != State::Playing || m_hinted; }
    void giveUp();
    void end();

  signals:
    void changed();

  private:
    void follow();
    void goThrough();

    JobStore& m_store;
    ConfigFile m_file;
    practice::Record m_record;
    State m_state = State::Off;
    std::optional<practice::Round> m_round;
    std::optional<practice::Debrief> m_debrief;
    AnalysisPtr m_of; ///< that the round was made with
    QString m_path, m_before; ///< files: of the round, and what was open before it
    int m_hints = 0;
    bool m_hinted = false;
    Worked<practice::Debrief> m_worked; ///< last: it waits for what is under way
};

} // namespace vicegrip::app
