#include "app/shell/circuit_list.h"

#include "app/look/look.h"
#include "app/widgets/state_glyph.h"

#include <QPainter>

namespace vicegrip::app {
namespace {

constexpr int kCircuitRole = kStateRole + 1;

class Row : public QStyledItemDelegate
{
  public:
    using QStyledItemDelegate::QStyledItemDelegate;

    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override { return {look::kList, look::kRow}; }

    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override
    {
        const auto& c = look::colours();
        const bool selected = (option.state & QStyle::State_Selected) != 0;
        if (selected) {
            p->fillRect(option.rect, c.selected);
            p->fillRect(QRect(option.rect.topLeft(), QSize(4_px, option.rect.height())), c.accent);
        }
        const QRectF box(option.rect.left() + 12_px, option.rect.center().y() - 8_px, 17_px, 17_px);
        drawState(*p, box, static_cast<proof::State>(index.data(kStateRole).toInt()));
        p->setPen(c.ink);
        p->setFont(look::textFont(look::Size::Body, selected));
        const QRect name = option.rect.adjusted(38_px, 0, -2, 0);
        p->drawText(name, Qt::AlignVCenter,
                    p->fontMetrics().elidedText(index.data().toString(), Qt::ElideRight, name.width()));
    }
};

} // namespace

CircuitList::CircuitList(Desk& desk, QWidget* parent) : QListWidget(parent), m_desk(desk)
{
    setObjectName(QStringLiteral("circuits"));
    setAccessibleName(tr("Circuits"));
    setFixedWidth(look::kList);
    setItemDelegate(new Row(this));
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    connect(this, &QListWidget::currentItemChanged, this, [this](QListWidgetItem* item) {
        if (item != nullptr)
            m_desk.selection.setCircuit({item->data(kCircuitRole).toString().toStdString()});
    });
}

void CircuitList::refresh()
{
    const QSignalBlocker quiet(this);
    const auto analysis = m_desk.store.analysis();
    const auto count = static_cast<int>(analysis->circuits.size());
    while (this->count() > count)
        delete takeItem(this->count() - 1);
    while (this->count() < count)
        addItem(QString());
    for (int i = 0; i < count; ++i) {
        const proof::CircuitView& view = analysis->circuits[static_cast<size_t>(i)];
        const job::Circuit* circuit = job::find(*analysis->job, view.id);
        const proof::State state = proof::worst({view.meter, view.scale});
        QListWidgetItem* row = item(i);
        row->setText(text(circuit->name));
        row->setData(kCircuitRole, text(view.id.value));
        row->setData(kStateRole, static_cast<int>(state));
        row->setData(Qt::AccessibleDescriptionRole, said(proof::stateName(state)));
        if (view.id == m_desk.selection.circuit())
            setCurrentRow(i);
    }
    viewport()->update();
}

} // namespace vicegrip::app
