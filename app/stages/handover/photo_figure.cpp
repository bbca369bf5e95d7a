#include "app/stages/handover/photo_figure.h"

#include "app/look/look.h"

#include <QPainter>

namespace vicegrip::app {

PhotoFigure::PhotoFigure(QWidget* parent) : QWidget(parent)
{
    setObjectName(QStringLiteral("photo-shown"));
    setMinimumSize(220_px, 160_px);
}

void PhotoFigure::show(const QImage& photo, const QString& spoken)
{
    m_photo = photo;
    setAccessibleName(spoken);
    update();
}

void PhotoFigure::paintEvent(QPaintEvent* /*event*/)
{
    if (m_photo.isNull())
        return;
    const QSize size = m_photo.size().scaled(this->size(), Qt::KeepAspectRatio).boundedTo(m_photo.size());
    QPainter painter(this);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.drawImage(QRect({0, 0}, size), m_photo);
}

} // namespace vicegrip::app
