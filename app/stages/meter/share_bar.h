#pragma once

#include <QWidget>

namespace vicegrip::app {

/// A share of a whole as a bar and a number: "71 %".
class ShareBar : public QWidget
{
    Q_OBJECT

  public:
    explicit ShareBar(QWidget* parent = nullptr);

    void setShare(double share);
    [[nodiscard]] QSize sizeHint() const override;

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    double m_share = 0;
};

} // namespace vicegrip::app
