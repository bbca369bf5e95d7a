#pragma once

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wconversion"
#pragma GCC diagnostic ignored "-Wshadow"
#include <qcustomplot.h>
#pragma GCC diagnostic pop

/// How every plot is dressed.
namespace vicegrip::app {

/// Ink, grid and type of an axis; `numbers`: its ticks are labelled.
void dressAxis(QCPAxis* axis, bool numbers);

/// A plot without axes, to be laid out.
[[nodiscard]] QCustomPlot* barePlot();

} // namespace vicegrip::app
