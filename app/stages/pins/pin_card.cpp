#include "app/stages/pins/pin_card.h"

#include "app/stages/pins/step_list.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/typed_field.h"

#include <QHBoxLayout>
#include <QLineEdit>
#include <QVBoxLayout>

namespace vicegrip::app {

PinCard::PinCard(QWidget* parent)
    : QFrame(parent),
      m_progress(label({}, look::Size::Small, false, true)),
      m_cavity(figure({}, look::Size::Big)),
      m_place(label({}, look::Size::Title, true)),
      m_other(label({}, look::Size::Small, false, true)),
      m_wire(label({}, look::Size::Body)),
      m_leadsTo(label({}, look::Size::Small, false, true)),
      m_why(label({}, look::Size::Small, false, true)),
      m_trouble(label({}, look::Size::Body, true)),
      m_stripe(new WireStripe),
      m_steps(new StepList),
      m_count(new TypedField(
          tr("Second count"),
          [this](const QString& typed) {
              return pinning::countTyped(m_layout, m_face, typed.toStdString()).map([](const std::string& cavity) {
                  return tr("cavity %1").arg(text(cavity));
              });
          })),
      m_tick(new KeyButton(tr("Done"), tr("Space"), true)),
      m_back(new KeyButton(tr("Back"), tr("Bksp"), false)),
      m_out(new KeyButton(tr("It is out again"), tr("Space"), true))
{
    setFrameShape(QFrame::Box);
    m_cavity->setObjectName(QStringLiteral("pin-cavity"));
    m_place->setObjectName(QStringLiteral("pin-place"));
    m_progress->setObjectName(QStringLiteral("pin-progress"));
    m_trouble->setObjectName(QStringLiteral("pin-trouble"));
    m_leadsTo->setObjectName(QStringLiteral("pin-leads-to"));
    m_count->edit()->setObjectName(QStringLiteral("count-again"));
    m_tick->setObjectName(QStringLiteral("tick"));
    m_back->setObjectName(QStringLiteral("untick"));
    m_out->setObjectName(QStringLiteral("taken-out"));

    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16_px, 8_px, 16_px, 8_px);
    column->setSpacing(3_px);
    column->addWidget(m_progress);
    column->addWidget(m_cavity);
    column->addWidget(m_place);
    column->addWidget(m_other);
    column->addWidget(m_stripe);
    column->addWidget(m_wire);
    column->addWidget(m_leadsTo);
    column->addSpacing(4_px);
    column->addWidget(m_steps);
    column->addWidget(m_why);
    column->addWidget(m_trouble);
    column->addWidget(m_count);
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(m_tick);
    buttons->addWidget(m_out);
    buttons->addWidget(m_back);
    buttons->addStretch();
    column->addLayout(buttons);
    column->addStretch();

    connect(m_tick, &KeyButton::clicked, this, &PinCard::tickAsked);
    connect(m_back, &KeyButton::clicked, this, &PinCard::untickAsked);
    connect(m_out, &KeyButton::clicked, this, &PinCard::takenOut);
    connect(m_count, &TypedField::entered, this, [this](const QString& typed) {
        if (const auto cavity = pinning::countTyped(m_layout, m_face, typed.toStdString()))
            emit counted(text(*cavity));
    });
}

void PinCard::show(const PinShown& shown, const parts::Layout& layout, parts::Face face)
{
    using pinning::PinState;
    m_layout = layout;
    m_face = face;
    const pinning::Pin& pin = shown.pin;
    const bool wrong = pin.state == PinState::Wrong, seated = pin.state == PinState::Seated;
    m_progress->setText(shown.progress);
    m_cavity->setText(shown.cavity);
    m_place->setText(shown.place);
    m_other->setText(shown.otherFace);
    m_stripe->show(shown.colours);
    m_wire->setText(shown.wire);
    m_leadsTo->setText(shown.leadsTo);
    m_steps->setVisible(!wrong);
    m_steps->show(pin.steps, pin.ticked);
    m_why->setText(pin.next() != nullptr && !wrong ? text(pin.next()->why) : QString());
    m_why->setVisible(!m_why->text().isEmpty());
    m_trouble->setText(text(pin.trouble));
    m_trouble->setVisible(wrong);
    setInk(m_trouble, look::colours().failing);
    m_count->setVisible(seated);
    if (seated) {
        m_count->setText({});
        m_count->setHint(shown.nearest.isEmpty()
                             ? tr("Count again: row and place, such as 2 6")
                             : tr("Count again from the moulded %1: row and place, such as 2 6").arg(shown.nearest));
    }
    m_tick->setVisible(!wrong && pin.next() != nullptr);
    m_back->setVisible(!wrong && pin.ticked > 0);
    m_out->setVisible(wrong);
}

void PinCard::showDone(const QString& connector, const QString& last)
{
    m_progress->setText(connector);
    m_cavity->setText(tr("All in"));
    m_place->setText(last);
    for (QLabel* l : {m_other, m_wire, m_leadsTo, m_trouble, m_why})
        l->clear();
    m_stripe->show({});
    for (QWidget* w : std::initializer_list<QWidget*>{m_steps, m_trouble, m_why, m_count, m_tick, m_back, m_out})
        w->hide();
}

void PinCard::focusCount()
{
    m_count->edit()->setFocus();
}

} // namespace vicegrip::app
