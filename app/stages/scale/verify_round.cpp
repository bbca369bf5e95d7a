#include "app/stages/scale/verify_round.h"

#include "app/stages/scale/verifier.h"
#include "app/widgets/circuit_text.h"

#include <algorithm>

namespace vicegrip::app {
namespace {

constexpr int kTableSettles_ms = 300; ///< until samples come with the new table

} // namespace

VerifyRound::VerifyRound(Desk& desk, Verifier& verifier, QObject* parent)
    : QObject(parent), m_desk(desk), m_verifier(verifier)
{
    m_settle.setSingleShot(true);
    m_settle.setInterval(kTableSettles_ms);
    connect(&m_settle, &QTimer::timeout, this, &VerifyRound::compare);
    connect(&m_verifier, &Verifier::finished, this, &VerifyRound::taken);
}

void VerifyRound::toggle()
{
    if (m_running) {
        m_running = false; // before the verifier speaks
        if (m_verifier.isRunning())
            m_verifier.toggle();
        end(tr("Given up: %1 right so far.").arg(m_right), true);
        return;
    }
    m_left.clear();
    for (const proof::CircuitView& v : m_desk.store.analysis()->circuits)
        if (v.table)
            m_left.push_back(v.id);
    std::ranges::reverse(m_left);
    m_right = 0;
    m_wrong.clear();
    m_running = true;
    next();
}

void VerifyRound::next()
{
    if (m_left.empty()) {
        end(m_wrong.isEmpty()
                ? tr("All %1 tables are in the ECU, and each returns true values at ten places.").arg(m_right)
                : tr("%1 right, %2 not: %3").arg(m_right).arg(m_wrong.size()).arg(m_wrong.join(tr("; "))),
            !m_wrong.isEmpty());
        return;
    }
    m_desk.selection.setCircuit(m_left.back());
    const auto analysis = m_desk.store.analysis();
    const auto* view = analysis::find(*analysis, m_left.back());
    const job::Circuit* c = job::find(*analysis->job, m_left.back());
    if (view == nullptr || c == nullptr || !view->table) { // the job was changed meanwhile
        m_left.pop_back();
        next();
        return;
    }
    emit said(tr("Sending %1, %2 to go").arg(text(c->name)).arg(m_left.size() - 1), false);
    m_desk.live.sendTable(inputIndex(*analysis->job, c->id), *view->table, job::sensorOf(*analysis->job, *c)->measures,
                          [this](const QString& trouble) {
                              if (!m_running)
                                  return;
                              if (trouble.isEmpty())
                                  m_settle.start();
                              else
                                  taken(trouble, false);
                          });
}

void VerifyRound::compare()
{
    if (m_running)
        m_verifier.toggle();
}

void VerifyRound::taken(const QString& verdict, bool good)
{
    if (!m_running || m_left.empty())
        return;
    const job::Circuit* c = job::find(*m_desk.store.job(), m_left.back());
    if (good)
        ++m_right;
    else if (c != nullptr)
        m_wrong << tr("%1 (%2)").arg(text(c->name), verdict);
    m_left.pop_back();
    QTimer::singleShot(0, this, &VerifyRound::next); // the verifier ends first
}

void VerifyRound::end(const QString& sentence, bool bad)
{
    m_running = false;
    m_settle.stop();
    emit said(sentence, bad);
    emit ended();
}

} // namespace vicegrip::app
