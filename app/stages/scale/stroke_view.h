#pragma once

#include "app/desk/desk.h"
#include "core/throttle/strokes.h"

#include <QElapsedTimer>
#include <QWidget>

#include <optional>

class QLabel;
class QVBoxLayout;

namespace vicegrip::app {

class IdleStop;
class KeyButton;
class StrokePlot;

/// A throttle or pedal stroked by hand: recorded from the ECU or a file, its rests found, the limits calibrated.
class StrokeView : public QWidget
{
    Q_OBJECT

  public:
    explicit StrokeView(Desk& desk, QWidget* parent = nullptr);

    void refresh();
    void refreshLive();
    /// Reads a recording. What is wrong with it is said on the page.
    void readFile(const QString& path);
    [[nodiscard]] bool isReading() const { return m_reading; }

  private:
    void buildButtons(QVBoxLayout* column);
    void hear(const QList<stream::Heard>& all);
    void record();
    /// What a file held.
    struct Opened
    {
        throttle::Recording strokes;
        Result<throttle::Report> report;
    };
    [[nodiscard]] static Result<throttle::Report> judged(const job::Job& job, const job::CircuitId& id,
                                                         const throttle::Recording& strokes);
    void take(Result<throttle::Report> report);
    void teach();
    void showReport();
    void showTaught();
    void say(const QString& sentence, bool bad = false);
    [[nodiscard]] const job::Circuit* partner() const; ///< the second track
    [[nodiscard]] QString exchangeText() const; ///< which cavities to exchange where it is reversed

    Desk& m_desk;
    job::CircuitId m_shown;
    bool m_recording = false;
    bool m_reading = false; ///< a file, beside the window's thread
    int m_files = 0; ///< opened so far
    std::optional<double> m_began_s; ///< when the first volts of the recording came
    throttle::LivePair m_pair;
    throttle::Recording m_strokes;
    std::optional<throttle::Report> m_report;
    StrokePlot* m_plot;
    QLabel *m_now, *m_verdict, *m_facts, *m_troubles, *m_calibrated, *m_said;
    KeyButton *m_record, *m_open, *m_teach;
    IdleStop* m_screw;
};

} // namespace vicegrip::app
