#pragma once

#include "core/fuel/fill_watch.h"

#include <QWidget>

#include <optional>

namespace vicegrip::app {

/// What the flex sensor will show after a fill, minute by minute, and what it did show.
class SettlingPlot : public QWidget
{
    Q_OBJECT

  public:
    explicit SettlingPlot(QWidget* parent = nullptr);

    void show(const fuel::Settling& settling, double before, double after);
    void showSeen(const std::vector<fuel::Shown>& seen);
    void clear(const QString& why);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    std::optional<fuel::Settling> m_settling;
    double m_before = 0, m_after = 0;
    std::vector<fuel::Shown> m_seen;
    QString m_why;
};

} // namespace vicegrip::app
