#include "app/desk/practising.h"

#include "app/desk/fault_families.h"
#include "app/desk/part_library.h"

namespace vicegrip::app {

Practice::Practice(JobStore& store)
    : m_store(store),
      m_file(QStringLiteral("practice.json"), 1, tr("What was practised")),
      m_record(practice::recordOf(m_file.read())),
      m_worked([this](const practice::Debrief& told) {
          if (m_state != State::Over || m_debrief)
              return;
          m_debrief = told;
          practice::keep(m_record, *m_round, told);
          m_file.write(practice::written(m_record));
          emit changed();
      })
{
    connect(&store, &JobStore::jobChanged, this, &Practice::follow);
}

void Practice::begin(practice::Round round, AnalysisPtr of, const QString& before)
{
    m_state = State::Playing;
    m_round = std::move(round);
    m_debrief.reset();
    m_of = std::move(of);
    m_path = m_store.path();
    m_before = before;
    m_hints = 0;
    m_hinted = false;
    emit changed();
}

void Practice::hint()
{
    if (m_state != State::Playing || m_hinted)
        return;
    ++m_hints;
    m_hinted = true;
    emit changed();
}

/// Something was done: the finder is quiet again, and perhaps all is mended.
void Practice::follow()
{
    if (m_state != State::Playing || m_store.path() != m_path) // mends of another job are none of this round
        return;
    const bool spoke = std::exchange(m_hinted, false);
    if (practice::isMended(*m_round, *m_store.job()))
        goThrough();
    else if (spoke)
        emit changed();
}

void Practice::giveUp()
{
    if (m_state == State::Playing)
        goThrough();
}

void Practice::goThrough()
{
    m_state = State::Over;
    emit changed();
    m_worked.ask([of = m_of, played = m_store.job(), round = *m_round, hints = m_hints,
                  parts = std::make_shared<parts::Library>(library())] {
        return practice::debrief(*of, *played, round, hints, *faultFamilies(), *parts);
    });
}

void Practice::end()
{
    m_state = State::Off;
    m_round.reset();
    m_debrief.reset();
    m_of.reset();
    emit changed();
}

} // namespace vicegrip::app
