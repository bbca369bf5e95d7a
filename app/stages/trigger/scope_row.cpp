#include "app/stages/trigger/scope_row.h"

#include "app/look/look.h"
#include "app/views/selected.h"
#include "app/widgets/key_button.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QTime>

namespace vicegrip::app {
namespace {

enum Engine { OnStarter, ByItself };

constexpr double kTurns = 8, kStarter_rpm = 150, kIdle_rpm = 700; // the slowest that are usual
constexpr int kPoints = 200000;

} // namespace

ScopeRow::ScopeRow(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_engine(new QComboBox),
      m_sweep(KeyButton::bound(this, "scope-sweep", tr("Sweep a scope"), Qt::Key_T, false))
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(look::kGap);
    m_engine->setObjectName(QStringLiteral("scope-engine"));
    m_engine->setAccessibleName(tr("How the engine turns"));
    m_engine->setFont(look::textFont(look::Size::Small));
    m_engine->addItems({tr("on the starter"), tr("running")});
    row->addWidget(m_engine);
    row->addWidget(m_sweep);
    connect(m_sweep, &QAbstractButton::clicked, this, &ScopeRow::sweep);
    connect(m_engine, &QComboBox::activated, this, &ScopeRow::tipsChanged);
    connect(&desk.live, &Live::linksChanged, this, &ScopeRow::refresh);
}

/// The circuit in hand, then every other wheel.
std::vector<ScopeRow::Channel> ScopeRow::channels() const
{
    const job::Job& job = *m_desk.store.job();
    std::vector<Channel> out;
    const job::Circuit* first = selectedCircuit(m_desk);
    const auto add = [&](const job::Circuit& c) {
        if (!job::readsWheel(job, c))
            return;
        if (const auto leads = electrics::leadsAtInput(job, c))
            out.push_back({c.id, text(c.name), *leads, parts::traitsOf(*job::sensorOf(job, c)).alternating});
    };
    if (first != nullptr)
        add(*first);
    if (!out.empty())
        for (const job::Circuit& c : job.circuits)
            if (c.id != first->id)
                add(c);
    return out;
}

void ScopeRow::refresh()
{
    m_sweep->setEnabled(!m_sweeping && !channels().empty());
}

QString ScopeRow::tips() const
{
    const job::Job& job = *m_desk.store.job();
    const std::vector<Channel> all = channels();
    if (all.empty())
        return tr("It has no seat, or its wires are not drawn to the ECU: a file says as much as a scope.");
    QStringList said;
    bool coil = false;
    for (const Channel& c : all) {
        said << tr("%1: tip at %2, clip at %3")
                    .arg(said.size() + 1)
                    .arg(text(job::spoken(job, c.leads.red)), text(job::spoken(job, c.leads.black)));
        coil = coil || c.coil;
    }
    if (coil)
        said << tr("a coil is seen by a differential probe alone: an earthed clip shorts its second wire");
    const bool starter = m_engine->currentIndex() == OnStarter;
    said << (starter ? tr("on the starter: fuel and sparks off, out of gear, hands and leads off the belts; local "
                          "rules come first")
                     : tr("running: hands, sleeves and leads off belts and fan, the exhaust led out; local rules come "
                          "first"));
    return said.join(QStringLiteral("; ")) + QLatin1Char('.');
}

void ScopeRow::sweep()
{
    const std::vector<Channel> all = channels();
    const auto address = link::addressOf(m_place);
    if (all.empty() || m_sweeping)
        return;
    if (!address && !m_desk.live.canTurn()) {
        emit troubled(tr("there is no bench: type where the scope is, such as 192.168.1.30:5025"));
        return;
    }
    emit troubled({});
    const bool starter = m_engine->currentIndex() == OnStarter;
    link::Sweep sweep;
    sweep.channels = static_cast<int>(all.size());
    sweep.points = kPoints;
    sweep.step_s = kTurns * trigger::kMinute_s / (starter ? kStarter_rpm : kIdle_rpm) / kPoints;
    m_sweeping = true;
    refresh();
    const auto took = [this, all](const std::shared_ptr<const link::Swept>& swept, const QString& sentence) {
        m_sweeping = false;
        refresh();
        emit troubled(sentence);
        if (swept)
            take(*swept, all);
    };
    if (address) {
        m_desk.live.sweepScope(*address, sweep, took);
        return;
    }
    std::vector<electrics::Leads> leads;
    for (const Channel& c : all)
        leads.push_back(c.leads);
    m_desk.live.sweepBench(leads, starter ? job::Condition::Cranking : job::Condition::Running, sweep, took);
}

void ScopeRow::take(const link::Swept& swept, const std::vector<Channel>& of)
{
    capture::Seen seen;
    seen.step_s = swept.step_s;
    seen.seconds = swept.step_s * static_cast<double>(swept.volts.front().size());
    for (size_t i = 0; i < swept.volts.size(); ++i)
        seen.channels.push_back({of[i].name.toStdString(), swept.volts[i], {}});
    emit this->swept(
        forView(std::move(seen), tr("scope at %1").arg(QTime::currentTime().toString(QStringLiteral("hh:mm:ss")))),
        of.front().circuit);
}

} // namespace vicegrip::app
