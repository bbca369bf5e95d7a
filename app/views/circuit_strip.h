#pragma once

#include "app/desk/desk.h"

#include <QAbstractButton>
#include <QColor>
#include <QWidget>

#include <optional>
#include <vector>

/// The thread: the selected circuit as a strip from sensor to value, a station for every place a probe can go, with
/// what it must read, what it read, and its state. Shown under every stage.
namespace vicegrip::app {

/// One station. A button, so that it has keyboard focus and a name for a screen reader.
class StripStation : public QAbstractButton
{
    Q_OBJECT

  public:
    explicit StripStation(QWidget* parent) : QAbstractButton(parent) {}
    /// `pointed`: it tells most of what is wrong.
    void show(const proof::Judged& judged, bool selected, bool pointed);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    proof::State m_state = proof::State::Untouched;
    bool m_selected = false, m_pointed = false;
};

class CircuitStrip : public QWidget
{
    Q_OBJECT

  public:
    explicit CircuitStrip(Desk& desk, QWidget* parent = nullptr);

    void refresh();
    void refreshLive();

  signals:
    void stationChosen(const QString& key);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

  private:
    struct Mark
    {
        proof::Judged judged;
        StripStation* button = nullptr;
        QString wire; ///< colour of the wire that leads on from here; empty for a contact or inside the ECU
    };

    [[nodiscard]] qreal xOf(size_t index) const;
    void place();
    void drawLines(QPainter& p) const;
    void drawHose(QPainter& p) const;
    void drawTexts(QPainter& p) const;
    void drawInside(QPainter& p, const QRectF& row, const QString& said) const;
    void drawReading(QPainter& p, const QRectF& row, const proof::Judged& judged) const;

    Desk& m_desk;
    std::vector<Mark> m_marks;
    bool m_hose = false; ///< the sensor is inside the unit: port and hose come before it
    std::shared_ptr<const analysis::Analysis> m_analysis; ///< keeps what the marks point into
    QString m_title, m_subtitle, m_footer;
};

} // namespace vicegrip::app
