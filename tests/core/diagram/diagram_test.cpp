#include "core/diagram/diagram.h"
#include "core/diagram/placing.h"
#include "core/drawn/svg.h"
#include "core/electrics/wiring.h"
#include "tests/support/petrel.h"
#include "tests/support/tool.h"

#include <algorithm>
#include <cmath>
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <regex>

namespace vicegrip {
namespace {

job::Job curlew()
{
    auto job = job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/curlew.vicegrip");
    EXPECT_TRUE(job) << job.error().text();
    return job.value_or(job::Job{});
}

/// What is drawn, read back from the SVG's text alone: lines by what they are about, dots by the place they stand for.
struct ReadBack
{
    using Point = std::pair<double, double>;
    std::map<std::string, std::vector<Point>> lines;
    std::map<Point, std::string> places;

    explicit ReadBack(const std::string& svg)
    {
        const std::regex path(R"re(<path d="([^"]*)"[^>]*data-about="((?:wire|switch|resistor|load) [^"]*)")re");
        for (std::sregex_iterator it(svg.begin(), svg.end(), path), end; it != end; ++it) {
            const std::string d = (*it)[1];
            const std::regex at(R"re([ML]([-0-9.]+) ([-0-9.]+))re");
            for (std::sregex_iterator p(d.begin(), d.end(), at); p != end; ++p)
                lines[(*it)[2]].emplace_back(std::stod((*p)[1]), std::stod((*p)[2]));
        }
        const std::regex dot(R"re(<circle cx="([-0-9.]+)" cy="([-0-9.]+)"[^>]*data-about="place ([^"]*)")re");
        for (std::sregex_iterator it(svg.begin(), svg.end(), dot), end; it != end; ++it)
            places[{std::stod((*it)[1]), std::stod((*it)[2])}] = (*it)[3];
    }
    [[nodiscard]] std::set<std::string> endsOf(const std::string& about) const
    {
        const auto& points = lines.at(about);
        std::set<std::string> out;
        for (const Point& p : {points.front(), points.back()}) {
            const auto at = places.find(p);
            out.insert(at == places.end() ? "nothing" : at->second);
        }
        return out;
    }
};

struct Stretch
{
    std::string about;
    bool upright = false;
    double at = 0, from = 0, to = 0;
};

std::vector<Stretch> stretchesOf(const ReadBack& back)
{
    std::vector<Stretch> out;
    for (const auto& [about, points] : back.lines)
        for (size_t i = 0; i + 1 < points.size(); ++i) {
            const auto [x1, y1] = points[i];
            const auto [x2, y2] = points[i + 1];
            EXPECT_TRUE(x1 == x2 || y1 == y2) << about << " is not level";
            if (x1 == x2)
                out.push_back({about, true, x1, std::min(y1, y2), std::max(y1, y2)});
            else
                out.push_back({about, false, y1, std::min(x1, x2), std::max(x1, x2)});
        }
    return out;
}

/// Two lines on one another are one line to whoever reads them.
void expectApart(const ReadBack& back, const std::string& sheet)
{
    const auto all = stretchesOf(back);
    for (size_t i = 0; i < all.size(); ++i)
        for (size_t j = i + 1; j < all.size(); ++j) {
            const Stretch &a = all[i], &b = all[j];
            if (a.about == b.about || a.upright != b.upright || std::abs(a.at - b.at) > 0.5)
                continue;
            EXPECT_FALSE(a.from < b.to - 1e-6 && b.from < a.to - 1e-6)
                << sheet << ": " << a.about << " and " << b.about << " lie on one another at " << a.at;
        }
}

void expectNetlist(const job::Job& job)
{
    std::map<std::string, std::set<std::string>> due;
    for (const diagram::Link& l : diagram::linksOf(job))
        due[l.about] = {l.from.text(), l.to.text()};
    std::set<std::string> drawn;
    for (const diagram::Sheet& sheet : diagram::sheetsOf(job)) {
        const ReadBack back(drawn::svgOf(diagram::drawnOf(job, sheet)));
        EXPECT_EQ(back.lines.size(), sheet.links.size()) << sheet.name;
        for (const auto& [about, points] : back.lines) {
            EXPECT_EQ(back.endsOf(about), due.at(about)) << sheet.name << ": " << about;
            drawn.insert(about);
        }
        expectApart(back, sheet.name);
    }
    for (const auto& [about, ends] : due)
        EXPECT_TRUE(drawn.contains(about)) << about << " is on no sheet";
}

TEST(Diagram, IsTheJobWhenItIsReadBack)
{
    expectNetlist(test::petrel());
    expectNetlist(curlew());
}

/// Cars that nobody drew: ends of wires are exchanged at random, so that wires go where none should.
TEST(Diagram, IsTheJobWhateverIsWiredToWhat)
{
    job::Job job = test::petrel();
    unsigned seed = 1;
    const auto random = [&](size_t below) {
        seed = seed * 1664525U + 1013904223U;
        return (seed >> 8U) % below;
    };
    for (int round = 0; round < 12; ++round) {
        for (int k = 0; k < 10; ++k)
            std::swap(job.wires[random(job.wires.size())].to, job.wires[random(job.wires.size())].from);
        std::erase_if(job.wires, [](const job::Wire& w) { return w.from == w.to; });
        expectNetlist(job);
    }
}

TEST(Diagram, WiresThatCanRunWithoutCrossingDo)
{
    for (const diagram::Sheet& sheet : diagram::sheetsOf(test::petrel()))
        if (sheet.name.starts_with("power") || sheet.name == "grounds" || sheet.name == "positions") { // trees
            EXPECT_EQ(diagram::place(test::petrel(), sheet).crossings, 0) << sheet.name;
        }
}

void expectWhole(const job::Job& job)
{
    std::map<job::CircuitId, std::set<std::string>> due;
    const auto paths = electrics::Wiring(job).paths();
    for (size_t i = 0; i < paths.size(); ++i)
        for (const electrics::Path& path : paths[i])
            for (const std::string& subject : path.subjects)
                if (!subject.starts_with("contact "))
                    due[job.circuits[i].id].insert(subject);
    std::map<job::CircuitId, int> times;
    for (const diagram::Sheet& sheet : diagram::sheetsOf(job)) {
        std::set<std::string> drawn;
        for (const diagram::Link& l : sheet.links)
            drawn.insert(l.about);
        for (const job::CircuitId& id : sheet.circuits) {
            ++times[id];
            EXPECT_TRUE(std::ranges::includes(drawn, due[id])) << id.value << " is not whole on " << sheet.name;
        }
    }
    for (const auto& [id, links] : due)
        EXPECT_EQ(times[id], links.empty() ? 0 : 1) << id.value;
}

TEST(Diagram, EveryCircuitIsWholeOnOneSheet)
{
    expectWhole(test::petrel());
    expectWhole(curlew());
}

/// So many temperatures that they take several sheets: each is said to be on the sheet that has it.
TEST(Diagram, ACircuitIsOnTheSheetThatHasIt)
{
    job::Job job = test::petrel();
    for (parts::Part& p : job.parts)
        if (!parts::isDriven(p))
            p.kind = parts::PartUse::FluidTemperature;
    expectWhole(job);
    const auto sheets = diagram::sheetsOf(job);
    EXPECT_GT(std::ranges::count_if(sheets, [](const auto& s) { return s.name.starts_with("temperatures-"); }), 1);
}

TEST(Diagram, AJobWithoutWiresHasNoSheets)
{
    EXPECT_TRUE(diagram::sheetsOf(job::Job{}).empty());
}

/// The renderer of librsvg draws it, at its size in mm: 25.4 mm to the inch at 254 dots to it.
TEST(Diagram, AnotherRendererDrawsItAtItsSize)
{
    const auto figures = diagram::drawnOf(test::petrel(), diagram::sheetsOf(test::petrel()));
    const test::Written svg("sheet.svg", drawn::svgOf(figures.front()));
    const test::Written png("sheet.png", "");
    const test::Said drawn = test::tool("rsvg-convert -d 254 -p 254 " + svg.path() + " -o " + png.path());
    ASSERT_EQ(drawn.code, 0) << drawn.out;
    const test::Said size = test::tool("file " + png.path());
    const std::string wide = std::to_string(static_cast<int>(std::ceil(figures.front().width_mm * 10 - 1e-6)));
    EXPECT_THAT(size.out, testing::HasSubstr("PNG image data, " + wide + " x")) << figures.front().width_mm;
}

/// A label that would end the place it stands in: it stays words.
TEST(Diagram, HostileNamesStayWords)
{
    job::Job job = test::petrel();
    job.connectors.front().label = "</text><script>alert(1)</script>&\"'";
    for (const drawn::Figure& figure : diagram::drawnOf(job, diagram::sheetsOf(job))) {
        const std::string svg = drawn::svgOf(figure);
        EXPECT_THAT(svg, testing::Not(testing::HasSubstr("<script")));
    }
}

} // namespace
} // namespace vicegrip
