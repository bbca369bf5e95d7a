#pragma once

#include "app/look/look.h"

#include <QLabel>

/// Labels in the four sizes.
namespace vicegrip::app {

/// A label in a size, in full or soft ink; wraps when asked by its layout.
inline QLabel* label(const QString& text, look::Size size, bool strong = false, bool soft = false,
                     QWidget* parent = nullptr)
{
    auto* l = new QLabel(text, parent);
    l->setFont(look::textFont(size, strong));
    l->setWordWrap(true);
    l->setTextFormat(Qt::PlainText);
    if (soft)
        l->setForegroundRole(QPalette::PlaceholderText);
    return l;
}

inline QLabel* figure(const QString& text, look::Size size, QWidget* parent = nullptr)
{
    auto* l = label(text, size, false, false, parent);
    l->setFont(look::numbers(size));
    l->setWordWrap(false);
    return l;
}

inline void setInk(QLabel* l, const QColor& ink)
{
    QPalette p = l->palette();
    p.setColor(QPalette::WindowText, ink);
    p.setColor(QPalette::PlaceholderText, ink);
    l->setPalette(p);
}

} // namespace vicegrip::app
