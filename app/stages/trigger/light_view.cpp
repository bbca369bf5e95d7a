#include "app/stages/trigger/light_view.h"

#include "app/stages/trigger/setup.h"
#include "app/views/selected.h"
#include "app/widgets/caution.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "app/widgets/typed_field.h"
#include "app/widgets/value_row.h"
#include "core/timing_light/timing_light.h"

#include <QGridLayout>
#include <QLineEdit>
#include <QShortcut>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {
namespace {

constexpr double kLeast_rpm = 50, kMost_rpm = 20000, kMost_deg = 90;

QString degreesText(double deg)
{
    return text(units::formatNumber(deg, 1)) + u'°';
}

} // namespace

LightView::LightView(Desk& desk, QWidget* parent) : QWidget(parent), m_desk(desk)
{
    auto* left = new QVBoxLayout;
    left->setSpacing(6_px);
    auto* ask =
        label(tr("Lock the timing in the ECU. Read the light at two speeds at least: near idle, and at twice that or "
                 "more."),
              look::Size::Body);
    left->addWidget(ask);
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(look::kGap);
    grid->setColumnStretch(1, 1);
    const auto field = [&](const QString& name, const char* objectName, size_t which, const ReadsValue& read,
                           bool speed) {
        return addValueRow(
            grid, name, objectName, read,
            [speed](double v) { return speed ? tr("%1 rpm").arg(text(units::formatNumber(v, 0))) : degreesText(v); },
            [this, which](double v) {
                m_typed[which] = v;
                refresh();
            });
    };
    m_rpm = field(tr("Speed"), "light-rpm", 0, readsPlain(kLeast_rpm, kMost_rpm, tr("rpm")), true);
    m_commanded = field(tr("Commanded, before top dead centre"), "light-commanded", 1,
                        readsPlain(-kMost_deg, kMost_deg, tr("degrees")), false);
    m_seen = field(tr("Seen by the light"), "light-seen", 2, readsPlain(-kMost_deg, kMost_deg, tr("degrees")), false);
    left->addLayout(grid);
    auto* keys = new QHBoxLayout;
    keys->setSpacing(look::kGap);
    const auto button = [&](const char* name, const QString& words, Qt::Key key, bool primary) {
        auto* out = KeyButton::bound(this, name, words, key, primary);
        keys->addWidget(out);
        return out;
    };
    m_add = button("light-add", tr("Take this reading"), Qt::Key_M, true);
    m_remove = button("light-remove", tr("Remove it"), Qt::Key_Delete, false);
    keys->addStretch();
    left->addLayout(keys);
    m_table = new ListTable(
        "light-readings", tr("Readings of the light"),
        {{tr("Speed"), 0, true}, {tr("Commanded"), 0, true}, {tr("Seen"), 0, true}, {tr("Off the line"), 0, true}});
    left->addWidget(m_table, 1);
    auto* right = new QVBoxLayout;
    right->setSpacing(6_px);
    const auto number = [&](const QString& name, const char* objectName) {
        right->addWidget(label(name, look::Size::Small, false, true));
        QLabel* out = figure({}, look::Size::Title);
        out->setObjectName(QLatin1String(objectName));
        right->addWidget(out);
        return out;
    };
    m_offset = number(tr("seen less commanded, the engine slow"), "light-offset");
    m_delay = number(tr("delay from command to spark"), "light-delay");
    right->addSpacing(look::kGap);
    m_verdict = label({}, look::Size::Body, true);
    m_verdict->setObjectName(QStringLiteral("light-verdict"));
    right->addWidget(m_verdict);
    right->addStretch(1);
    auto* caution = new Caution;
    caution->setText(
        tr("The engine runs: light, leads, hair and sleeves clear of belts and fans; exhaust led outside; in "
           "neutral, wheels chocked. Local rules and licensed practice come first."));
    right->addWidget(caution);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, look::kGap, 0, 0);
    row->setSpacing(2 * look::kMargin);
    row->addLayout(left, 1);
    row->addLayout(right, 1);
    connect(m_add, &QAbstractButton::clicked, this, &LightView::add);
    connect(m_remove, &QAbstractButton::clicked, this, &LightView::removeSelected);
}

void LightView::refresh()
{
    const auto& c = look::colours();
    const job::TriggerSetup setup = setupOf(m_desk);
    m_add->setEnabled(std::ranges::all_of(m_typed, [](const auto& t) { return t.has_value(); }));
    m_remove->setEnabled(!setup.light.empty());
    m_rpm->setText(m_typed[0] ? tr("%1 rpm").arg(text(units::formatNumber(*m_typed[0], 0))) : QString());
    m_commanded->setText(m_typed[1] ? degreesText(*m_typed[1]) : QString());
    m_seen->setText(m_typed[2] ? degreesText(*m_typed[2]) : QString());
    std::vector<timing_light::Seen> seen;
    for (const job::LightReading& r : setup.light)
        seen.push_back({r.rpm, r.commanded_deg, r.seen_deg});
    const auto lock = timing_light::lockOf(seen);
    std::vector<QStringList> rows;
    for (size_t i = 0; i < seen.size(); ++i)
        rows.push_back({tr("%1 rpm").arg(text(units::formatNumber(seen[i].rpm, 0))), degreesText(seen[i].commanded_deg),
                        degreesText(seen[i].seen_deg),
                        lock && seen.size() > 2 ? degreesText(lock->residuals_deg[i]) : QStringLiteral("–")});
    m_table->fill(rows);
    setInk(m_verdict, c.ink);
    if (!lock) {
        m_offset->setText(QStringLiteral("–"));
        m_delay->setText(QStringLiteral("–"));
        m_verdict->setText(text(lock.error().sentence).replace(0, 1, text(lock.error().sentence).left(1).toUpper()) +
                           QLatin1Char('.'));
        return;
    }
    m_offset->setText(tr("%1 ± %2").arg(degreesText(lock->offset_deg), degreesText(lock->offsetWithin_deg)));
    m_delay->setText(tr("%1 ± %2 µs")
                         .arg(text(units::formatNumber(lock->delay_s * 1e6, 0)),
                              text(units::formatNumber(lock->delayWithin_s * 1e6, 0))));
    m_verdict->setText(text(timing_light::todo(*lock, timing_light::kMostDelay_s)));
    const bool stands = lock->agrees && std::abs(lock->offset_deg) <= lock->offsetWithin_deg;
    setInk(m_verdict, stands ? c.done : c.failing);
}

void LightView::add()
{
    if (!m_add->isEnabled())
        return;
    const job::LightReading reading{*m_typed[0], *m_typed[1], *m_typed[2], nlohmann::json::object()};
    m_typed[0].reset(); // the next one is at another speed; the command stays locked
    m_typed[2].reset();
    changeSetup(m_desk, tr("reading of a light"), [&](job::TriggerSetup& s) { s.light.push_back(reading); });
    refresh();
    m_rpm->edit()->setFocus();
}

void LightView::removeSelected()
{
    const int row = m_table->currentRow();
    changeSetup(m_desk, tr("a light's reading taken out"), [&](job::TriggerSetup& s) {
        if (row >= 0 && static_cast<size_t>(row) < s.light.size())
            s.light.erase(s.light.begin() + row);
        else if (!s.light.empty())
            s.light.pop_back();
    });
}

} // namespace vicegrip::app
