#pragma once

#include "core/fuel/blend.h"

#include <QWidget>

#include <optional>

namespace vicegrip::app {

/// What the flex sensor will show after a fill, minute by minute.
class SettlingPlot : public QWidget
{
    Q_OBJECT

  public:
    explicit SettlingPlot(QWidget* parent = nullptr);

    void show(const fuel::Settling& settling, double before, double after);
    void clear(const QString& why);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    std::optional<fuel::Settling> m_settling;
    double m_before = 0, m_after = 0;
    QString m_why;
};

} // namespace vicegrip::app
