#include "app/stages/pins/face_chooser.h"

#include "app/desk/part_library.h"
#include "app/widgets/labels.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QPushButton>

namespace vicegrip::app {

FaceChooser::FaceChooser(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_name(label(tr("Face"), look::Size::Small, false, true)),
      m_layouts(new QComboBox),
      m_confirm(new QPushButton(tr("It is the part's")))
{
    m_name->setObjectName(QStringLiteral("face-said"));
    m_name->setWordWrap(false);
    m_layouts->setObjectName(QStringLiteral("connector-layout"));
    m_layouts->setAccessibleName(tr("Face and terminals of this connector"));
    m_layouts->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_confirm->setObjectName(QStringLiteral("face-confirm"));
    auto* own = new QPushButton(tr("Describe your own"));
    own->setObjectName(QStringLiteral("describe-connector"));
    for (QWidget* small :
         {static_cast<QWidget*>(m_layouts), static_cast<QWidget*>(m_confirm), static_cast<QWidget*>(own)})
        small->setFont(look::textFont(look::Size::Small));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->addWidget(m_name);
    row->addWidget(m_layouts, 1);
    row->addWidget(m_confirm);
    row->addWidget(own);
    connect(m_layouts, &QComboBox::activated, this, &FaceChooser::choose);
    connect(m_confirm, &QPushButton::clicked, this, &FaceChooser::confirm);
    connect(own, &QPushButton::clicked, this, &FaceChooser::describeAsked);
}

void FaceChooser::show(const job::Connector* connector)
{
    m_layouts->clear();
    m_connector = connector == nullptr ? std::string() : connector->id;
    const bool proposed = connector != nullptr && connector->layout && connector->faceProposed;
    m_confirm->setVisible(proposed);
    m_name->setText(proposed ? tr("Face proposed: compare it with the part") : tr("Face"));
    setInk(m_name, proposed ? look::colours().stale : look::colours().inkSoft);
    if (connector == nullptr)
        return;
    m_layouts->addItem(connector->layout ? text(connector->layout->name) : tr("Face not described: choose"));
    for (const parts::Layout& l : library().layouts)
        if (parts::checkCavities(l, connector->cavities) && (!connector->layout || l.id != connector->layout->id))
            m_layouts->addItem(text(l.name), text(l.id.value));
    m_layouts->setEnabled(m_layouts->count() > 1);
}

void FaceChooser::edit(const QString& description, const std::function<void(job::Connector&)>& change)
{
    m_desk.store.editOrSay(description, [&](job::Job& job) {
        for (job::Connector& c : job.connectors)
            if (c.id == m_connector)
                change(c);
    });
}

void FaceChooser::choose(int index)
{
    const parts::Layout* layout =
        parts::find(library(), parts::LayoutId{m_layouts->itemData(index).toString().toStdString()});
    if (layout != nullptr)
        edit(tr("Face of %1 to %2").arg(text(m_connector), text(layout->name)), [layout](job::Connector& c) {
            c.layout = *layout;
            c.faceProposed = false;
        });
}

void FaceChooser::confirm()
{
    edit(tr("Face of %1 compared with the part").arg(text(m_connector)),
         [](job::Connector& c) { c.faceProposed = false; });
}

} // namespace vicegrip::app
