#pragma once

#include <QLabel>

/// A caution that stands where the step is.
namespace vicegrip::app {

class Caution : public QLabel
{
    Q_OBJECT

  public:
    explicit Caution(QWidget* parent = nullptr);

  protected:
    void paintEvent(QPaintEvent* event) override;
};

} // namespace vicegrip::app
