#pragma once

#include "core/proof/verdict.h"

#include <QRectF>

class QPainter;
class QColor;

/// The five states, told by shape as well as colour: open box, box with a tick, box with a bar across the corner,
/// dashed box with a stroke, dash.
namespace vicegrip::app {

void drawState(QPainter& painter, const QRectF& box, proof::State state);

/// The ink a reading in this state is written in.
[[nodiscard]] QColor inkOf(proof::State state);

} // namespace vicegrip::app
