#include "core/trigger/wheel.h"

#include "core/base/phrase.h"
#include "core/base/typed_text.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <optional>
#include <set>

namespace vicegrip::trigger {
namespace {

constexpr double kHalf = 0.5;

// Of 36 places three gaps of two: 16 teeth, one tooth, 13 teeth between them (common practice, from memory).
constexpr int kUnevenPlaces = 36;
constexpr std::array kUnevenGaps = {2, 2, 2};
constexpr std::array kUnevenEmpty = {16, 17, 19, 20, 34, 35};

/// The words and numbers of a line, one after the other.
class WheelLine
{
  public:
    explicit WheelLine(std::string_view line) : m_line(typed::lower(typed::withPoints(std::string(line)))) {}

    [[nodiscard]] bool isOver()
    {
        skip();
        return m_at >= m_line.size();
    }

    /// Passes the word, if it stands here.
    bool word(std::string_view wanted)
    {
        skip();
        if (m_line.compare(m_at, wanted.size(), wanted) != 0)
            return false;
        const size_t end = m_at + wanted.size();
        if (end < m_line.size() && isLetter(m_line[end]))
            return false;
        m_at = end;
        return true;
    }

    bool sign(char wanted)
    {
        skip();
        if (m_at >= m_line.size() || m_line[m_at] != wanted)
            return false;
        ++m_at;
        return true;
    }

    [[nodiscard]] std::optional<double> number()
    {
        skip();
        double out = 0;
        const char* from = m_line.data() + m_at;
        const auto [end, error] = std::from_chars(from, m_line.data() + m_line.size(), out);
        if (error != std::errc() || !std::isfinite(out))
            return std::nullopt;
        m_at += static_cast<size_t>(end - from);
        return out;
    }

    [[nodiscard]] std::optional<int> whole()
    {
        const size_t before = m_at;
        const auto out = number();
        constexpr double kMost = 1e6;
        if (out && *out == std::floor(*out) && std::abs(*out) <= kMost)
            return static_cast<int>(*out);
        m_at = before;
        return std::nullopt;
    }

    [[nodiscard]] tl::unexpected<Error> expected(const std::string& what)
    {
        skip();
        return fail(ErrorCode::Malformed, what, {{}, {}, 1, static_cast<int>(m_at) + 1});
    }

  private:
    static bool isLetter(char c) { return c >= 'a' && c <= 'z'; }
    void skip()
    {
        while (m_at < m_line.size() && (m_line[m_at] == ' ' || m_line[m_at] == '\t'))
            ++m_at;
    }

    std::string m_line;
    size_t m_at = 0;
};

/// What a line says.
struct Said
{
    bool cam = false, slots = false, extra = false;
    int places = 0;
    std::vector<int> gaps; ///< places that are missing, gap by gap
    std::vector<int> without; ///< places that are empty, from 1
    std::vector<double> widths_deg, at_deg;
};

Result<std::vector<int>> placesOf(WheelLine& line)
{
    std::vector<int> out;
    do {
        const auto one = line.whole();
        if (!one || out.size() >= size_t(kMostTeeth))
            return line.expected(phrase("expected the empty places, such as \"36 without 17, 18, 35, 36\""));
        out.push_back(*one);
    } while (line.sign(',') || line.word("and"));
    return out;
}

Result<std::vector<double>> degreesOf(WheelLine& line)
{
    std::vector<double> out;
    do {
        const auto one = line.number();
        if (!one || out.size() >= size_t(kMostTeeth))
            return line.expected(
                phrase("expected degrees, such as \"with 12 and 3 degrees\" or \"at 0, 110, 240 degrees\""));
        out.push_back(*one);
    } while (line.sign(',') || line.word("and"));
    if (!line.word("degrees") && !line.word("deg"))
        line.sign('\xC2'); // of a degree sign in UTF-8
    line.sign('\xB0');
    return out;
}

Result<Said> said(WheelLine line)
{
    Said out;
    out.cam = line.word("cam");
    const auto places = line.whole();
    if (!places)
        return line.expected(phrase("expected how many teeth, such as 36-1, 60-2, 24+1 or \"cam 1\""));
    out.places = *places;
    while (line.sign('-')) {
        const auto missing = line.whole();
        if (!missing || *missing < 0 || out.gaps.size() >= size_t(kMostTeeth))
            return line.expected(phrase("expected how many of them are missing"));
        out.gaps.push_back(*missing);
    }
    if (out.gaps.empty() && line.sign('+')) {
        if (line.whole() != 1)
            return line.expected(phrase("expected one extra tooth, as in 24+1"));
        out.extra = true;
    }
    out.slots = line.word("slots") || line.word("slot");
    if (!out.slots && !line.word("teeth"))
        line.word("tooth");
    if (line.word("without")) {
        const auto list = placesOf(line);
        if (!list)
            return tl::make_unexpected(list.error());
        out.without = *list;
    }
    while (!line.isOver()) {
        const bool widths = line.word("with");
        if (!widths && !line.word("at"))
            return line.expected(phrase("expected \"with\" and widths, \"at\" and leading edges, in degrees, or "
                                        "\"without\" and empty places"));
        const auto list = degreesOf(line);
        if (!list)
            return tl::make_unexpected(list.error());
        (widths ? out.widths_deg : out.at_deg) = *list;
    }
    return out;
}

Result<void> check(const Said& said)
{
    const auto wrong = [](std::string sentence) { return fail(ErrorCode::Range, std::move(sentence)); };
    if (said.places < 1)
        return wrong(phrase("a wheel has at least one tooth"));
    if (said.places > kMostTeeth)
        return wrong(phrase("a wheel of {} teeth: at most {} can be told apart", std::to_string(said.places),
                            std::to_string(kMostTeeth)));
    const int perGap = said.gaps.empty() ? said.places : said.places / static_cast<int>(said.gaps.size());
    if (std::ranges::any_of(said.gaps, [&](int missing) { return missing >= perGap; }))
        return wrong(phrase("all teeth are missing"));
    if (said.gaps.size() > 1 && said.places % static_cast<int>(said.gaps.size()) != 0)
        return wrong(phrase("{} gaps do not lie evenly in {} places: say which are empty, such as \"36 without 17, 18, "
                            "35, 36\"",
                            std::to_string(said.gaps.size()), std::to_string(said.places)));
    for (const int place : said.without)
        if (place < 1 || place > said.places)
            return wrong(phrase("there is no place {} of {}", std::to_string(place), std::to_string(said.places)));
    if (!said.without.empty() && (!said.gaps.empty() || said.extra))
        return wrong(phrase("where places are empty is said: none else is missing and none is extra"));
    if (!said.at_deg.empty() && said.at_deg.size() != static_cast<size_t>(said.places))
        return wrong(phrase("{} teeth, and {} leading edges are said (a blank goes after each comma)",
                            std::to_string(said.places), std::to_string(said.at_deg.size())));
    if (!said.at_deg.empty() && (!said.gaps.empty() || !said.without.empty() || said.extra))
        return wrong(phrase("where every tooth stands is said: none is missing and none is extra"));
    return {};
}

/// Which places are empty, of 0 to places - 1. One gap is at the end of the turn; several lie evenly in it, each at the
/// end of its share, but those of the one wheel that everybody calls so and whose gaps do not.
std::set<int> emptyPlaces(const Said& said)
{
    if (said.places == kUnevenPlaces && std::ranges::equal(said.gaps, kUnevenGaps))
        return {kUnevenEmpty.begin(), kUnevenEmpty.end()};
    std::set<int> out;
    for (const int place : said.without)
        out.insert(place - 1);
    for (size_t g = 0; g < said.gaps.size(); ++g) {
        const int end = said.places * static_cast<int>(g + 1) / static_cast<int>(said.gaps.size());
        for (int place = end - said.gaps[g]; place < end; ++place)
            out.insert(place);
    }
    return out;
}

/// Where the leading edges are, rising.
std::vector<double> leading(const Said& said, double turn_deg)
{
    std::vector<double> out = said.at_deg;
    for (double& deg : out)
        deg = std::fmod(std::fmod(deg, turn_deg) + turn_deg, turn_deg);
    const double pitch = turn_deg / said.places;
    if (out.empty()) {
        const std::set<int> empty = emptyPlaces(said);
        for (int i = 0; i < said.places; ++i)
            if (!empty.contains(i))
                out.push_back(i * pitch);
        if (said.extra)
            out.push_back((said.places - kHalf) * pitch);
    }
    std::ranges::sort(out);
    return out;
}

/// Half of the least step.
double usualWidth(const std::vector<double>& leading, double turn_deg)
{
    double least = leading.front() + turn_deg - leading.back();
    for (size_t i = 1; i < leading.size(); ++i)
        least = std::min(least, leading[i] - leading[i - 1]);
    return kHalf * least;
}

/// The gaps of a wheel as its teeth.
std::vector<Tooth> inverted(const std::vector<Tooth>& teeth, double turn_deg)
{
    std::vector<Tooth> out;
    for (size_t i = 0; i < teeth.size(); ++i) {
        const double next = i + 1 < teeth.size() ? teeth[i + 1].from_deg : teeth.front().from_deg + turn_deg;
        out.push_back({teeth[i].to_deg, next});
    }
    return out;
}

} // namespace

Result<Wheel> readWheel(std::string_view line)
{
    const auto what = said(WheelLine(line));
    if (!what)
        return tl::make_unexpected(what.error());
    if (const auto fine = check(*what); !fine)
        return tl::make_unexpected(fine.error());
    Wheel out;
    out.turn_deg = what->cam ? kCamTurn_deg : kCrankTurn_deg;
    const std::vector<double> from = leading(*what, out.turn_deg);
    if (from.empty())
        return fail(ErrorCode::Range, phrase("all teeth are missing"));
    for (size_t i = 0; i < from.size(); ++i) {
        const double next = i + 1 < from.size() ? from[i + 1] : from.front() + out.turn_deg;
        const double width =
            what->widths_deg.empty() ? usualWidth(from, out.turn_deg) : what->widths_deg[i % what->widths_deg.size()];
        if (!(width > 0) && !what->widths_deg.empty())
            return fail(ErrorCode::Range, phrase("a tooth has a width above 0 degrees"));
        if (from[i] + width >= next)
            return fail(ErrorCode::Range, phrase("tooth {} reaches into the next one", std::to_string(i + 1)));
        out.teeth.push_back({from[i], from[i] + width});
    }
    if (what->slots)
        out.teeth = inverted(out.teeth, out.turn_deg);
    return out;
}

std::vector<double> edgesOf(const Wheel& wheel, bool trailing)
{
    std::vector<double> out;
    for (const Tooth& t : wheel.teeth)
        out.push_back(std::fmod(trailing ? t.to_deg : t.from_deg, wheel.turn_deg));
    std::ranges::sort(out);
    return out;
}

std::vector<double> stepsOf(const Wheel& wheel, bool trailing)
{
    const std::vector<double> edges = edgesOf(wheel, trailing);
    std::vector<double> out;
    for (size_t i = 0; i < edges.size(); ++i)
        out.push_back(i + 1 < edges.size() ? edges[i + 1] - edges[i] : edges.front() + wheel.turn_deg - edges[i]);
    return out;
}

} // namespace vicegrip::trigger
