#pragma once

#include "core/proof/verdict.h"

#include <QRectF>
#include <QStyledItemDelegate>

class QPainter;
class QColor;

/// The five states, told by shape as well as colour: open box, box with a tick, box with a bar across the corner,
/// dashed box with a stroke, dash.
namespace vicegrip::app {

void drawState(QPainter& painter, const QRectF& box, proof::State state);

/// The state is kept in a table's item under this role, and drawn by this delegate.
inline constexpr int kStateRole = Qt::UserRole;

class StateDelegate : public QStyledItemDelegate
{
    Q_OBJECT

  public:
    using QStyledItemDelegate::QStyledItemDelegate;

    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override;
};

/// The ink a reading in this state is written in.
[[nodiscard]] QColor inkOf(proof::State state);

} // namespace vicegrip::app
