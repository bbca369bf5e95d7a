#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

/// Drawings as plain values, in mm from the upper left corner, y downward: the same for the screen, for paper and for a
/// file.
namespace vicegrip::drawn {

struct At
{
    double x = 0, y = 0;
    bool operator==(const At&) const = default;
};

enum class Ink {
    Line, ///< what is read first
    Soft, ///< second reading
    Faint, ///< rules and frames
    Paper,
    Fill, ///< a shade that carries words
    Accent
};

/// A line through points, or the edge of a face.
struct Stroke
{
    std::vector<At> points;
    Ink ink = Ink::Line;
    double width_mm = 0.25;
    bool closed = false;
    bool dashed = false;
    std::optional<Ink> fill = std::nullopt; ///< of a closed one
    std::string wire = {}; ///< IEC 60757: drawn as that wire looks, whatever its ink; of a closed one, filled so
};

struct Disc
{
    At centre;
    double radius_mm = 0.6;
    Ink ink = Ink::Line;
};

enum class Align { Left, Middle, Right };

struct Words
{
    At at; ///< on the base line
    std::string text;
    double size_mm = 2.8; ///< of the type
    Align align = Align::Left;
    Ink ink = Ink::Line;
    bool bold = false;
    bool even = false; ///< letters of one width: readings, cavities, wires
};

struct Shape
{
    std::variant<Stroke, Disc, Words> what;
    std::string about = {}; ///< what it stands for: "wire w12", "place A.7"; empty: nothing of its own
};

struct Figure
{
    double width_mm = 0, height_mm = 0;
    std::string title = {};
    std::string spoken = {}; ///< what it shows, for those who do not see it
    std::vector<Shape> shapes = {};

    void line(std::vector<At> points, Ink ink = Ink::Line, double stroke_mm = 0.25);
    /// A rectangle with its upper left corner there.
    void box(At at, double wide, double high, std::optional<Ink> fill = std::nullopt, Ink ink = Ink::Line,
             double stroke_mm = 0.25);
    Words& words(At at, std::string text, double size_mm = 2.8);
    /// All of another figure, its corner there and so much smaller.
    void place(const Figure& other, At at, double scale = 1);
};

/// How wide a text of letters of one width is, mm: each is 0.6 of the type's size.
[[nodiscard]] double evenWidth(std::string_view text, double size_mm);
/// The same of words in the text's type, near enough to leave room for them: 0.56 of the size for each.
[[nodiscard]] double wordsWidth(std::string_view text, double size_mm);
/// As much of a text as that many letters, with an ellipsis where some are left out.
[[nodiscard]] std::string shortened(std::string_view text, size_t letters);

} // namespace vicegrip::drawn
