#pragma once

#include <QColor>
#include <QFont>
#include <QString>

class QApplication;

/// Colours, typefaces and measures: the only place a colour is written. Drawing-office paper: calm paper, exact
/// lines, big numbers where hands are busy.
namespace vicegrip::app::look {

struct Colours
{
    QColor paper; ///< what everything lies on
    QColor card; ///< raised above it
    QColor rail; ///< stages
    QColor list; ///< circuits, and the thread's strip
    QColor band; ///< the header
    QColor bandInk;
    QColor bandLine;
    QColor ink;
    QColor inkSoft; ///< second reading; still AA on paper
    QColor line;
    QColor accent;
    QColor accentInk; ///< on accent
    QColor selected;
    QColor done, failing, stale; ///< on paper, as text and glyphs
    QColor failingFill, staleFill;
    QColor caution; ///< fill of a caution
};

[[nodiscard]] const Colours& colours();
[[nodiscard]] bool isNight();

/// Whether the desktop's own colours were light on dark before ours were put on.
[[nodiscard]] bool desktopIsNight();

/// Four sizes; the big one is for what is read from a distance.
enum class Size { Small, Body, Title, Big };
[[nodiscard]] QFont textFont(Size size, bool strong = false);
[[nodiscard]] QFont numbers(Size size); ///< readings, pins and tables

/// Loads the typefaces and dresses the application; again when day and night change.
void apply(QApplication& app, bool night);

/// A wire's colour as it is, from IEC 60757 letters ("BU"); an unknown code is drawn as ink.
[[nodiscard]] QColor wire(const QString& letters);

/// Measures in pixels.
inline constexpr int kMargin = 20;
inline constexpr int kGap = 10;
inline constexpr int kHeader = 52;
inline constexpr int kRail = 148, kNarrowRail = 118;
inline constexpr int kList = 214, kNarrowList = 172;
inline constexpr int kNarrow = 1200; ///< below this width rail and list give way to the stage
inline constexpr int kStrip = 178;
inline constexpr int kRow = 34; ///< a row a gloved finger can hit
inline constexpr int kButton = 44;
inline constexpr int kField = 30; ///< what is typed or chosen

} // namespace vicegrip::app::look
