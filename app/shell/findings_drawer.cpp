#include "app/shell/findings_drawer.h"

#include "app/widgets/labels.h"

#include <QKeyEvent>
#include <QPainter>
#include <QScrollArea>
#include <QVBoxLayout>

namespace vicegrip::app {
namespace {

constexpr look::Px kDrawerWidth{430};

QString severityText(findings::Severity severity)
{
    switch (severity) {
    case findings::Severity::Stop:
        return FindingsDrawer::tr("Stop");
    case findings::Severity::Fix:
        return FindingsDrawer::tr("Fix");
    case findings::Severity::Note:
        return FindingsDrawer::tr("Know");
    }
    return {};
}

QColor severityInk(findings::Severity severity)
{
    const auto& c = look::colours();
    return severity == findings::Severity::Stop ? c.failing : severity == findings::Severity::Fix ? c.stale : c.inkSoft;
}

} // namespace

FindingsDrawer::FindingsDrawer(Desk& desk, QWidget* parent) : QFrame(parent), m_desk(desk)
{
    setObjectName(QStringLiteral("findings-drawer"));
    setAccessibleName(tr("Findings"));
    setFocusPolicy(Qt::StrongFocus);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(look::kMargin, look::kMargin, 8_px, 8_px);
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("Findings"), look::Size::Title, true));
    head->addStretch();
    head->addWidget(label(tr("Esc closes"), look::Size::Small, false, true));
    head->addSpacing(look::kMargin);
    column->addLayout(head);
    m_scroll = new QScrollArea;
    m_scroll->setWidgetResizable(true);
    m_scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* inside = new QWidget;
    m_list = new QVBoxLayout(inside);
    m_list->setContentsMargins(0, 0, look::kMargin, 0);
    m_list->setSpacing(4_px);
    m_scroll->setWidget(inside);
    column->addWidget(m_scroll);
    hide();
}

void FindingsDrawer::refresh()
{
    if (!isVisible())
        return;
    while (QLayoutItem* item = m_list->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    m_whats.clear();
    const auto analysis = m_desk.store.analysis();
    if (analysis->findings.empty())
        m_list->addWidget(label(tr("Nothing found."), look::Size::Body, false, true));
    for (const findings::Finding& f : analysis->findings) {
        auto* severity = label(severityText(f.severity), look::Size::Small, true);
        setInk(severity, severityInk(f.severity));
        m_list->addWidget(severity);
        m_whats << label(text(f.what), look::Size::Body, true);
        m_list->addWidget(m_whats.back());
        m_list->addWidget(label(text(f.why), look::Size::Small, false, true));
        m_list->addWidget(label(text(f.todo), look::Size::Small));
        m_list->addSpacing(look::kGap);
    }
    m_list->addStretch();
}

void FindingsDrawer::showFinding(int index)
{
    if (index < 0 || index >= m_whats.size())
        return;
    m_scroll->widget()->layout()->activate(); // the list was made just now
    m_scroll->widget()->adjustSize();
    m_scroll->ensureWidgetVisible(m_whats[index], 0, height() / 3);
}

void FindingsDrawer::place()
{
    const int width = std::min<int>(kDrawerWidth, parentWidget()->width());
    setGeometry(parentWidget()->width() - width, look::kHeader, width, parentWidget()->height() - look::kHeader);
    raise();
}

void FindingsDrawer::paintEvent(QPaintEvent*)
{
    const auto& c = look::colours();
    QPainter p(this);
    p.fillRect(rect(), c.card);
    p.fillRect(QRect(0, 0, 2, height()), c.accent);
}

void FindingsDrawer::keyPressEvent(QKeyEvent* event)
{
    if (event->key() == Qt::Key_Escape)
        hide();
    else
        QFrame::keyPressEvent(event);
}

} // namespace vicegrip::app
