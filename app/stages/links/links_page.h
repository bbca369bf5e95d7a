#pragma once

#include "app/desk/desk.h"

#include <QWidget>

namespace vicegrip::app {

class MeterPanel;
class StreamPanel;
class ToldView;

/// What is connected, through what, what it says now, and why not. It stands in the stage's place until it is left.
class LinksPage : public QWidget
{
    Q_OBJECT

  public:
    explicit LinksPage(Desk& desk, QWidget* parent = nullptr);
    void refresh();

  signals:
    void left();
    void benchAsked();

  protected:
    void keyPressEvent(QKeyEvent* event) override;

  private:
    StreamPanel* m_stream;
    MeterPanel* m_meter;
    ToldView* m_told;
};

} // namespace vicegrip::app
