#pragma once

#include "app/look/look.h"
#include "core/drawn/figure.h"

#include <QScrollArea>

#include <set>

namespace vicegrip::app {

/// A figure in the colours of the window, as large as its words can be read, or whole. What is emphasised has a halo.
class FigureView : public QScrollArea
{
    Q_OBJECT

  public:
    explicit FigureView(const char* objectName, const QString& spoken, QWidget* parent = nullptr);

    void show(const drawn::Figure& figure);
    /// Shapes that are about these.
    void emphasise(std::set<std::string> about);
    [[nodiscard]] const std::set<std::string>& emphasised() const { return m_emphasised; }
    /// All of it at once, or large enough to read.
    void setWhole(bool whole);
    [[nodiscard]] bool isWhole() const { return m_whole; }
    [[nodiscard]] const drawn::Figure& figure() const { return m_figure; }

  signals:
    void picked(const QString& about); ///< what the shape under the pointer is about

  protected:
    void resizeEvent(QResizeEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void fit();
    void paint();
    void pick(const QPointF& at);

    drawn::Figure m_figure;
    std::set<std::string> m_emphasised;
    QWidget* m_sheet;
    bool m_whole = false;
    double m_scale = 1; ///< pixels to a mm
};

} // namespace vicegrip::app
