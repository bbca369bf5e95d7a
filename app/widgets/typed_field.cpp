#include "app/widgets/typed_field.h"

#include "app/look/look.h"
#include "core/base/typed_text.h"

#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QLocale>
#include <QStyle>
#include <QVBoxLayout>

namespace vicegrip::app {
namespace {

void setWrong(QLineEdit* edit, bool wrong)
{
    if (edit->property("wrong").toBool() == wrong)
        return;
    edit->setProperty("wrong", wrong);
    edit->style()->unpolish(edit);
    edit->style()->polish(edit);
}

} // namespace

TypedField::TypedField(const QString& name, Understand understand, QWidget* parent)
    : QWidget(parent), m_understand(std::move(understand)), m_edit(new QLineEdit(this)), m_below(new QLabel(this))
{
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(2);
    layout->addWidget(m_edit);
    layout->addWidget(m_below);
    m_edit->setFont(look::numbers(look::Size::Body));
    m_edit->setAccessibleName(name);
    m_edit->setMaxLength(80);
    m_edit->installEventFilter(this);
    m_below->setFont(look::textFont(look::Size::Small));
    m_below->setWordWrap(true);
    m_below->hide();
    setFocusProxy(m_edit);
    connect(m_edit, &QLineEdit::textEdited, this, &TypedField::tryUnderstand);
    connect(m_edit, &QLineEdit::editingFinished, this, &TypedField::enter);
}

void TypedField::setText(const QString& text)
{
    m_settled = text;
    if (m_edit->hasFocus() && m_edit->isModified())
        return; // somebody is typing
    m_edit->setText(text);
    refuse({});
}

QString TypedField::text() const
{
    return m_edit->text();
}

void TypedField::setHint(const QString& hint)
{
    m_hint = hint;
    if (!m_edit->property("wrong").toBool())
        refuse({});
}

/// An empty sentence takes the refusal back.
void TypedField::refuse(const QString& sentence)
{
    const auto& c = look::colours();
    setWrong(m_edit, !sentence.isEmpty());
    m_below->setText(sentence.isEmpty() ? m_hint : sentence);
    m_below->setVisible(!m_below->text().isEmpty());
    QPalette p = m_below->palette();
    p.setColor(QPalette::WindowText, sentence.isEmpty() ? c.inkSoft : c.failing);
    m_below->setPalette(p);
    m_edit->setAccessibleDescription(m_below->text());
}

void TypedField::leaveLettersWhileEmpty()
{
    m_leaveLetters = true;
}

/// Where people write a decimal comma, "1,234" is one and a bit: read so where it is not understood otherwise.
QString TypedField::inPoints(const QString& typed) const
{
    if (QLocale().decimalPoint() != QLatin1String(",") || m_understand(typed))
        return typed;
    const QString other = QString::fromStdString(typed::withPoints(typed.toStdString()));
    return m_understand(other) ? other : typed;
}

void TypedField::tryUnderstand()
{
    if (m_edit->text().trimmed().isEmpty()) {
        refuse({});
        return;
    }
    const auto understood = m_understand(inPoints(m_edit->text()));
    if (!understood) {
        refuse(QString::fromStdString(understood.error().sentence));
        return;
    }
    refuse({});
    m_below->setText(*understood);
    m_below->setVisible(!understood->isEmpty());
}

void TypedField::enter()
{
    if (!m_edit->isModified() || m_edit->text() == m_settled)
        return;
    const QString typed = m_edit->text();
    tryUnderstand();
    if (m_edit->property("wrong").toBool())
        return;
    m_edit->setModified(false);
    emit entered(inPoints(typed));
}

bool TypedField::eventFilter(QObject* watched, QEvent* event)
{
    if (event->type() == QEvent::ShortcutOverride && m_leaveLetters && m_edit->text().isEmpty()) {
        const auto* key = static_cast<QKeyEvent*>(event);
        if (key->modifiers() == Qt::NoModifier && key->key() >= Qt::Key_A && key->key() <= Qt::Key_Z)
            return true; // not taken: the stage's shortcut has it
    }
    return QWidget::eventFilter(watched, event);
}

} // namespace vicegrip::app
