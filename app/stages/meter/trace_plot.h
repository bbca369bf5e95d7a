#pragma once

#include "core/wiggle/watch.h"

#include <QString>
#include <QWidget>

#include <vector>

namespace vicegrip::app {

/// What an input said in the last seconds: its line, where hands went, and what fell out of it.
class TracePlot : public QWidget
{
    Q_OBJECT

  public:
    explicit TracePlot(QWidget* parent = nullptr);

    /// `most`: how far the axis goes, from 0; in `unit`.
    void show(const wiggle::Watch& watch, double most, const QString& unit);
    void clear(const QString& why);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    std::vector<wiggle::Heard> m_line;
    std::vector<wiggle::DropOut> m_dropOuts;
    std::vector<wiggle::Mark> m_marks;
    double m_now = 0, m_most = 1;
    QString m_unit, m_why;
};

} // namespace vicegrip::app
