#pragma once

#include "core/run_sheet/run_sheet.h"

#include <QWidget>

#include <optional>

class QLabel;
class QVBoxLayout;

namespace vicegrip::app {

class Caution;
class KeyButton;
class TypedField;

/// The line of the run sheet that is in hand, to be read from two metres: what, how, its window beside what is read
/// now, and the keys that pass it.
class LineCard : public QWidget
{
    Q_OBJECT

  public:
    /// What the car and its links can do for a line now.
    struct Around
    {
        bool meter = false; ///< one is linked
        bool bench = false; ///< the car is the simulated one
        bool setSo = true; ///< it is in the line's condition
        bool program = false; ///< what the line wants of the unit's program is told
    };

    explicit LineCard(QWidget* parent = nullptr);

    void show(const run_sheet::Sheet& sheet, size_t line, const Around& around);
    /// Every line has passed, or the rest waits.
    void showEnd(const run_sheet::Sheet& sheet);
    /// What is read now; `instead` where nothing is.
    void showReading(const std::optional<job::Reading>& reading, const QString& instead);
    /// What became of it, in a sentence.
    void say(const QString& sentence, bool bad);

  signals:
    void seen(); ///< eyes say so
    void typed(const vicegrip::job::Reading& reading);
    void takeAsked(); ///< what is read now, or what a meter shows
    void conditionAsked();
    void takenBack();
    void finderAsked();
    void stageAsked();

  private:
    void buildFigures(QVBoxLayout* column);
    void buildKeys(QVBoxLayout* column);
    void showStanding(const run_sheet::Sheet& sheet, size_t line);

    std::optional<run_sheet::Line> m_line;
    QLabel *m_context, *m_title, *m_how, *m_due, *m_dueName, *m_now, *m_nowName, *m_source, *m_standing, *m_remedy,
        *m_then;
    TypedField* m_reading;
    KeyButton *m_seen, *m_take, *m_turn, *m_back, *m_find, *m_go;
    Caution* m_caution;
};

} // namespace vicegrip::app
