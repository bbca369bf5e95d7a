#pragma once

#include "core/base/phrase.h"
#include "core/base/typed_text.h"
#include "core/parts/describe.h"

/// Lines of a description, split once for both kinds of part, and what the kinds of devices need to read, write and
/// check theirs. Only files of this room include this.
namespace vicegrip::parts {

struct Line
{
    int number = 0;
    std::string key; ///< lower case; empty for a table's line
    std::string written; ///< the key as it was typed
    std::string value; ///< what stands behind the colon, or the whole of a table's line
};

[[nodiscard]] std::vector<Line> linesOf(std::string_view text);

using typed::lower;
using typed::trimmed;

/// Values between commas, trimmed; a comma between two digits is no separator.
[[nodiscard]] std::vector<std::string> listOf(std::string_view value);

/// Two numbers of a table's line; either may carry a unit of its dimension. Decimal commas become points.
[[nodiscard]] Result<std::pair<double, double>> twoNumbers(std::string_view line, units::Dimension first,
                                                           std::string_view firstUnit, units::Dimension second,
                                                           std::string_view secondUnit);

/// "-40 to 150 °C" or "0-5 V": the unit may stand once, at the end.
[[nodiscard]] Result<std::pair<double, double>> rangeOf(std::string_view text, units::Dimension dimension,
                                                        std::string_view assumedUnit);

/// The unit at the end of a text: "°C" of "-40 to 150 °C".
[[nodiscard]] std::string unitAtEnd(std::string_view text);

/// An id from a name: "Oil thermistor, shop" -> "oil-thermistor-shop", at most 40 characters.
[[nodiscard]] std::string idFrom(std::string_view name);

/// A name of a file in words: "fluid-temperature" -> "fluid temperature".
[[nodiscard]] std::string spaced(std::string_view name);

/// What a kind of sensor measures when nothing else is said.
[[nodiscard]] units::Dimension usualDimension(PartUse kind);

using units::Dimension;

/// A description that is being read, for the lines of one kind of device.
class PartLines
{
  public:
    PartLines(const std::vector<Line>& lines, std::vector<LineComplaint>& complaints)
        : m_lines(lines), m_complaints(complaints)
    {
    }
    void complain(const Line& l, std::string sentence) { m_complaints.push_back({l.number, std::move(sentence)}); }

    template <class T, class Use> void take(const Line& l, const Result<T>& result, Use use)
    {
        if (result)
            use(*result);
        else
            complain(l, result.error().sentence);
    }

    /// Reads one quantity; `to` stays where it cannot be read.
    void quantity(const Line& l, const std::string& typed, Dimension dimension, std::string_view unit, double& to);
    /// Whether it says yes; a complaint where it says neither yes nor no.
    [[nodiscard]] bool yes(const Line& l);
    /// Two values of a list; none, and a complaint, where there are not two.
    [[nodiscard]] std::vector<std::string> two(const Line& l, std::string_view example);
    /// The pairs of numbers in the lines below this one, by rising first.
    [[nodiscard]] std::vector<std::pair<double, double>> tableBelow(const Line& l, Dimension first,
                                                                    std::string_view firstUnit, Dimension second,
                                                                    std::string_view secondUnit);

  private:
    const std::vector<Line>& m_lines;
    std::vector<LineComplaint>& m_complaints;
};

/// Takes a word of an input's line where it is of the sensor inside the unit; whether it is.
[[nodiscard]] bool insideFromWord(PartLines& lines, const Line& line, const std::string& typed,
                                  std::optional<Part>& inside);
/// The same sensor in words.
[[nodiscard]] std::string insideWords(const Part& inside);

/// What was described, once all of it is read: the reader's own checks have the last word, so that what is shown as
/// sound can be kept. Complaints are in the order of their lines.
template <class Described, class Part, class Read> void conclude(Described& described, const Part& part, Read read)
{
    if (described.complaints.empty()) {
        if (auto sound = read(nlohmann::json(fields::toJson(part))))
            described.part = std::move(*sound);
        else
            described.complaints.push_back({0, sound.error().text()});
    }
    std::ranges::stable_sort(described.complaints, {}, &LineComplaint::line);
}

/// Whether the words of an ECU's line describe an output, and which; the same as words, each behind a comma.
[[nodiscard]] bool isOutput(const std::vector<std::string>& words);
[[nodiscard]] EcuOutput outputFromWords(PartLines& lines, const Line& line, const std::vector<std::string>& words);
[[nodiscard]] std::string outputWords(const EcuOutput& output);

/// "a b c" in three.
[[nodiscard]] std::vector<std::string> wordsOf(const std::string& typed);

/// "470k" where that reads back as it was, else in full.
[[nodiscard]] std::string shortOhms(double ohm);
/// "12.5", with the digits of a file.
[[nodiscard]] std::string plainNumber(double v);
/// "tolerance: 2 %" as a line.
[[nodiscard]] std::string percentLine(double share);

/// A table's lines: values in the part's unit, and what belongs to each.
template <class Point>
[[nodiscard]] std::string pointLines(const Part& part, const std::vector<Point>& points, double Point::*output)
{
    std::string out;
    for (const Point& p : points)
        out += plainNumber(units::toUnit(p.value, part.measures, part.unit)) + "\t" + plainNumber(p.*output) + "\n";
    return out;
}

/// How far along its range a sensor is: 0 at the low end, 1 at the high one.
[[nodiscard]] inline double alongRange(const Part& part, double x)
{
    return (x - part.low) / (part.high - part.low);
}

[[nodiscard]] tl::unexpected<Error> outOfRange(std::string pointer, std::string sentence);

/// Values must rise from point to point, and outputs go one way.
template <class Point>
[[nodiscard]] Result<void> checkRising(const std::vector<Point>& points, double Point::*output,
                                       const std::string& pointer, const std::string& name)
{
    for (size_t i = 1; i < points.size(); ++i) {
        const double step = points[i].*output - points[i - 1].*output;
        if (points[i].value <= points[i - 1].value)
            return outOfRange(pointer + "/" + std::to_string(i), phrase("values must rise from point to point"));
        if (step == 0 || (step < 0) != (points[1].*output < points[0].*output))
            return outOfRange(pointer + "/" + std::to_string(i),
                              phrase("the {} must keep falling, or keep rising, from point to point", name));
    }
    return {};
}

} // namespace vicegrip::parts
