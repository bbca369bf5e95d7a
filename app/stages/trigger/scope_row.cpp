#include "app/stages/trigger/scope_row.h"

#include "app/views/selected.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/typed_field.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QTime>
#include <QVBoxLayout>

namespace vicegrip::app {
namespace {

enum Engine { OnStarter, ByItself };

constexpr double kTurns = 8, kStarter_rpm = 150, kIdle_rpm = 700; // the slowest that are usual
constexpr int kPoints = 200000;

} // namespace

ScopeRow::ScopeRow(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_place(new TypedField(tr("Scope"),
                             [](const QString& typed) -> Result<QString> {
                                 if (typed.trimmed().isEmpty() || link::addressOf(typed.trimmed()))
                                     return QString();
                                 return fail(ErrorCode::Malformed,
                                             tr("expected a host such as 192.168.1.30 or scope:5025").toStdString());
                             })),
      m_engine(new QComboBox),
      m_sweep(KeyButton::bound(this, "scope-sweep", tr("Sweep"), Qt::Key_T, false)),
      m_tips(label({}, look::Size::Small, false, true))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(2_px);
    auto* row = new QHBoxLayout;
    row->setSpacing(look::kGap);
    m_place->edit()->setObjectName(QStringLiteral("scope-place"));
    m_place->edit()->setPlaceholderText(tr("a scope that speaks SCPI-99: its host; empty: the simulated bench's"));
    m_place->leaveLettersWhileEmpty();
    row->addWidget(m_place, 1);
    m_engine->setObjectName(QStringLiteral("scope-engine"));
    m_engine->setAccessibleName(tr("How the engine turns"));
    m_engine->setFont(look::textFont(look::Size::Small));
    m_engine->addItems({tr("on the starter"), tr("running")});
    row->addWidget(m_engine, 0, Qt::AlignTop);
    row->addWidget(m_sweep, 0, Qt::AlignTop);
    column->addLayout(row);
    m_tips->setObjectName(QStringLiteral("scope-tips"));
    column->addWidget(m_tips);
    connect(m_sweep, &QAbstractButton::clicked, this, &ScopeRow::sweep);
    connect(m_engine, &QComboBox::activated, this, &ScopeRow::refresh);
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
    const job::Job& job = *m_desk.store.job();
    const std::vector<Channel> all = channels();
    m_sweep->setEnabled(!all.empty());
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
    said << (starter ? tr("on the starter: fuel and sparks off, out of gear, hands and leads off the belts")
                     : tr("running: hands, sleeves and leads off belts and fan, the exhaust led out"));
    m_tips->setText(all.empty() ? tr("It has no seat, or its wires are not drawn to the ECU: a file says as much.")
                                : said.join(QStringLiteral("; ")) + QLatin1Char('.'));
}

void ScopeRow::sweep()
{
    const std::vector<Channel> all = channels();
    const QString place = m_place->text().trimmed();
    const auto address = link::addressOf(place);
    if (!address && !m_desk.live.canTurn()) {
        m_place->refuse(place.isEmpty() ? tr("There is no bench: type where the scope is")
                                        : tr("expected a host such as 192.168.1.30 or scope:5025"));
        return;
    }
    m_place->refuse({});
    const bool starter = m_engine->currentIndex() == OnStarter;
    link::Sweep sweep;
    sweep.channels = static_cast<int>(all.size());
    sweep.points = kPoints;
    sweep.step_s = kTurns * trigger::kMinute_s / (starter ? kStarter_rpm : kIdle_rpm) / kPoints;
    m_sweep->setEnabled(false);
    const auto took = [this, all](const std::shared_ptr<const link::Swept>& swept, const QString& sentence) {
        m_sweep->setEnabled(true);
        m_place->refuse(sentence);
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
