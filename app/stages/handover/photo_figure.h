#pragma once

#include <QImage>
#include <QWidget>

namespace vicegrip::app {

/// One photo, as large as there is room for; without one, nothing.
class PhotoFigure : public QWidget
{
    Q_OBJECT

  public:
    explicit PhotoFigure(QWidget* parent = nullptr);

    /// `spoken`: what a screen reader says of it.
    void show(const QImage& photo, const QString& spoken);
    [[nodiscard]] const QImage& photo() const { return m_photo; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    QImage m_photo;
};

} // namespace vicegrip::app
