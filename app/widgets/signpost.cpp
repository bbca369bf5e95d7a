#include "app/widgets/signpost.h"

#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"

#include <QShortcut>
#include <QVBoxLayout>

namespace vicegrip::app {
namespace {

constexpr look::Px kWidest{560}; ///< a line that is read easily

} // namespace

Signpost::Signpost(QWidget* parent)
    : QWidget(parent),
      m_why(label({}, look::Size::Title, true)),
      m_detail(label({}, look::Size::Body, false, true)),
      m_step(new KeyButton({}, tr("Enter"), true))
{
    m_why->setObjectName(QStringLiteral("signpost"));
    m_step->setObjectName(QStringLiteral("signpost-step"));
    for (QLabel* l : {m_why, m_detail})
        l->setMaximumWidth(kWidest);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, look::kMargin, 0, 0);
    column->setSpacing(look::kGap);
    column->addWidget(m_why);
    column->addWidget(m_detail);
    column->addSpacing(6_px);
    column->addWidget(m_step);
    column->addStretch();
    connect(m_step, &QAbstractButton::clicked, this, &Signpost::taken);
    for (const auto key : {Qt::Key_Return, Qt::Key_Enter})
        connect(new QShortcut(QKeySequence(key), this), &QShortcut::activated, m_step, &QAbstractButton::click);
}

void Signpost::show(const QString& why, const QString& detail, const QString& step)
{
    m_why->setText(why);
    m_detail->setText(detail);
    m_step->setText(step);
    m_step->setAccessibleName(step);
    m_step->setAccessibleDescription(why);
    m_step->setVisible(!step.isEmpty());
    m_step->updateGeometry();
}

} // namespace vicegrip::app
