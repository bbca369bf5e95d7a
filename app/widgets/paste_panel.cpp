#include "app/widgets/paste_panel.h"

#include "app/widgets/hand_focus.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QShortcut>
#include <QTextBlock>
#include <QVBoxLayout>

namespace vicegrip::app {

PastePanel::PastePanel(const char* objectName, const QString& spoken, const QString& hint, QWidget* parent)
    : QWidget(parent),
      m_text(new QPlainTextEdit),
      m_lines(new QListWidget),
      m_verdict(label({}, look::Size::Body, true)),
      m_take(new KeyButton({}, tr("Ctrl+Enter"), true)),
      m_back(new KeyButton(tr("Back"), tr("Esc"), false))
{
    setObjectName(QLatin1String(objectName));
    m_text->setObjectName(QLatin1String(objectName) + QStringLiteral("-text"));
    m_text->setAccessibleName(spoken);
    m_text->setFont(look::numbers(look::Size::Small));
    m_text->setLineWrapMode(QPlainTextEdit::NoWrap);
    m_text->setTabStopDistance(72_px);
    m_lines->setObjectName(QLatin1String(objectName) + QStringLiteral("-lines"));
    m_lines->setAccessibleName(tr("What becomes of each line"));
    m_lines->setFont(look::textFont(look::Size::Small));
    m_lines->setWordWrap(true);
    m_lines->setFrameShape(QFrame::NoFrame);
    m_take->setObjectName(QLatin1String(objectName) + QStringLiteral("-take"));
    m_back->setObjectName(QLatin1String(objectName) + QStringLiteral("-back"));
    m_verdict->setObjectName(QLatin1String(objectName) + QStringLiteral("-verdict"));
    auto* said = label(hint, look::Size::Small, false, true);
    for (QLabel* fixed : {said, m_verdict})
        fixed->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Maximum);
    auto* left = new QVBoxLayout;
    left->addWidget(said);
    left->addWidget(m_text, 1);
    auto* right = new QVBoxLayout;
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(m_take);
    buttons->addWidget(m_back);
    buttons->addStretch();
    right->addLayout(buttons);
    right->addWidget(m_verdict);
    right->addWidget(m_lines, 1);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(look::kMargin);
    row->addLayout(left, 1);
    row->addLayout(right, 1);
    handFocus(this, m_text);
    connect(m_text, &QPlainTextEdit::textChanged, this, &PastePanel::typed);
    connect(m_take, &KeyButton::clicked, this, &PastePanel::taken);
    connect(m_back, &KeyButton::clicked, this, &PastePanel::left);
    for (const auto& keys : {QKeySequence(Qt::CTRL | Qt::Key_Return), QKeySequence(Qt::CTRL | Qt::Key_Enter)})
        connect(new QShortcut(keys, this), &QShortcut::activated, m_take, &KeyButton::click);
    const auto goToLine = [this](const QListWidgetItem* item) {
        QTextCursor cursor(m_text->document()->findBlockByNumber(item->data(Qt::UserRole).toInt() - 1));
        m_text->setTextCursor(cursor);
        m_text->setFocus();
    };
    connect(m_lines, &QListWidget::itemActivated, this, goToLine);
    connect(m_lines, &QListWidget::itemClicked, this, goToLine);
}

void PastePanel::show(const std::vector<Line>& lines, const QString& verdict, const QString& take)
{
    m_lines->clear();
    for (const Line& l : lines) {
        auto* item = new QListWidgetItem(QStringLiteral("%1 %2: %3")
                                             .arg(l.kept ? QStringLiteral("✓") : QStringLiteral("✗"))
                                             .arg(l.number)
                                             .arg(l.sentence));
        item->setForeground(l.kept ? look::colours().ink : look::colours().failing);
        item->setData(Qt::UserRole, l.number);
        m_lines->addItem(item);
    }
    m_verdict->setText(verdict);
    m_take->setText(take.isEmpty() ? tr("Nothing to take") : take);
    m_take->setEnabled(!take.isEmpty());
    m_take->updateGeometry();
}

void PastePanel::setText(const QString& text)
{
    m_text->setPlainText(text);
}

QString PastePanel::text() const
{
    return m_text->toPlainText();
}

void PastePanel::keyPressEvent(QKeyEvent* event)
{
    if (event->key() == Qt::Key_Escape)
        emit left();
    else
        QWidget::keyPressEvent(event);
}

} // namespace vicegrip::app
