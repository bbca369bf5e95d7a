#pragma once

#include "core/parts/terminal.h"

#include <optional>
#include <vector>

/// Connector faces: rows of numbered cavities with their pitch, as seen from the wire side; the mating face is the
/// mirror of it. Both are worked out of one layout, so they cannot disagree.
///
///     rows 1-15, 16-26 staggered: the second row starts half a pitch further right, under the gap of the first
///     rows 13-1: the numbers run from right to left
namespace vicegrip::parts {

using LayoutId = Id<struct LayoutTag>;

/// Neighbours of one kind in a row, numbered one by one, upward or downward.
struct Run
{
    int first = 1, last = 1;
    double gap = 0; ///< empty pitches before it
    TerminalId terminal; ///< family; empty: the layout's first
    double pitch_m = 0; ///< 0: the layout's
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Run&) const = default;
};

struct Row
{
    double offset = 0; ///< pitches to the right of the layout's left edge
    std::vector<Run> runs;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Row&) const = default;
};

/// Which numbers are moulded on the part.
enum class Printed { Corners, All, None };

/// The side of the housing with the latch or the coding rib, wire side.
enum class KeySide { Top, Bottom, Left, Right, None };

struct Layout
{
    LayoutId id;
    std::string name;
    double pitch_m = 4e-3, rowPitch_m = 5e-3;
    std::vector<Row> rows; ///< from the top, wire side
    std::vector<int> missing; ///< numbers without a cavity; their place is empty
    bool letters = false; ///< cavities are lettered: A for 1, Z for 26, AA for 27
    Printed printed = Printed::Corners;
    KeySide key = KeySide::Top;
    std::vector<TerminalFamily> terminals; ///< at least one
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Layout&) const = default;
};

enum class Face { Wire, Mating };

/// A cavity in its place on the wire side: x to the right, y downward, from the face's upper left corner.
struct Cavity
{
    std::string name; ///< its number, or letters
    int row = 0, place = 0; ///< from 0; places from the left, wire side
    double x_m = 0, y_m = 0; ///< centre
    double size_m = 0; ///< side of the square it is drawn as
    bool printed = false;
    const TerminalFamily* terminal = nullptr; ///< in the layout
};

struct FaceSize
{
    double width_m = 0, height_m = 0;
};

[[nodiscard]] FaceSize sizeOf(const Layout& layout);

/// Every cavity, row by row from the left, wire side. The layout must outlive them.
[[nodiscard]] std::vector<Cavity> cavities(const Layout& layout);

/// A cavity's name from its number in the layout, and back; none when the name is no such thing.
[[nodiscard]] std::string cavityName(const Layout& layout, int number);
[[nodiscard]] std::optional<int> cavityNumber(bool letters, const std::string& name);

/// The names of the cavities in the order people count them: by number.
[[nodiscard]] std::vector<std::string> cavityNames(const Layout& layout);

/// The same x on the other face.
[[nodiscard]] double onFace(double x_m, const FaceSize& size, Face face);

/// Where a cavity is, as a person counts it on one face.
struct Count
{
    int row = 0; ///< from 1, from the top
    int fromLeft = 0, fromRight = 0; ///< from 1
    int inRow = 0; ///< cavities of the row
    std::string leftmost, rightmost; ///< names at the row's ends, on this face
    std::string printed; ///< the nearest number that is moulded on the part, empty when none is
    int steps = 0; ///< cavities from there, to the right when positive
};

[[nodiscard]] std::optional<Count> countOf(const Layout& layout, const std::string& cavity, Face face);

/// "second row, 6th from the left; the row starts at 16".
[[nodiscard]] std::string spoken(const Count& count);

/// What sits where somebody counted to: row from 1, place from 1 from the left of this face. Empty outside.
[[nodiscard]] std::string countedTo(const Layout& layout, Face face, int row, int fromLeft);

/// A single row for a plug whose face nobody has described, with an unnamed family.
[[nodiscard]] Layout plainRow(const std::vector<std::string>& cavities);

/// A layout from a library file: checked against data/schema/connector.schema.json, then for sense.
[[nodiscard]] Result<Layout> readLayout(const nlohmann::json& json);

/// The checks for sense: numbers used once, cavities apart from each other, families that are there. Pointers are
/// relative to the layout.
[[nodiscard]] Result<void> checkLayout(const Layout& layout);

/// The same, and that a plug's cavities are the layout's, each of them. Pointers are relative to what holds `layout`
/// and `cavities`.
[[nodiscard]] Result<void> checkCavities(const Layout& layout, const std::vector<std::string>& cavities);

template <class A> void listFields(A& a, Run& r)
{
    a("first", r.first);
    a("last", r.last);
    a("gap", r.gap);
    a("terminal", r.terminal);
    a.scaled("pitch_mm", r.pitch_m, 1e-3);
    a.rest(r.extra);
}

template <class A> void listFields(A& a, Row& r)
{
    a("offset", r.offset);
    a("runs", r.runs);
    a.rest(r.extra);
}

/// A length with every digit that was given: "2.54 mm".
[[nodiscard]] std::string millimetres(double m);

template <class A> void listFields(A& a, Layout& l)
{
    a("id", l.id);
    a("name", l.name);
    a.scaled("pitch_mm", l.pitch_m, 1e-3);
    a.scaled("row_pitch_mm", l.rowPitch_m, 1e-3);
    a("rows", l.rows);
    a("missing", l.missing);
    a("letters", l.letters);
    a("printed", l.printed);
    a("key", l.key);
    a("terminals", l.terminals);
    a.rest(l.extra);
}

} // namespace vicegrip::parts

template <> struct vicegrip::fields::EnumNames<vicegrip::parts::Printed>
{
    static constexpr std::pair<vicegrip::parts::Printed, std::string_view> kNames[] = {
        {vicegrip::parts::Printed::Corners, "corners"},
        {vicegrip::parts::Printed::All, "all"},
        {vicegrip::parts::Printed::None, "none"}};
};

template <> struct vicegrip::fields::EnumNames<vicegrip::parts::KeySide>
{
    static constexpr std::pair<vicegrip::parts::KeySide, std::string_view> kNames[] = {
        {vicegrip::parts::KeySide::Top, "top"},
        {vicegrip::parts::KeySide::Bottom, "bottom"},
        {vicegrip::parts::KeySide::Left, "left"},
        {vicegrip::parts::KeySide::Right, "right"},
        {vicegrip::parts::KeySide::None, "none"}};
};

template <> struct vicegrip::fields::EnumNames<vicegrip::parts::Face>
{
    static constexpr std::pair<vicegrip::parts::Face, std::string_view> kNames[] = {
        {vicegrip::parts::Face::Wire, "wire"}, {vicegrip::parts::Face::Mating, "mating"}};
};
