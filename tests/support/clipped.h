#pragma once

#include "app/widgets/key_button.h"
#include "tests/support/window.h"

#include <QHeaderView>
#include <QScrollArea>
#include <QScrollBar>

/// Whether what is shown has room for its words.
namespace vicegrip::test {

/// Where a widget is, for a sentence.
inline std::string named(const QWidget* w)
{
    std::string out = w->metaObject()->className();
    if (!w->objectName().isEmpty())
        out += " " + w->objectName().toStdString();
    if (const auto* label = qobject_cast<const QLabel*>(w))
        out += " \"" + label->text().left(40).toStdString() + "\"";
    if (const auto* button = qobject_cast<const QAbstractButton*>(w))
        out += " \"" + button->text().toStdString() + "\"";
    return out;
}

template <class W> std::vector<W*> shown(QWidget& window)
{
    std::vector<W*> out;
    for (W* w : window.findChildren<W*>())
        if (w->isVisible() && w->width() > 0)
            out.push_back(w);
    return out;
}

/// No label is lower than its words need, no button narrower.
inline void expectNothingClipped(Window& w, const std::string& where)
{
    for (const QLabel* l : shown<QLabel>(w.window)) {
        if (l->text().isEmpty())
            continue;
        const int needed = l->wordWrap() ? l->heightForWidth(l->width()) : l->sizeHint().height();
        EXPECT_GE(l->height() + 2, needed) << where << ": " << named(l);
        if (!l->wordWrap()) {
            EXPECT_GE(l->width() + 2, l->sizeHint().width()) << where << ": " << named(l);
        }
    }
    for (const QScrollArea* area : shown<QScrollArea>(w.window)) // what goes beyond its side can only be guessed
        if (area->widget() != nullptr && area->horizontalScrollBarPolicy() == Qt::ScrollBarAlwaysOff) {
            EXPECT_LE(area->widget()->width(), area->viewport()->width()) << where << ": " << named(area->widget());
        }
    for (const QHeaderView* header : shown<QHeaderView>(w.window))
        for (int i = 0; header->orientation() == Qt::Horizontal && i < header->count(); ++i)
            if (!header->isSectionHidden(i)) {
                const QString words = header->model()->headerData(i, Qt::Horizontal).toString();
                EXPECT_GE(header->sectionSize(i), QFontMetrics(header->font()).horizontalAdvance(words))
                    << where << ": heading \"" << words.toStdString() << "\"";
            }
    for (const QLineEdit* e : shown<QLineEdit>(w.window))
        EXPECT_GE(e->height() + 2, e->sizeHint().height()) << where << ": " << e->objectName().toStdString();
    for (const app::KeyButton* b : shown<app::KeyButton>(w.window))
        EXPECT_GE(b->width(), b->sizeHint().width()) << where << ": " << named(b);
}

} // namespace vicegrip::test
