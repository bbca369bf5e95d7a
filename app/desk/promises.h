#pragma once

#include "app/store/job_store.h"

#include <QObject>
#include <QThreadPool>

#include <deque>
#include <vector>

namespace vicegrip::app {

/// What must be read on a circuit, for the views that show it: worked out beside the window when first asked for, and
/// kept by the analysis until what it rests on changes.
class Promises : public QObject
{
    Q_OBJECT

  public:
    explicit Promises(JobStore& store, QObject* parent = nullptr);
    ~Promises() override;

    /// Of a circuit of the job that was analysed last, with what was read. Most are there within a frame; it waits for
    /// less than anybody notices, else its places promise nothing yet, and `arrived` follows.
    [[nodiscard]] std::vector<proof::Judged> of(const job::CircuitId& circuit, job::Condition condition);

    /// Of a circuit of an analysis, without waiting, for views of many circuits: null while it is being worked out. It
    /// stays as long as the analysis does.
    [[nodiscard]] const std::vector<proof::Expectation>* known(const AnalysisPtr& analysis,
                                                               const job::CircuitId& circuit, job::Condition condition);

    /// Whether nothing is being worked out.
    [[nodiscard]] bool isIdle() const { return m_wanted.empty(); }

  signals:
    void arrived(const vicegrip::job::CircuitId& circuit); ///< what `of` could not say at once

  private:
    struct Wanted
    {
        AnalysisPtr analysis;
        job::CircuitId circuit;
        job::Condition condition = job::Condition::KeyOn;
        bool awaited = false; ///< somebody shows that it is being worked out
    };
    Wanted& want(const AnalysisPtr& analysis, const job::CircuitId& circuit, job::Condition condition);
    void workOut();
    void takeNext();

    JobStore& m_store;
    std::deque<Wanted> m_wanted; ///< the first one is being worked out
    QThreadPool m_pool;
};

} // namespace vicegrip::app
