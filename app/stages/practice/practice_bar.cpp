#include "app/stages/practice/practice_bar.h"

#include "app/look/look.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"

#include <QHBoxLayout>
#include <QPainter>
#include <QShortcut>

namespace vicegrip::app {

PracticeBar::PracticeBar(Desk& desk, QWidget* parent) : QFrame(parent), m_desk(desk)
{
    setObjectName(QStringLiteral("practice-bar"));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(look::kMargin, 6_px, look::kMargin, 6_px);
    row->setSpacing(look::kGap);
    m_complaint = label({}, look::Size::Body);
    m_complaint->setObjectName(QStringLiteral("complaint"));
    row->addWidget(m_complaint, 1);
    const auto button = [&](const char* name, const QString& words, const QString& key, bool primary) {
        auto* out = new KeyButton(words, key, primary);
        out->setObjectName(QLatin1String(name));
        connect(new QShortcut(QKeySequence(key), this), &QShortcut::activated, out, [out] { out->click(); });
        row->addWidget(out);
        return out;
    };
    m_name = button("practice-name", tr("I know what it is"), tr("F6"), true);
    m_hint = button("practice-hint", tr("Hint"), tr("F7"), false);
    m_giveUp = button("practice-give-up", tr("Give up"), tr("F8"), false);
    m_debrief = button("practice-debrief", tr("Debrief"), tr("F9"), true);
    connect(m_name, &QAbstractButton::clicked, this, &PracticeBar::nameAsked);
    connect(m_hint, &QAbstractButton::clicked, &desk.practice, &Practice::hint);
    connect(m_giveUp, &QAbstractButton::clicked, &desk.practice, &Practice::giveUp);
    connect(m_debrief, &QAbstractButton::clicked, this, &PracticeBar::debriefAsked);
    connect(&desk.practice, &Practice::changed, this, &PracticeBar::refresh);
    refresh();
}

void PracticeBar::refresh()
{
    const Practice& p = m_desk.practice;
    setVisible(p.state() != Practice::State::Off);
    if (p.round() == nullptr)
        return;
    const bool playing = p.state() == Practice::State::Playing;
    m_complaint->setText(
        tr("Practice %1. %2").arg(static_cast<int>(p.round()->level) + 1).arg(text(p.round()->complaint)));
    for (KeyButton* b : {m_name, m_hint, m_giveUp})
        b->setVisible(playing);
    m_hint->setEnabled(!p.finderSpeaks());
    m_debrief->setVisible(!playing);
}

void PracticeBar::paintEvent(QPaintEvent* /*event*/)
{
    QPainter p(this);
    const auto& c = look::colours();
    p.fillRect(rect(), c.selected);
    p.setPen(QPen(c.accent, 2));
    p.drawLine(rect().bottomLeft(), rect().bottomRight());
}

} // namespace vicegrip::app
