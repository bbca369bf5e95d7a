#pragma once

#include "app/desk/desk.h"

#include <QWidget>

class QBoxLayout;

namespace vicegrip::app {

class MeterPanel;
class RecordingPanel;
class StreamPanel;
class ToldView;
class UnitsView;
class ViewBar;

/// What is connected, through what, what it says now, and why not. It stands in the stage's place until it is left.
class LinksPage : public QWidget
{
    Q_OBJECT

  public:
    explicit LinksPage(Desk& desk, QWidget* parent = nullptr);
    void refresh();
    void offerRecording(const QString& file);

  signals:
    void left();
    void benchAsked();
    void recordAsked();
    void markAsked();

  protected:
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

  private:
    StreamPanel* m_stream;
    MeterPanel* m_meter;
    RecordingPanel* m_recording;
    ToldView* m_told;
    UnitsView* m_units;
    ViewBar* m_bar;
    QBoxLayout* m_panels;
    QWidget* m_right; ///< what stands beside the ECU
};

} // namespace vicegrip::app
