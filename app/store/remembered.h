#pragma once

#include "app/store/config_file.h"

#include <QByteArray>

namespace vicegrip::app {

/// How the window was when it was closed last, kept from start to start.
class Remembered
{
  public:
    Remembered();

    /// As QWidget::saveGeometry; empty: never closed.
    [[nodiscard]] const QByteArray& place() const { return m_place; }
    void setPlace(const QByteArray& place);

    /// As ConfigFile.
    [[nodiscard]] const QString& complaint() const { return m_file.complaint(); }

  private:
    ConfigFile m_file;
    QByteArray m_place;
};

} // namespace vicegrip::app
