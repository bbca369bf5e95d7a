#include "app/shell/stage_rail.h"

#include "core/brief/questions.h"

#include "app/desk/desk.h"
#include "app/look/look.h"

#include <QAction>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {
namespace {

using analysis::Stage;

/// How many circuits are not done at this stage; nothing for stages that keep no states yet.
QString leftAt(Stage stage, const analysis::Analysis& a)
{
    if (stage == Stage::Brief)
        return a.job->brief ? QString::number(brief::openQuestions(*a.job)) : QString();
    if (stage == Stage::Inputs)
        return QString::number(std::ranges::count(a.job->circuits, false, job::isSeated));
    if (stage == Stage::Pins) {
        long left = 0;
        for (const auto& [connector, pins] : a.pins)
            left += std::ranges::count_if(pins, [](const pinning::Pin& p) { return !pinning::isDone(p.state); });
        return QString::number(left);
    }
    if (stage == Stage::Trigger && !a.handTurns.empty()) { // wheels that are still to be turned by hand, or captured
        const auto turns = std::ranges::count_if(
            a.handTurns, [](const hand_test::Standing& s) { return s.byHand && s.state != proof::State::Done; });
        const auto coils = std::ranges::count_if(
            a.decoded, [](const decoded::Standing& s) { return s.only && s.state != proof::State::Done; });
        return QString::number(turns + coils);
    }
    if (stage != Stage::Meter && stage != Stage::Scale)
        return {};
    const auto left = std::ranges::count_if(a.circuits, [&](const proof::CircuitView& v) {
        const proof::State s = stage == Stage::Meter ? v.meter : v.scale;
        return s != proof::State::Done && s != proof::State::NotNeeded;
    });
    return QString::number(left);
}

} // namespace

RailButton::RailButton(const QString& number, const QString& name, QWidget* parent)
    : QAbstractButton(parent), m_number(number)
{
    setText(name);
    setCheckable(true);
    setAutoExclusive(true);
    setFocusPolicy(Qt::TabFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setAccessibleName(name);
}

void RailButton::setLeft(const QString& left)
{
    m_left = left;
    setAccessibleDescription(left.isEmpty() ? QString() : StageRail::tr("%1 left").arg(left));
    update();
}

QSize RailButton::sizeHint() const
{
    return {look::kRail, 40_px};
}

void RailButton::paintEvent(QPaintEvent*)
{
    const auto& c = look::colours();
    QPainter p(this);
    if (isChecked()) {
        p.fillRect(rect(), c.paper);
        p.fillRect(QRect(0, 0, 4_px, height()), c.accent);
    }
    p.setFont(look::numbers(look::Size::Small));
    p.setPen(c.inkSoft);
    const bool tight = width() < look::kNarrowRail;
    const int number = tight ? 10_px : 16_px, name = tight ? 28_px : 38_px, edge = tight ? 6_px : 14_px;
    p.drawText(QRect(number, 0, 20_px, height()), Qt::AlignVCenter, m_number);
    p.drawText(QRect(0, 0, width() - edge, height()), Qt::AlignVCenter | Qt::AlignRight, m_left);
    p.setFont(look::textFont(look::Size::Body, isChecked()));
    p.setPen(c.ink);
    p.drawText(QRect(name, 0, width() - name, height()), Qt::AlignVCenter, text());
    if (hasFocus()) {
        p.setPen(QPen(c.accent, 1, Qt::DotLine));
        p.drawRect(rect().adjusted(6_px, 4_px, -6_px, -5_px));
    }
}

StageRail::StageRail(QWidget* parent) : QWidget(parent), m_foot(new QVBoxLayout)
{
    setFixedWidth(look::kRail);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 8_px, 0, look::kGap);
    column->setSpacing(0);
    for (int i = 0; i < analysis::kStageCount; ++i) {
        const auto stage = static_cast<Stage>(i);
        auto* button = new RailButton(QString::number(i), said(analysis::stageName(stage)), this);
        button->setObjectName(QStringLiteral("stage-") + text(analysis::stageName(stage)));
        button->setToolTip(tr("Ctrl+%1").arg(i));
        connect(button, &QAbstractButton::clicked, this, [this, stage] { emit chosen(stage); });
        column->addWidget(button);
        m_buttons[static_cast<size_t>(i)] = button;
    }
    column->addStretch();
    m_foot->setSpacing(0);
    column->addLayout(m_foot);
}

void StageRail::show(Stage current, const analysis::Analysis& analysis)
{
    for (int i = 0; i < analysis::kStageCount; ++i) {
        const auto stage = static_cast<Stage>(i);
        m_buttons[static_cast<size_t>(i)]->setChecked(stage == current);
        m_buttons[static_cast<size_t>(i)]->setLeft(leftAt(stage, analysis));
    }
    update();
}

void StageRail::addAction(QAction* action)
{
    auto* button = new QPushButton(this);
    button->setObjectName(QStringLiteral("foot"));
    button->setFont(look::textFont(look::Size::Small));
    // The undo actions carry what they undo in their text, others are short here: the button keeps the word, its tip
    // says the rest.
    const auto follow = [action, button, word = action->iconText()] {
        button->setText(word);
        button->setToolTip(action->text() + QStringLiteral("  ") + action->shortcut().toString());
        button->setEnabled(action->isEnabled());
    };
    follow();
    connect(action, &QAction::changed, button, follow);
    connect(button, &QPushButton::clicked, action, &QAction::trigger);
    m_foot->addWidget(button);
}

void StageRail::paintEvent(QPaintEvent*)
{
    QPainter(this).fillRect(rect(), look::colours().rail);
}

} // namespace vicegrip::app
