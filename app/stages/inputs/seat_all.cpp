#include "app/stages/inputs/seat_all.h"

namespace vicegrip::app {

SeatAll::SeatAll(Desk& desk, QObject* parent) : QObject(parent), m_desk(desk) {}

void SeatAll::start()
{
    m_isAtWork = true;
    m_ended = false;
    m_work.ask([this, job = m_desk.store.job()] {
        const auto watch = [this](const seating::Progress& progress) {
            QMetaObject::invokeMethod(
                this, [this, progress] { emit came(progress); }, Qt::QueuedConnection);
            return !m_ended;
        };
        auto answer = std::make_shared<Seated>(Seated{job, seating::bestPlan(*job, watch), *job, {}});
        answer->taken = seating::take(answer->job, answer->plan);
        return answer;
    });
}

void SeatAll::finish(const Answer& answer)
{
    if (answer->from != m_desk.store.job()) {
        start();
        return;
    }
    m_isAtWork = false;
    m_desk.store.editOrSay(tr("Seat all"),
                           [&](job::Job& job) { return answer->taken.map([&] { job = std::move(answer->job); }); });
    emit found(answer->plan);
}

} // namespace vicegrip::app
