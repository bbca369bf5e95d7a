#include "app/stages/pins/step_list.h"

#include "app/desk/desk.h"
#include "app/look/look.h"
#include "app/widgets/state_glyph.h"

#include <QPainter>

namespace vicegrip::app {
namespace {

constexpr int kText = 26, kPad = 8, kGlyph = 15;

} // namespace

StepList::StepList(QWidget* parent) : QWidget(parent)
{
    setObjectName(QStringLiteral("hand-steps"));
    setAccessibleName(tr("Hand steps"));
    QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    setSizePolicy(policy);
}

int StepList::heightOf(size_t step) const
{
    const QFontMetrics metrics(look::words(look::Size::Body, true));
    return metrics.boundingRect(0, 0, std::max(width(), 200) - kText, 1000, Qt::TextWordWrap, text(m_steps[step].text))
               .height() +
           kPad;
}

void StepList::show(const std::vector<harness::Step>& steps, int ticked)
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
    for (size_t i = 0; i < m_steps.size(); ++i)
        height += heightOf(i);
    return {260, height};
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
    for (size_t i = 0; i < m_steps.size(); ++i) {
        const bool done = static_cast<int>(i) < m_ticked, next = static_cast<int>(i) == m_ticked;
        const int height = heightOf(i);
        drawState(p, QRectF(1, top + 2, kGlyph, kGlyph), done ? proof::State::Done : proof::State::Untouched);
        p.setFont(look::words(look::Size::Body, next));
        p.setPen(done ? c.inkSoft : c.ink);
        p.drawText(QRect(kText, top, width() - kText, height - kPad), Qt::TextWordWrap, text(m_steps[i].text));
        top += height;
    }
}

WireStripe::WireStripe(QWidget* parent) : QWidget(parent)
{
    setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
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
        p.fillRect(rect().adjusted(1, 5, -1, -5), look::wire(both.last()));
}

} // namespace vicegrip::app
