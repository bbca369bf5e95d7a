#pragma once

#include "app/desk/worked.h"
#include "app/live/live.h"
#include "app/store/job_store.h"
#include "app/store/link_profiles.h"

#include <QObject>

namespace vicegrip::app {

/// Which link serves what: the job says it, the user's list says how it is reached, and what is connected follows both.
class Linking : public QObject
{
    Q_OBJECT

  public:
    Linking(JobStore& store, Live& live, QObject* parent = nullptr);

    [[nodiscard]] const LinkProfiles& profiles() const { return m_profiles; }
    /// What keeps the link that was asked for from being opened; empty: nothing does.
    [[nodiscard]] const QString& trouble() const { return m_trouble; }
    /// What describes the frames that are listened to, or were tried last, and what of it is like which circuit; null:
    /// there is none.
    [[nodiscard]] const std::shared_ptr<const stream::Matcher>& matcher() const { return m_matcher; }
    [[nodiscard]] std::shared_ptr<const dbc::Database> database() const;
    /// What in it cannot be meant.
    [[nodiscard]] const std::vector<Error>& remarks() const { return m_remarks; }
    [[nodiscard]] bool isReading() const { return m_reading; } ///< the database, beside the window

    /// The job was opened or changed: what it says now is connected.
    void follow();

    /// Listens, without keeping anything.
    void tryOut(const StreamProfile& profile);
    /// The job's ECU is heard over it from now on: it is kept, the job says so, and circuits that are told nothing yet
    /// are matched; one step to undo.
    void use(const StreamProfile& profile);
    void useNone();
    /// The job's own link is connected again; `endTrial` does so where another was tried.
    void connectAgain();
    void endTrial();
    void forget(const QString& name);

    /// Another signal for one thing that a circuit is told, or none; kept for the next car as well.
    void tell(const job::CircuitId& circuit, job::Tells tells, const std::optional<job::Told>& told);

    /// The job's multimeter; its place as `link::addressOf` reads it. Empty: none.
    void useMeter(const QString& place);
    void forgetMeter(const QString& place);

  signals:
    void changed();

  private:
    enum class For { Job, Trial, Use };
    struct Loaded
    {
        StreamProfile profile;
        For what = For::Job;
        int asked = 0;
        std::shared_ptr<const stream::Matcher> matcher;
        std::shared_ptr<const job::Job> job;
        std::vector<stream::Matched> matched; ///< with the circuits of that job, where it is to be used
        std::vector<Error> remarks;
        QString trouble;
    };
    void load(const StreamProfile& profile, For what);
    void take(const Loaded& loaded);
    void keepAndTell(StreamProfile profile, const std::vector<stream::Matched>& matched);
    void connectMeter();
    void fail(const QString& sentence);

    JobStore& m_store;
    Live& m_live;
    LinkProfiles m_profiles;
    QString m_trouble;
    std::shared_ptr<const stream::Matcher> m_matcher;
    std::vector<Error> m_remarks;
    QString m_stream, m_instrument; ///< as the job said when that was followed last
    int m_asked = 0; ///< an older answer is of no use any more
    bool m_reading = false, m_trying = false;
    Worked<Loaded> m_load;
};

} // namespace vicegrip::app
