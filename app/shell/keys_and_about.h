#pragma once

#include "app/widgets/sheet.h"

#include <QAction>

#include <string>

/// What the window's own sheets say.
namespace vicegrip::app {

/// The keys that stand on the buttons of a stage as it is shown now; none of null.
[[nodiscard]] std::vector<Sheet::Row> keysOn(const QWidget* stage);

/// Every key that does something: those of a stage, and those of the window.
[[nodiscard]] std::vector<Sheet::Part> keysOf(const QList<QAction*>& actions, const QWidget* stage,
                                              const QString& stageName);

/// What there is to say of a view: its text, its keys, its terms, its sources. What cannot be read is said in its
/// place.
[[nodiscard]] std::vector<Sheet::Part> helpFor(const std::string& view, std::vector<Sheet::Row> keys);

/// The trade's words as they are meant here.
[[nodiscard]] std::vector<Sheet::Part> glossary();

/// What this is, what it is not for, and what is inside.
[[nodiscard]] std::vector<Sheet::Part> about();

} // namespace vicegrip::app
