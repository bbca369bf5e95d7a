#include "app/stages/pins/step_list.h"

#include "app/desk/desk.h"
#include "app/look/look.h"
#include "app/widgets/state_glyph.h"

#include <QPainter>

namespace vicegrip::app {
namespace {

constexpr look::Px kText{26}, kPad{6}, kGlyph{15};
constexpr size_t kAhead = 2; ///< steps shown after the next one

QFont fontOf(bool next)
{
    return next ? look::textFont(look::Size::Body, true) : look::textFont(look::Size::Small);
}

} // namespace

StepList::StepList(QWidget* parent) : QWidget(parent)
{
    setObjectName(QStringLiteral("hand-steps"));
    setAccessibleName(tr("Hand steps"));
    QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    setSizePolicy(policy);
}

/// What is shown: one line for what is done, the next step in strong ink, and some of those after it.
std::vector<StepList::Line> StepList::lines() const
{
    std::vector<Line> out;
    if (m_ticked > 0)
        out.push_back({tr("%1 of %2 steps done").arg(m_ticked).arg(m_steps.size()), proof::State::Done, false});
    const size_t next = static_cast<size_t>(m_ticked), last = std::min(m_steps.size(), next + 1 + kAhead);
    for (size_t i = next; i < last; ++i)
        out.push_back({text(m_steps[i].text), proof::State::Untouched, i == next});
    if (last < m_steps.size())
        out.push_back({tr("and %1 more").arg(m_steps.size() - last), proof::State::NotNeeded, false});
    return out;
}

int StepList::heightOf(const Line& line) const
{
    const QFontMetrics metrics(fontOf(line.next));
    return metrics.boundingRect(0, 0, std::max(width(), 200) - kText, 1000, Qt::TextWordWrap, line.sentence).height() +
           kPad;
}

void StepList::show(const std::vector<pinning::CavityStep>& steps, int ticked)
{
    m_steps = steps;
    m_ticked = ticked;
    const auto next = static_cast<size_t>(ticked);
    setAccessibleDescription(next < steps.size() ? tr("Next: %1").arg(text(steps[next].text)) : tr("All done"));
    updateGeometry();
    update();
}

QSize StepList::sizeHint() const
{
    int height = 0;
    for (const Line& line : lines())
        height += heightOf(line);
    return {260_px, height};
}

void StepList::resizeEvent(QResizeEvent* event)
{
    QWidget::resizeEvent(event);
    updateGeometry();
}

void StepList::paintEvent(QPaintEvent*)
{
    const auto& c = look::colours();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    int top = 0;
    for (const Line& line : lines()) {
        const int height = heightOf(line);
        drawState(p, QRectF(1, top + 1, kGlyph, kGlyph), line.state);
        p.setFont(fontOf(line.next));
        p.setPen(line.next ? c.ink : c.inkSoft);
        p.drawText(QRect(kText, top, width() - kText, height - kPad), Qt::TextWordWrap, line.sentence);
        top += height;
    }
}

WireStripe::WireStripe(QWidget* parent) : QWidget(parent)
{
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void WireStripe::show(const QString& colours)
{
    m_colours = colours;
    setVisible(!colours.isEmpty());
    update();
}

void WireStripe::paintEvent(QPaintEvent*)
{
    if (m_colours.isEmpty())
        return;
    QPainter p(this);
    const QStringList both = m_colours.split(QLatin1Char('/'));
    p.fillRect(rect(), look::colours().inkSoft); // a rim, so that a white wire shows on paper
    p.fillRect(rect().adjusted(1, 1, -1, -1), look::wire(both.first()));
    if (both.size() > 1)
        p.fillRect(rect().adjusted(1, 4_px, -1, -4_px), look::wire(both.last()));
}

} // namespace vicegrip::app
