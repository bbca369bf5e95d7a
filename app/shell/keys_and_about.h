#pragma once

#include "app/widgets/sheet.h"

#include <QAction>

/// What the window's own sheets say.
namespace vicegrip::app {

/// Every key that does something: those of the window, and those that stand on the buttons of a stage (null: none).
[[nodiscard]] std::vector<Sheet::Part> keysOf(const QList<QAction*>& actions, const QWidget* stage,
                                              const QString& stageName);

/// What this is, what it is not for, and what is inside.
[[nodiscard]] std::vector<Sheet::Part> about();

} // namespace vicegrip::app
