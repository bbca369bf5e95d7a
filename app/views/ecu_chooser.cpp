#include "app/views/ecu_chooser.h"

#include "app/desk/part_library.h"
#include "app/look/look.h"
#include "core/harness/edits.h"
#include "core/harness/start.h"

#include <QComboBox>
#include <QKeyEvent>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

namespace vicegrip::app {

EcuChooser::EcuChooser(Desk& desk, QWidget* parent) : QWidget(parent), m_desk(desk), m_ecu(new QComboBox)
{
    m_ecu->setObjectName(QStringLiteral("ecu"));
    m_ecu->setAccessibleName(tr("ECU"));
    m_ecu->setFont(look::textFont(look::Size::Small));
    m_ecu->setMinimumHeight(look::kField);
    m_ecu->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_ecu->installEventFilter(this);
    auto* own = new QPushButton(tr("Describe your own ECU"));
    own->setObjectName(QStringLiteral("describe-ecu"));
    own->setFont(look::textFont(look::Size::Small));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4_px);
    column->addWidget(m_ecu);
    column->addWidget(own);
    connect(own, &QPushButton::clicked, this, &EcuChooser::describeAsked);
    connect(m_ecu, &QComboBox::activated, this, &EcuChooser::choose);
}

void EcuChooser::refresh()
{
    const auto job = m_desk.store.job();
    const QSignalBlocker quiet(m_ecu);
    m_ecu->clear();
    m_ecu->addItem(text(job->ecu.name), QString());
    for (const parts::EcuProfile& p : library().ecus)
        if (!p.ecu.expander && p.ecu.name != job->ecu.name)
            m_ecu->addItem(text(p.name), text(p.id.value));
    m_ecu->setToolTip(text(job->ecu.name));
}

void EcuChooser::choose(int index)
{
    const auto* profile = parts::find(library(), parts::EcuId{m_ecu->itemData(index).toString().toStdString()});
    if (profile != nullptr && profile->ecu.name != m_desk.store.job()->ecu.name)
        m_desk.store.editOrSay(tr("ECU to %1").arg(text(profile->name)),
                               [&](job::Job& job) { return harness::setEcu(job, *profile); });
}

/// It is chosen from its open list only: walking through it with the arrows, or the wheel, would unseat every circuit
/// on the way.
bool EcuChooser::eventFilter(QObject* watched, QEvent* event)
{
    if (event->type() == QEvent::Wheel) {
        event->ignore();
        return true;
    }
    if (event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Down || key == Qt::Key_Up || key == Qt::Key_Return || key == Qt::Key_Space) {
            m_ecu->showPopup();
            return true;
        }
        return key != Qt::Key_Tab && key != Qt::Key_Backtab;
    }
    return QWidget::eventFilter(watched, event);
}

} // namespace vicegrip::app
