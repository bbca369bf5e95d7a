#include "app/widgets/hand_focus.h"

#include <QFocusEvent>
#include <QWidget>

namespace vicegrip::app {
namespace {

class Hand : public QObject
{
  public:
    Hand(QWidget* whole, QWidget* part) : QObject(whole), m_part(part) { whole->installEventFilter(this); }

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override
    {
        if (event->type() == QEvent::FocusIn)
            m_part->setFocus(static_cast<QFocusEvent*>(event)->reason());
        return QObject::eventFilter(watched, event);
    }

  private:
    QWidget* m_part;
};

} // namespace

void handFocus(QWidget* whole, QWidget* part)
{
    new Hand(whole, part); // lives as long as the whole
}

} // namespace vicegrip::app
