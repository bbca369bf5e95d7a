#include "app/stages/scale/switch_view.h"

#include "app/views/selected.h"
#include "app/widgets/circuit_text.h"
#include "app/widgets/labels.h"
#include "core/base/phrase.h"

#include <QGridLayout>
#include <QPainter>
#include <QVBoxLayout>

#include <cmath>

namespace vicegrip::app {
namespace {

constexpr look::Px kScaleLeft{64}, kScaleBar{120}, kScaleEdge{16}; ///< of the scale: numbers, the bar, above and below
constexpr look::Px kLeastHeight{240}, kLeastWidth{330};

QString ohms(double ohm)
{
    if (!std::isfinite(ohm) || ohm <= 0)
        return QStringLiteral("–");
    const double step = std::pow(10, std::floor(std::log10(ohm)) - 1); // two digits: it is a guess at a contact
    return text(units::formatOhms(std::round(ohm / step) * step)) + QStringLiteral(" Ω");
}

} // namespace

LevelScale::LevelScale(QWidget* parent) : QWidget(parent)
{
    setObjectName(QStringLiteral("level-scale"));
    setAccessibleName(tr("Volts of the input, closed and open, with the thresholds between"));
    setMinimumSize(kLeastWidth, kLeastHeight);
}

void LevelScale::show(const std::optional<switches::SwitchLevels>& levels, double full_v)
{
    m_levels = levels;
    m_full = full_v;
    setAccessibleDescription(levels ? text(levels->sentence) : QString());
    update();
}

void LevelScale::showNow(std::optional<double> now)
{
    m_now = now;
    update();
}

void LevelScale::paintEvent(QPaintEvent*)
{
    if (!m_levels)
        return;
    QPainter p(this);
    const auto& c = look::colours();
    const double top = std::max({m_full, m_levels->open_v, m_levels->closed_v, 0.1});
    const auto y = [&](double v) {
        return kScaleEdge + (height() - 2 * kScaleEdge) * (1 - std::clamp(v / top, 0.0, 1.0));
    };
    const QRectF bar(kScaleLeft, y(top), kScaleBar, y(0) - y(top));
    p.fillRect(bar, c.card);
    p.setFont(look::numbers(look::Size::Small));
    p.setPen(c.inkSoft);
    for (double v : {0.0, top})
        p.drawText(QRectF(0, y(v) - 10_px, kScaleLeft - 8_px, 20_px), Qt::AlignRight | Qt::AlignVCenter,
                   voltsText(v, 2));
    const auto& l = *m_levels;
    if (l.apart) { // what the ECU takes for low and high; between them it stays as it was
        p.fillRect(QRectF(kScaleLeft, y(l.high_v), kScaleBar, y(l.low_v) - y(l.high_v)),
                   QBrush(c.line, Qt::BDiagPattern));
        for (const auto& [v, name] : {std::pair(l.low_v, tr("low below")), {l.high_v, tr("high above")}}) {
            p.setPen(QPen(c.accent, 2));
            p.drawLine(QPointF(kScaleLeft - 6_px, y(v)), QPointF(kScaleLeft + kScaleBar + 6_px, y(v)));
            p.setPen(c.accent);
            p.drawText(QRectF(kScaleLeft + kScaleBar + 12_px, y(v) - 10_px, 190_px, 20_px),
                       Qt::AlignLeft | Qt::AlignVCenter, QStringLiteral("%1 %2").arg(name, voltsText(v, 2)));
        }
    }
    p.setFont(look::textFont(look::Size::Body, true));
    for (const auto& [v, within, name] :
         {std::tuple(l.open_v, l.openWithin_v, tr("open")), {l.closed_v, l.closedWithin_v, tr("closed")}}) {
        const double middle = std::clamp(y(v), bar.top() + 2, bar.bottom() - 2);
        const double from = std::min(middle - 3_px, y(within.high)), to = std::max(middle + 3_px, y(within.low));
        p.fillRect(QRectF(kScaleLeft, from, kScaleBar, to - from).intersected(bar.adjusted(0, -4_px, 0, 4_px)), c.ink);
        p.setPen(c.ink);
        p.drawText(QRectF(kScaleLeft + kScaleBar + 12_px, middle - 11_px, 190_px, 22_px),
                   Qt::AlignLeft | Qt::AlignVCenter, QStringLiteral("%1 %2").arg(name, voltsText(v, 2)));
    }
    if (m_now) {
        p.setPen(QPen(c.stale, 2, Qt::DashLine));
        p.drawLine(QPointF(kScaleLeft - 6_px, y(*m_now)), QPointF(kScaleLeft + kScaleBar + 6_px, y(*m_now)));
    }
}

SwitchView::SwitchView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_scale(new LevelScale),
      m_state(figure({}, look::Size::Big)),
      m_words(label({}, look::Size::Title, true))
{
    m_state->setObjectName(QStringLiteral("switch-state"));
    m_words->setObjectName(QStringLiteral("switch-words"));
    auto* numbers = new QGridLayout;
    numbers->setHorizontalSpacing(look::kMargin);
    numbers->setVerticalSpacing(look::kGap);
    const auto row = [&](const QString& name, const char* objectName) {
        QLabel* number = figure({}, look::Size::Title);
        number->setObjectName(QLatin1String(objectName));
        const int at = numbers->rowCount();
        numbers->addWidget(label(name, look::Size::Body, false, true), at, 0);
        numbers->addWidget(number, at, 1);
        return number;
    };
    m_low = row(tr("The ECU takes it for low below"), "switch-low");
    m_high = row(tr("and for high above"), "switch-high");
    m_contact = row(tr("A tired contact is still seen up to"), "switch-contact");
    m_leak = row(tr("A damp plug is not taken for it down to"), "switch-leak");
    numbers->setColumnStretch(0, 1);
    auto* right = new QVBoxLayout;
    right->addWidget(label(tr("now"), look::Size::Small, false, true));
    right->addWidget(m_state);
    right->addSpacing(look::kGap);
    right->addWidget(m_words);
    right->addSpacing(look::kGap);
    right->addLayout(numbers);
    right->addStretch();
    auto* columns = new QHBoxLayout(this);
    columns->setContentsMargins(0, look::kGap, 0, 0);
    columns->setSpacing(look::kMargin);
    columns->addWidget(m_scale, 2);
    columns->addLayout(right, 3);
}

void SwitchView::refresh()
{
    m_worked.ask([job = m_desk.store.job(), id = m_desk.selection.circuit()] {
        const job::Circuit* c = job::find(*job, id);
        return Levels{job, id,
                      c == nullptr ? fail(ErrorCode::Reference, phrase("choose a circuit"))
                                   : switches::switchLevels(*job, *c)};
    });
}

void SwitchView::showLevels(const Levels& worked)
{
    if (worked.job != m_desk.store.job() || worked.circuit != m_desk.selection.circuit())
        return; // another is on its way
    const auto& [job, id, levels] = worked;
    const job::Circuit* c = job::find(*job, id);
    m_levels = levels ? std::optional(*levels) : std::nullopt;
    const parts::EcuInput* input = c == nullptr ? nullptr : job::findInput(*job, c->input);
    m_scale->show(m_levels, input == nullptr ? 5 : electrics::fullScaleVolts(*job, *input));
    m_words->setText(text(levels ? levels->sentence : levels.error().sentence));
    const bool apart = m_levels && m_levels->apart;
    setInk(m_words, apart ? look::colours().ink : look::colours().failing);
    m_low->setText(apart ? voltsText(m_levels->low_v, 2) : QStringLiteral("–"));
    m_high->setText(apart ? voltsText(m_levels->high_v, 2) : QStringLiteral("–"));
    m_contact->setText(apart ? ohms(m_levels->contact_ohm) : QStringLiteral("–"));
    m_leak->setText(apart ? ohms(m_levels->leak_ohm) : QStringLiteral("–"));
    refreshLive();
}

void SwitchView::refreshLive()
{
    const job::Circuit* c = selectedCircuit(m_desk);
    const auto now = c == nullptr ? std::nullopt : m_desk.live.reading(*m_desk.store.job(), *c);
    m_scale->showNow(now);
    if (!now || !m_levels || !m_levels->apart) {
        m_state->setText(now ? voltsText(*now, 2)
                         : c == nullptr
                             ? QString()
                             : m_desk.live.missing(*m_desk.store.job(), *c, proof::StationKind::Input, tr("no link")));
        setInk(m_state, look::colours().inkSoft);
        return;
    }
    const bool low = *now<m_levels->low_v, high = *now> m_levels->high_v;
    m_state->setText(!low && !high                  ? tr("%1, neither").arg(voltsText(*now, 2))
                     : low == m_levels->closedIsLow ? tr("%1, closed").arg(voltsText(*now, 2))
                                                    : tr("%1, open").arg(voltsText(*now, 2)));
    setInk(m_state, low || high ? look::colours().ink : look::colours().failing);
}

} // namespace vicegrip::app
