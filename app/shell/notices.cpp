#include "app/shell/notices.h"

#include "app/widgets/labels.h"

#include <QHBoxLayout>
#include <QPainter>
#include <QPushButton>

namespace vicegrip::app {

Notices::Notices(QWidget* parent)
    : QFrame(parent), m_sentence(label({}, look::Size::Body)), m_row(new QHBoxLayout(this))
{
    setObjectName(QStringLiteral("notices"));
    m_sentence->setObjectName(QStringLiteral("notice"));
    m_row->addWidget(m_sentence, 1);
    dress();
    hide();
}

void Notices::dress()
{
    m_row->setContentsMargins(look::kMargin, 6_px, look::kMargin, 6_px);
    m_sentence->setFont(look::textFont(look::Size::Body));
    for (QPushButton* choice : m_choices)
        dressChoice(*choice);
}

void Notices::say(const QString& sentence, const std::vector<Choice>& choices)
{
    qDeleteAll(m_choices);
    m_choices.clear();
    m_sentence->setText(sentence);
    m_sentence->setAccessibleName(sentence);
    for (const Choice& choice : choices)
        addChoice(choice.text, choice.act);
    addChoice(tr("Dismiss"), {});
    show();
}

QString Notices::said() const
{
    return isHidden() ? QString() : m_sentence->text();
}

void Notices::dressChoice(QPushButton& button) const
{
    const auto& c = look::colours();
    button.setStyleSheet(look::scaled(
        QStringLiteral(
            "QPushButton { border: 1px solid %1; border-radius: 2px; padding: 5px 12px; background: transparent; }"
            "QPushButton:focus { border: 2px solid %2; padding: 4px 11px; }")
            .arg(c.inkSoft.name(), c.accent.name())));
}

void Notices::addChoice(const QString& text, std::function<void()> act)
{
    auto* button = new QPushButton(text);
    dressChoice(*button);
    m_row->addWidget(button);
    m_choices << button;
    connect(button, &QPushButton::clicked, this, [this, act = std::move(act)] {
        hide();
        if (act)
            act();
    });
}

void Notices::paintEvent(QPaintEvent*)
{
    const auto& c = look::colours();
    QPainter p(this);
    p.fillRect(rect(), c.caution);
    p.fillRect(QRect(0, 0, 4_px, height()), c.stale);
}

} // namespace vicegrip::app
