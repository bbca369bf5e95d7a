#include "app/desk/promises.h"

#include <algorithm>

namespace vicegrip::app {
namespace {

constexpr int kPatience_ms = 40; // few wait as long: it takes a network of hundreds of circuits, or a busy machine

std::vector<proof::Expectation> pending(const std::vector<proof::Standing>& stations)
{
    std::vector<proof::Place> places;
    for (const proof::Standing& s : stations)
        places.push_back(s.place);
    return proof::nothingPromised(places, Promises::tr("it is being worked out").toStdString());
}

} // namespace

Promises::Promises(JobStore& store, QObject* parent) : QObject(parent), m_store(store)
{
    m_pool.setMaxThreadCount(1);
    connect(&m_store, &JobStore::analysed, this, [this] { // what is still wanted will be asked for again
        if (m_wanted.size() > 1)
            m_wanted.erase(m_wanted.begin() + 1, m_wanted.end());
    });
}

Promises::~Promises()
{
    m_pool.waitForDone();
}

const std::vector<proof::Expectation>* Promises::known(const AnalysisPtr& analysis, const job::CircuitId& circuit,
                                                       job::Condition condition)
{
    if (analysis::isPromised(*analysis, circuit, condition))
        return &analysis::promises(*analysis, circuit, condition);
    (void)want(analysis, circuit, condition);
    return nullptr;
}

std::vector<proof::Judged> Promises::of(const job::CircuitId& circuit, job::Condition condition)
{
    const AnalysisPtr analysis = m_store.analysis();
    const auto* view = analysis::find(*analysis, circuit);
    if (view == nullptr)
        return {};
    const auto* there = known(analysis, circuit, condition);
    if (there == nullptr) {
        m_pool.waitForDone(kPatience_ms);
        there = known(analysis, circuit, condition);
    }
    if (there == nullptr)
        want(analysis, circuit, condition).awaited = true;
    const auto stations = analysis::standings(*analysis, circuit, condition);
    return proof::judged(stations, there != nullptr ? *there : pending(stations));
}

/// The newest first, after the one at hand: what is looked at now is wanted before what was looked at.
Promises::Wanted& Promises::want(const AnalysisPtr& analysis, const job::CircuitId& circuit, job::Condition condition)
{
    const auto there = std::ranges::find_if(m_wanted, [&](const Wanted& w) {
        return w.analysis == analysis && w.circuit == circuit && w.condition == condition;
    });
    if (there != m_wanted.end() && there - m_wanted.begin() <= 1)
        return *there;
    Wanted wanted{analysis, circuit, condition};
    if (there != m_wanted.end()) {
        wanted = std::move(*there);
        m_wanted.erase(there);
    }
    const bool idle = m_wanted.empty();
    Wanted& placed = *m_wanted.insert(m_wanted.begin() + (idle ? 0 : 1), std::move(wanted));
    if (idle)
        workOut();
    return placed;
}

void Promises::workOut()
{
    m_pool.start([this, wanted = m_wanted.front()] { // the analysis is held: the window may go on to another
        (void)analysis::promises(*wanted.analysis, wanted.circuit, wanted.condition); // kept there
        QMetaObject::invokeMethod(this, &Promises::takeNext, Qt::QueuedConnection);
    });
}

void Promises::takeNext()
{
    const Wanted done = std::move(m_wanted.front());
    m_wanted.pop_front();
    if (!m_wanted.empty())
        workOut();
    if (done.awaited)
        emit arrived(done.circuit);
}

} // namespace vicegrip::app
