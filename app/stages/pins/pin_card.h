#pragma once

#include "app/desk/desk.h"
#include "core/pinning/pinning.h"

#include <QFrame>

class QLabel;

namespace vicegrip::app {

class KeyButton;
class StepList;
class TypedField;
class WireStripe;

/// What the card shows of a pin.
struct PinShown
{
    QString progress; ///< "Plug A: 5 of 14 done"
    QString cavity; ///< "A21"
    QString place, otherFace; ///< how to count to it on this face, and in short on the other
    QString colours, spokenColours; ///< IEC 60757, and in words
    QString wire; ///< both, and the area
    QString leadsTo;
    QString nearest; ///< printed number the count starts from; empty when none is
    pinning::Pin pin;
};

/// The pin in hand, readable from two metres: where it goes, which wire, what the hands do, and the second count.
class PinCard : public QFrame
{
    Q_OBJECT

  public:
    explicit PinCard(QWidget* parent = nullptr);

    /// `face` is what the second count is read against.
    void show(const PinShown& shown, const parts::Layout& layout, parts::Face face);
    /// Nothing is left to do; `last` is what the whole plug still wants.
    void showDone(const QString& connector, const QString& last);

    void focusCount();

  signals:
    void tickAsked();
    void untickAsked();
    void takenOut(); ///< the wire is out again
    void counted(const QString& cavity);

  private:
    QLabel *m_progress, *m_cavity, *m_place, *m_other, *m_wire, *m_leadsTo, *m_why, *m_trouble;
    WireStripe* m_stripe;
    StepList* m_steps;
    TypedField* m_count;
    KeyButton *m_tick, *m_back, *m_out;
    parts::Layout m_layout;
    parts::Face m_face = parts::Face::Wire;
};

} // namespace vicegrip::app
