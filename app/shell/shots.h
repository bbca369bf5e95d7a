#pragma once

#include <QString>

namespace vicegrip::app {

class MainWindow;

/// Walks the window through its views and writes a picture of each into the folder, then ends the application.
void takeShots(MainWindow& window, const QString& folder);

} // namespace vicegrip::app
