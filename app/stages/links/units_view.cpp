#include "app/stages/links/units_view.h"

#include "app/desk/when.h"
#include "app/look/look.h"
#include "app/widgets/caution.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "core/base/phrase.h"

#include <QHBoxLayout>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {
namespace {

constexpr look::Px kUnitsTable{130};
constexpr double kStale_s = 5; // each value has its turn, at ten questions a second

QString valueText(const obd::Parameter& p, double value)
{
    if (!p.measures)
        return QStringLiteral("%1 %2").arg(value, 0, 'f', 0).arg(text(p.unit));
    const double si = units::fromUnit(value, *p.measures, p.unit);
    return text(job::readingText(job::Reading::of(si, *p.measures, job::Condition::KeyOn), p.unit));
}

} // namespace

UnitsView::UnitsView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_status(label({}, look::Size::Small, false, true)),
      m_table(new ListTable("units", tr("What units say over OBD"),
                            {{tr("Unit"), 90, true}, {tr("What"), 0, false}, {tr("Says"), 0, true}})),
      m_ask(new KeyButton(tr("Ask over OBD"), {}, true)),
      m_read(new KeyButton(tr("Read codes again"), {}, false)),
      m_clear(new KeyButton(tr("Clear codes"), {}, false)),
      m_really(new KeyButton(tr("Clear them"), {}, true)),
      m_keep(new KeyButton(tr("Keep them"), {}, false)),
      m_caution(new Caution)
{
    m_status->setObjectName(QStringLiteral("units-status"));
    m_caution->setText(
        tr("Clearing also resets what a unit has learnt and its readiness: until it has been driven for a "
           "while the car may fail an inspection, and local rules may forbid it. The codes that are there "
           "go into the logbook. Key on, engine stopped."));
    m_table->setMinimumHeight(kUnitsTable);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6_px);
    column->addWidget(m_status);
    column->addWidget(m_table, 1);
    column->addWidget(m_caution);
    buildButtons();
    auto* row = new QHBoxLayout;
    for (KeyButton* b : {m_ask, m_read, m_clear, m_really, m_keep})
        row->addWidget(b);
    row->addStretch();
    column->addLayout(row);
    askToClear(false);
    connect(&desk.live, &Live::unitsSaid, this, &UnitsView::refresh);
    connect(&desk.live, &Live::linksChanged, this, &UnitsView::refresh);
}

void UnitsView::buildButtons()
{
    m_ask->setObjectName(QStringLiteral("units-ask"));
    m_read->setObjectName(QStringLiteral("units-read"));
    m_clear->setObjectName(QStringLiteral("units-clear"));
    m_really->setObjectName(QStringLiteral("units-really"));
    m_keep->setObjectName(QStringLiteral("units-keep"));
    connect(m_ask, &QAbstractButton::clicked, this, [this] { m_desk.live.askUnits(!m_desk.live.ecu().isAsking()); });
    connect(m_read, &QAbstractButton::clicked, this, [this] { m_desk.live.readCodes(); });
    connect(m_clear, &QAbstractButton::clicked, this, [this] { askToClear(true); });
    connect(m_keep, &QAbstractButton::clicked, this, [this] { askToClear(false); });
    connect(m_really, &QAbstractButton::clicked, this, &UnitsView::clear);
}

void UnitsView::askToClear(bool ask)
{
    for (QWidget* w : std::initializer_list<QWidget*>{m_caution, m_really, m_keep})
        w->setVisible(ask);
    for (QWidget* w : {m_ask, m_read, m_clear})
        w->setVisible(!ask);
    if (ask)
        m_keep->setFocus();
}

QStringList UnitsView::stored() const
{
    QStringList out;
    if (const auto& said = m_desk.live.ecu().units())
        for (const auto& [from, unit] : said->units())
            for (const obd::Code code : unit.stored)
                out << text(code.text());
    return out;
}

/// What was there is kept before it is gone.
void UnitsView::clear()
{
    askToClear(false);
    const QStringList codes = stored();
    const std::string what = (codes.isEmpty() ? tr("Codes cleared over OBD; none was stored")
                                              : tr("Codes cleared over OBD: %1").arg(codes.join(QStringLiteral(", "))))
                                 .toStdString();
    if (m_desk.store.editOrSay(tr("Codes cleared"), [&](job::Job& job) { job::note(job, nowText(), {}, what); }))
        m_desk.live.clearCodes();
}

QString UnitsView::status() const
{
    const link::CanEcu& ecu = m_desk.live.ecu();
    if (!ecu.isAsking())
        return tr("Nobody was asked. Asking sends questions on the bus, ten a second at most.");
    const auto& said = ecu.units();
    if (!said || !said->isFound())
        return tr("Nobody has answered yet: with 11 bits and with 29 in turn. Is the key on?");
    const auto count = static_cast<int>(said->units().size());
    QString out = count == 1 ? tr("One unit answers.") : tr("%1 units answer.").arg(count);
    if (said->cleared() > 0)
        out += tr(" Codes were cleared: %1.").arg(said->cleared());
    return said->trouble().empty() ? out : out + u' ' + text(said->trouble());
}

std::vector<QStringList> UnitsView::rows(std::vector<int>& headings) const
{
    std::vector<QStringList> out;
    const auto& said = m_desk.live.ecu().units();
    if (!said)
        return out;
    for (const auto& one : said->units()) {
        const std::uint32_t from = one.first;
        const obd::UnitSaid& unit = one.second;
        const auto list = [&](const std::vector<obd::Code>& codes, const QString& kind) {
            for (const obd::Code code : codes) {
                const std::string meaning = obd::meaningOf(code);
                out.push_back({text(obd::unitName(from)), tr("%1, %2").arg(text(code.text()), kind),
                               meaning.empty() ? tr("see the maker's own list") : text(meaning)});
            }
        };
        headings.push_back(static_cast<int>(out.size()));
        out.push_back({text(obd::unitName(from)), tr("Codes"),
                       !unit.codesRead                               ? tr("not read yet")
                       : unit.stored.empty() && unit.pending.empty() ? tr("none")
                                                                     : QString()});
        list(unit.stored, tr("stored"));
        list(unit.pending, tr("pending"));
        for (const auto& [number, value] : unit.values)
            if (const obd::Parameter* p = obd::findParameter(number))
                out.push_back({text(obd::unitName(from)), text(phrase(p->name)),
                               Live::now_s() - value.time_s > kStale_s ? tr("stale") : valueText(*p, value.value)});
    }
    return out;
}

void UnitsView::refresh()
{
    const link::CanEcu& ecu = m_desk.live.ecu();
    const bool found = ecu.units() && ecu.units()->isFound();
    m_status->setText(status());
    m_ask->setText(ecu.isAsking() ? tr("Stop asking") : tr("Ask over OBD"));
    m_ask->updateGeometry();
    m_ask->setEnabled(!m_desk.live.replay() && ecu.state() != link::CanEcu::State::Off &&
                      ecu.state() != link::CanEcu::State::Failed);
    m_read->setEnabled(found);
    m_clear->setEnabled(found);
    std::vector<int> headings;
    m_table->fill(rows(headings), headings);
}

} // namespace vicegrip::app
