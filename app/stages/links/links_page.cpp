#include "app/stages/links/links_page.h"

#include "app/stages/links/meter_panel.h"
#include "app/stages/links/recording_panel.h"
#include "app/stages/links/stream_panel.h"
#include "app/stages/links/told_view.h"
#include "app/stages/links/units_view.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/view_bar.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QScrollArea>
#include <QStackedWidget>

namespace vicegrip::app {
namespace {

constexpr look::Px kMeter{340}, kBeside{960};

} // namespace

LinksPage::LinksPage(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_stream(new StreamPanel(desk)),
      m_meter(new MeterPanel(desk)),
      m_recording(new RecordingPanel(desk)),
      m_told(new ToldView(desk)),
      m_units(new UnitsView(desk)),
      m_bar(new ViewBar({{"view-told", tr("What it tells")}, {"view-units", tr("OBD: values and codes")}})),
      m_panels(new QBoxLayout(QBoxLayout::LeftToRight))
{
    setObjectName(QStringLiteral("links"));
    setAccessibleName(tr("Links"));
    auto* done = new KeyButton(tr("Done"), tr("Esc"), true);
    done->setObjectName(QStringLiteral("links-done"));
    connect(done, &QAbstractButton::clicked, this, &LinksPage::left);
    connect(m_stream, &StreamPanel::benchAsked, this, &LinksPage::benchAsked);
    auto* top = new QHBoxLayout;
    top->addWidget(label(tr("Links"), look::Size::Title, true), 1);
    top->addWidget(done);
    m_panels->setSpacing(2 * look::kMargin);
    m_panels->addWidget(m_stream, 3);
    m_right = new QWidget;
    auto* right = new QVBoxLayout(m_right);
    right->setContentsMargins(0, 0, 0, 0);
    right->setSpacing(look::kGap);
    right->addWidget(m_meter);
    right->addWidget(m_recording, 1);
    m_panels->addWidget(m_right, 2);
    connect(m_recording, &RecordingPanel::recordAsked, this, &LinksPage::recordAsked);
    connect(m_recording, &RecordingPanel::markAsked, this, &LinksPage::markAsked);
    auto* sheet = new QWidget;
    auto* column = new QVBoxLayout(sheet);
    column->setContentsMargins(look::kMargin, look::kMargin, look::kMargin, look::kGap);
    column->setSpacing(look::kGap);
    column->addLayout(top);
    column->addLayout(m_panels);
    column->addWidget(m_bar);
    auto* views = new QStackedWidget;
    views->addWidget(m_told);
    views->addWidget(m_units);
    connect(m_bar, &ViewBar::changed, views, &QStackedWidget::setCurrentIndex);
    column->addWidget(views, 1);
    auto* scroll = new QScrollArea;
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setWidgetResizable(true);
    scroll->setWidget(sheet);
    auto* whole = new QVBoxLayout(this);
    whole->setContentsMargins(0, 0, 0, 0);
    whole->addWidget(scroll);
    handFocus(this, m_stream->first());
}

void LinksPage::offerRecording(const QString& file)
{
    m_recording->offer(file);
}

void LinksPage::refresh()
{
    m_stream->refresh();
    m_meter->refresh();
    m_told->refresh();
    m_units->refresh();
}

/// Where there is no room beside each other, one is under the other.
void LinksPage::resizeEvent(QResizeEvent* event)
{
    QWidget::resizeEvent(event);
    const bool beside = width() >= kBeside;
    m_panels->setDirection(beside ? QBoxLayout::LeftToRight : QBoxLayout::TopToBottom);
    m_right->setMaximumWidth(beside ? int(kMeter) : QWIDGETSIZE_MAX);
    m_told->arrange(beside);
}

void LinksPage::keyPressEvent(QKeyEvent* event)
{
    if (event->key() == Qt::Key_Escape)
        emit left();
    else
        QWidget::keyPressEvent(event);
}

} // namespace vicegrip::app
