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

/// What people may set the text to, in percent of the design's; all measures follow it.
inline constexpr int kLeastText = 80, kMostText = 200;
inline constexpr int kTextSizes[] = {80, 90, 100, 110, 125, 150, 175, 200}; ///< that are offered
/// The text's size from now on: what is made afterwards has it. `apply` comes after it.
void setTextSize(int percent);
[[nodiscard]] int textSize();

/// Pixels of the screen, for as many at 100 % text: whole ones, never none.
[[nodiscard]] int px(int atFull);

/// A measure of the design; reads as pixels at today's text size.
class Px
{
  public:
    constexpr explicit Px(int atFull) : m_atFull(atFull) {}
    operator int() const { return px(m_atFull); } // NOLINT(google-explicit-constructor): it stands where an int did

  private:
    int m_atFull;
};

/// A number in a layout or a drawing: `setSpacing(6_px)`.
[[nodiscard]] inline int operator""_px(unsigned long long atFull)
{
    return px(static_cast<int>(atFull));
}
[[nodiscard]] double operator""_px(long double atFull);

/// A style sheet with its measures of more than a pixel at today's text size: hair lines stay as they are.
[[nodiscard]] QString scaled(const QString& styleSheet);

/// Loads the typefaces and dresses the application; again when day and night or the text's size change.
void apply(QApplication& app, bool night);

/// A wire's colour as it is, from IEC 60757 letters ("BU"); an unknown code is drawn as ink.
[[nodiscard]] QColor wire(const QString& letters);

/// Measures.
inline constexpr Px kMargin{20};
inline constexpr Px kGap{10};
inline constexpr Px kHeader{52};
inline constexpr Px kRail{148}, kNarrowRail{118}, kTightRail{106};
inline constexpr Px kList{214}, kNarrowList{172};
inline constexpr Px kLeastFrameWide{1024}, kLeastFrameTall{700}; ///< of all that stands in the window
inline constexpr Px kTightFrame{840}; ///< without the circuit list, where there is no room for it
inline constexpr Px kNarrow{1200}; ///< below this width rail and list give way to the stage
inline constexpr Px kStrip{178};
inline constexpr Px kRow{34}; ///< a row a gloved finger can hit
inline constexpr Px kButton{44};
inline constexpr Px kField{30}; ///< what is typed or chosen

} // namespace vicegrip::app::look

namespace vicegrip::app {
using look::operator""_px;
}
