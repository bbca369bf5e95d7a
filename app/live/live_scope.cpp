#include "app/live/live.h"

#include <utility>

namespace vicegrip::app {

void Live::sweepBench(const std::vector<electrics::Leads>& leads, job::Condition condition, const link::Sweep& sweep,
                      const Swept& swept)
{
    if (m_swept) {
        swept(nullptr, tr("The scope is still at the last sweep."));
        return;
    }
    m_swept = swept;
    QList<QPair<QString, QString>> tips;
    for (const electrics::Leads& l : leads)
        tips.append({QString::fromStdString(l.red.text()), QString::fromStdString(l.black.text())});
    m_bench.setCondition(condition);
    m_bench.putTips(tips, [this, sweep](const QString& error) {
        if (error.isEmpty())
            m_scope.take(m_door.channel("scope"), sweep);
        else
            finishSweep(nullptr, error);
    });
}

void Live::sweepScope(const link::Address& scope, const link::Sweep& sweep, const Swept& swept)
{
    if (m_swept) {
        swept(nullptr, tr("The scope is still at the last sweep."));
        return;
    }
    m_swept = swept;
    m_scope.take(scope, sweep);
}

/// The bench's engine turns as it did before.
void Live::finishSweep(std::shared_ptr<const link::Swept> swept, const QString& sentence)
{
    if (m_bench.isReady())
        m_bench.setCondition(m_condition);
    if (const Swept to = std::exchange(m_swept, {}))
        to(std::move(swept), sentence);
}

} // namespace vicegrip::app
