#pragma once

#include "app/desk/desk.h"
#include "app/desk/worked.h"
#include "core/seating/plan.h"

#include <QObject>

#include <atomic>
#include <memory>

/// Seats the whole job beside the window: what has been found is told on the way, and it can be ended with that.
namespace vicegrip::app {

class SeatAll : public QObject
{
    Q_OBJECT

  public:
    explicit SeatAll(Desk& desk, QObject* parent = nullptr);
    ~SeatAll() override { m_ended = true; }

    /// Begins with the job as it is now. A job that is edited meanwhile is seated anew, as it then is.
    void start();
    /// Takes the best found so far.
    void end() { m_ended = true; }
    [[nodiscard]] bool isAtWork() const { return m_isAtWork; }

  signals:
    void came(const vicegrip::seating::Progress& progress);
    void found(const vicegrip::seating::Plan& plan); ///< and the job is seated so

  private:
    struct Seated
    {
        std::shared_ptr<const job::Job> from;
        seating::Plan plan;
        job::Job job;
        Result<void> taken;
    };
    using Answer = std::shared_ptr<Seated>;

    void finish(const Answer& answer);

    Desk& m_desk;
    std::atomic<bool> m_ended = false;
    bool m_isAtWork = false;
    Worked<Answer> m_work{[this](const Answer& answer) { finish(answer); }};
};

} // namespace vicegrip::app
