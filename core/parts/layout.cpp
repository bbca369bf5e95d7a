#include "core/parts/layout.h"

#include "core/base/phrase.h"
#include "core/units/units.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdlib>

namespace vicegrip::parts {
namespace {

const TerminalFamily* familyOf(const Layout& layout, const Run& run)
{
    if (run.terminal.empty())
        return layout.terminals.empty() ? nullptr : layout.terminals.data();
    const auto it = std::ranges::find(layout.terminals, run.terminal, &TerminalFamily::id);
    return it == layout.terminals.end() ? nullptr : &*it;
}

/// As large as the blade asks for, but never into the neighbour.
double drawnSize(const Layout& layout, double pitch_m, const TerminalFamily* family)
{
    const double room = 0.8 * std::min(pitch_m, layout.rowPitch_m);
    const double blade = family == nullptr ? 0 : 2 * family->blade_m;
    return std::clamp(blade, 0.7 * room, room);
}

std::string ordinal(int n)
{
    static constexpr std::array<const char*, 8> kWords = {key("first"), key("second"), key("third"),   key("fourth"),
                                                          key("fifth"), key("sixth"),  key("seventh"), key("eighth")};
    if (n >= 1 && n <= static_cast<int>(kWords.size()))
        return phrase(kWords[static_cast<size_t>(n - 1)]);
    return std::to_string(n) + "th";
}

std::string place(int n)
{
    const int tens = n % 100, ones = n % 10;
    const char* ending = tens >= 11 && tens <= 13 ? "th"
                         : ones == 1              ? "st"
                         : ones == 2              ? "nd"
                         : ones == 3              ? "rd"
                                                  : "th";
    return std::to_string(n) + ending;
}

/// A row's cavities from the left of a face.
std::vector<Cavity> rowOn(const Layout& layout, int row, Face face)
{
    std::vector<Cavity> out;
    for (const Cavity& c : cavities(layout))
        if (c.row == row)
            out.push_back(c);
    if (face == Face::Mating)
        std::ranges::reverse(out);
    return out;
}

} // namespace

std::vector<Cavity> cavities(const Layout& layout)
{
    std::vector<Cavity> out;
    for (size_t r = 0; r < layout.rows.size(); ++r) {
        const Row& row = layout.rows[r];
        double x = row.offset * layout.pitch_m;
        const size_t begin = out.size();
        for (const Run& run : row.runs) {
            const double pitch = run.pitch_m > 0 ? run.pitch_m : layout.pitch_m;
            const TerminalFamily* family = familyOf(layout, run);
            x += run.gap * layout.pitch_m;
            const int step = run.first <= run.last ? 1 : -1;
            for (int n = run.first;; n += step) {
                if (std::ranges::find(layout.missing, n) == layout.missing.end())
                    out.push_back({cavityName(layout, n), static_cast<int>(r), static_cast<int>(out.size() - begin),
                                   x + pitch / 2, (static_cast<double>(r) + 0.5) * layout.rowPitch_m,
                                   drawnSize(layout, pitch, family), layout.printed == Printed::All, family});
                x += pitch;
                if (n == run.last)
                    break;
            }
        }
        if (layout.printed == Printed::Corners && out.size() > begin)
            out[begin].printed = out.back().printed = true;
    }
    return out;
}

FaceSize sizeOf(const Layout& layout)
{
    FaceSize size{0, static_cast<double>(layout.rows.size()) * layout.rowPitch_m};
    for (const Row& row : layout.rows) {
        double x = row.offset * layout.pitch_m;
        for (const Run& run : row.runs)
            x += run.gap * layout.pitch_m +
                 (std::abs(run.last - run.first) + 1) * (run.pitch_m > 0 ? run.pitch_m : layout.pitch_m);
        size.width_m = std::max(size.width_m, x);
    }
    return size;
}

std::string cavityName(const Layout& layout, int number)
{
    if (!layout.letters)
        return std::to_string(number);
    std::string out;
    for (int n = number; n > 0; n = (n - 1) / 26)
        out.insert(out.begin(), static_cast<char>('A' + (n - 1) % 26));
    return out;
}

std::optional<int> cavityNumber(bool letters, const std::string& name)
{
    int n = 0;
    for (char c : name) {
        if (n > 999 || !(letters ? c >= 'A' && c <= 'Z' : c >= '0' && c <= '9'))
            return std::nullopt;
        n = letters ? n * 26 + (c - 'A' + 1) : n * 10 + (c - '0');
    }
    return n > 0 ? std::optional(n) : std::nullopt;
}

std::vector<std::string> cavityNames(const Layout& layout)
{
    std::vector<int> numbers;
    for (const Cavity& c : cavities(layout))
        numbers.push_back(*cavityNumber(layout.letters, c.name));
    std::ranges::sort(numbers);
    std::vector<std::string> out;
    for (int n : numbers)
        out.push_back(cavityName(layout, n));
    return out;
}

double onFace(double x_m, const FaceSize& size, Face face)
{
    return face == Face::Wire ? x_m : size.width_m - x_m;
}

std::optional<Count> countOf(const Layout& layout, const std::string& cavity, Face face)
{
    for (int r = 0; r < static_cast<int>(layout.rows.size()); ++r) {
        const std::vector<Cavity> row = rowOn(layout, r, face);
        const auto it = std::ranges::find(row, cavity, &Cavity::name);
        if (it == row.end())
            continue;
        const int at = static_cast<int>(it - row.begin());
        Count count{r + 1,
                    at + 1,
                    static_cast<int>(row.size()) - at,
                    static_cast<int>(row.size()),
                    row.front().name,
                    row.back().name,
                    {},
                    0};
        for (int i = 0; i < count.inRow; ++i)
            if (row[static_cast<size_t>(i)].printed &&
                (count.printed.empty() || std::abs(at - i) < std::abs(count.steps))) {
                count.printed = row[static_cast<size_t>(i)].name;
                count.steps = at - i;
            }
        return count;
    }
    return std::nullopt;
}

std::string spoken(const Count& count)
{
    const bool left = count.fromLeft <= count.fromRight;
    return phrase("{} row, {} from the {}", ordinal(count.row), place(left ? count.fromLeft : count.fromRight),
                  (left ? phrase("left; the row starts at {}", count.leftmost)
                        : phrase("right; the row ends at {}", count.rightmost)));
}

std::string countedTo(const Layout& layout, Face face, int row, int fromLeft)
{
    const std::vector<Cavity> all = rowOn(layout, row - 1, face);
    return fromLeft >= 1 && fromLeft <= static_cast<int>(all.size()) ? all[static_cast<size_t>(fromLeft - 1)].name
                                                                     : std::string();
}

Layout plainRow(const std::vector<std::string>& names)
{
    Layout out;
    out.name = phrase("{} in a row", std::to_string(names.size()));
    out.terminals = {TerminalFamily{}};
    out.letters = !names.empty() && cavityNumber(true, names.front()).has_value();
    out.rows.emplace_back();
    for (const std::string& name : names)
        if (const auto n = cavityNumber(out.letters, name))
            out.rows.front().runs.push_back({*n, *n, 0, {}, 0, nlohmann::json::object()});
    return out;
}

std::string millimetres(double m)
{
    return units::shortest(fields::rounded(m * 1e3)) + " mm";
}

} // namespace vicegrip::parts
