#include "app/widgets/sheet.h"

#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QScrollArea>
#include <QVBoxLayout>

namespace vicegrip::app {
namespace {

constexpr int kTermWidth = 150;

QWidget* partOf(const Sheet::Part& part, bool inNumbers)
{
    auto* widget = new QWidget;
    auto* grid = new QGridLayout(widget);
    grid->setContentsMargins(0, 0, 0, look::kGap);
    grid->setColumnMinimumWidth(0, kTermWidth);
    grid->setColumnStretch(1, 1);
    grid->setHorizontalSpacing(look::kMargin);
    grid->setVerticalSpacing(7);
    int row = 0;
    grid->addWidget(label(part.heading, look::Size::Body, true), row++, 0, 1, 2);
    for (const Sheet::Row& r : part.rows) {
        auto* said = label(r.text, look::Size::Body);
        if (r.term.isEmpty()) {
            grid->addWidget(said, row++, 0, 1, 2);
            continue;
        }
        auto* term = inNumbers ? figure(r.term, look::Size::Small) : label(r.term, look::Size::Body);
        term->setAlignment(Qt::AlignTop | Qt::AlignLeft);
        grid->addWidget(term, row, 0);
        grid->addWidget(said, row++, 1);
    }
    return widget;
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
    m_title->setText(title);
    setAccessibleName(title);
    auto* content = new QWidget;
    auto* columns = new QHBoxLayout(content);
    columns->setContentsMargins(0, 0, 0, look::kMargin);
    columns->setSpacing(2 * look::kMargin);
    for (const bool beside : {false, true}) {
        auto* column = new QVBoxLayout;
        for (const Part& part : parts)
            if (part.beside == beside)
                column->addWidget(partOf(part, inNumbers));
        column->addStretch();
        columns->addLayout(column, 1);
    }
    m_scroll->setWidget(content); // and the one before goes
    setFocus();
}

void Sheet::keyPressEvent(QKeyEvent* event)
{
    if (event->key() == Qt::Key_Escape)
        emit left();
    else
        QWidget::keyPressEvent(event);
}

} // namespace vicegrip::app
