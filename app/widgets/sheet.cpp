#include "app/widgets/sheet.h"

#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QScrollArea>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {
namespace {

void addPart(QGridLayout& grid, const Sheet::Part& part, bool inNumbers)
{
    int row = grid.rowCount();
    if (!part.heading.isEmpty()) {
        auto* heading = label(part.heading, look::Size::Body, true);
        heading->setContentsMargins(0, row > 1 ? look::kMargin : 0, 0, 2);
        grid.addWidget(heading, row++, 0, 1, 2);
    }
    for (const Sheet::Row& r : part.rows) {
        auto* said = label(r.text, look::Size::Body);
        if (r.term.isEmpty()) {
            said->setTextFormat(Qt::MarkdownText);
            grid.addWidget(said, row++, 0, 1, 2);
            continue;
        }
        auto* term = inNumbers ? figure(r.term, look::Size::Small) : label(r.term, look::Size::Body);
        term->setAlignment(Qt::AlignTop | Qt::AlignLeft);
        grid.addWidget(term, row, 0);
        grid.addWidget(said, row++, 1);
    }
}

} // namespace

Sheet::Sheet(QWidget* parent) : QWidget(parent), m_title(label({}, look::Size::Title, true)), m_scroll(new QScrollArea)
{
    setFocusPolicy(Qt::StrongFocus);
    m_title->setObjectName(QStringLiteral("sheet-title"));
    m_scroll->setWidgetResizable(true);
    m_scroll->setFrameShape(QFrame::NoFrame);
    auto* back = new KeyButton(tr("Back"), tr("Esc"), false);
    back->setObjectName(QStringLiteral("sheet-back"));
    connect(back, &QAbstractButton::clicked, this, &Sheet::left);
    auto* top = new QHBoxLayout;
    top->addWidget(m_title, 1);
    top->addWidget(back);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(look::kMargin, look::kMargin, look::kMargin, 0);
    column->addLayout(top);
    column->addWidget(m_scroll, 1);
}

void Sheet::show(const QString& title, const std::vector<Part>& parts, bool inNumbers)
{
    m_parts = parts;
    m_inNumbers = inNumbers;
    m_title->setText(title);
    setAccessibleName(title);
    auto* content = new QWidget;
    auto* columns = new QHBoxLayout(content);
    columns->setContentsMargins(0, 0, look::kGap, look::kMargin); // clear of the scroll bar
    columns->setSpacing(2 * look::kMargin);
    for (const bool beside : {false, true}) {
        if (std::ranges::find(parts, beside, &Part::beside) == parts.end())
            continue;
        auto* grid = new QGridLayout;
        grid->setColumnMinimumWidth(0, m_termWidth);
        grid->setColumnStretch(1, 1);
        grid->setHorizontalSpacing(look::kMargin);
        grid->setVerticalSpacing(7_px);
        for (const Part& part : parts)
            if (part.beside == beside)
                addPart(*grid, part, inNumbers);
        grid->setRowStretch(grid->rowCount(), 1);
        columns->addLayout(grid, 1);
    }
    m_scroll->setWidget(content); // and the one before goes
    setFocus();
}

void Sheet::showAgain(const Sheet& before)
{
    show(before.m_title->text(), before.m_parts, before.m_inNumbers);
}

void Sheet::keyPressEvent(QKeyEvent* event)
{
    if (event->key() == Qt::Key_Escape)
        emit left();
    else
        QWidget::keyPressEvent(event);
}

} // namespace vicegrip::app
