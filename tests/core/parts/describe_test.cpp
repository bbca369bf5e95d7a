#include "core/parts/describe.h"
#include "tests/support/library.h"

#include <algorithm>
#include <gmock/gmock.h>
#include <random>

namespace vicegrip::parts {
namespace {

using testing::HasSubstr;

std::string complaints(const std::vector<LineComplaint>& all)
{
    std::string out;
    for (const LineComplaint& c : all)
        out += std::to_string(c.line) + ": " + c.sentence + "\n";
    return out;
}

TEST(DescribeSensor, AThermistorIsReadOffItsSheet)
{
    const auto d = partFromText("name: Oil thermistor of the shop\n"
                                "# from the packet\n"
                                "kind: fluid temperature\n"
                                "range: -40 to 150 °C\n"
                                "pins: 1 signal, 2 ground\n"
                                "tolerance: 3 %\n"
                                "table:\n"
                                "25;1625\n"
                                "-40 °C\t31,8k\n"
                                "150   63.1\n");
    ASSERT_TRUE(d.part) << complaints(d.complaints);
    EXPECT_EQ(d.part->id.value, "oil-thermistor-of-the-shop");
    EXPECT_DOUBLE_EQ(d.part->low, 233.15);
    const auto& t = std::get<Thermistor>(d.part->model);
    EXPECT_DOUBLE_EQ(t.tolerance, 0.03);
    const auto& points = std::get<TableCurve>(t.curve).points;
    ASSERT_EQ(points.size(), 3U);
    EXPECT_DOUBLE_EQ(points[0].ohm, 31800) << "sorted, decimal comma and k understood";
    EXPECT_DOUBLE_EQ(points[2].ohm, 63.1);
}

TEST(DescribeSensor, EveryLineIsComplainedOfWhereItStands)
{
    const auto d = partFromText("name: X\nkind: moon phase\nrange: five to six\npins: 1 signal, 2 earth\n"
                                "colour: blue\nratiometric: 0.5 V\n");
    EXPECT_FALSE(d.part);
    std::vector<int> lines;
    for (const LineComplaint& c : d.complaints)
        lines.push_back(c.line);
    EXPECT_THAT(lines, testing::IsSupersetOf({2, 3, 4, 5, 6})) << complaints(d.complaints);
    EXPECT_THAT(complaints(d.complaints), testing::AllOf(HasSubstr("manifold pressure"),
                                                         HasSubstr("1 signal, 2 ground"), HasSubstr("0.5 V, 4.5 V")));
    EXPECT_THAT(complaints(partFromText("").complaints), HasSubstr("no name"));
}

TEST(DescribeSensor, WhatMakesNoSenseIsSaidByTheReadersOwnChecks)
{
    const auto twisted = partFromText("name: X\nkind: air temperature\nrange: 0 to 50 °C\npins: 1 signal, 2 ground\n"
                                      "table:\n0 1000\n25 500\n50 700\n");
    EXPECT_THAT(complaints(twisted.complaints), HasSubstr("keep falling"));
    const auto backwards =
        partFromText("name: X\nkind: throttle\nrange: 100 to 0 %\npins: 1 signal, 2 ground, 3 supply\ntrack: 10k\n");
    EXPECT_THAT(complaints(backwards.complaints), HasSubstr("range is empty"));
    const auto two = partFromText("name: X\nkind: throttle\nrange: 0 to 100 %\npins: 1 signal, 2 ground, 3 supply\n"
                                  "track: 10k\nvolts: 0 V, 5 V\n");
    EXPECT_THAT(complaints(two.complaints), HasSubstr("something else already"));
}

TEST(DescribeSensor, EveryShippedOneGoesToLinesAndBack)
{
    for (const Part& s : test::library().parts) {
        const auto back = partFromText(textOf(s));
        ASSERT_TRUE(back.part) << s.name << "\n" << textOf(s) << complaints(back.complaints);
        EXPECT_EQ(textOf(*back.part), textOf(s));
        EXPECT_EQ(back.part->id, s.id);
        EXPECT_EQ(back.part->pins, s.pins);
        EXPECT_EQ(back.part->model.index(), s.model.index()) << s.name;
        EXPECT_NEAR(back.part->high, s.high, 1e-6 * std::abs(s.high));
    }
}

constexpr const char* kShop = "name: Shop unit, revision C\n"
                              "supply: 5 V, 200 mA\n"
                              "plug A: 1-26\n"
                              "feed: A1\n"
                              "ground: A2, A3\n"
                              "sensor supply: A4\n"
                              "sensor ground: A10\n"
                              "AN1: A5, analog, 0-5 V, 12 bits, pull-up 1k 2k49\n"
                              "AN2: A6, analog, switch, absolute, pull-up 2k2 always\n"
                              "DG1: A12, frequency to 15 kHz, coil, for crank, named Crank\n";

TEST(DescribeEcu, AUnitIsReadOffItsSheet)
{
    const auto d = ecuFromText(kShop);
    ASSERT_TRUE(d.part) << complaints(d.complaints);
    const Ecu& e = d.part->ecu;
    EXPECT_EQ(d.part->id.value, "shop-unit-revision-c");
    EXPECT_EQ(e.supply.limit_a, 0.2);
    EXPECT_EQ(d.part->plugs[0].cavities.size(), 26U);
    ASSERT_EQ(e.inputs.size(), 3U);
    EXPECT_EQ(e.inputs[0].pullUpChoices_ohm, (std::vector<double>{1000, 2490}));
    EXPECT_FALSE(e.inputs[0].pull_up_ohm);
    EXPECT_TRUE(e.inputs[1].pullUpFixed);
    EXPECT_EQ(e.inputs[1].pull_up_ohm, 2200);
    EXPECT_EQ(e.inputs[2].most_hz, 15e3);
    EXPECT_TRUE(e.inputs[2].variableReluctance);
    EXPECT_EQ(e.inputs[2].functions, std::vector<std::string>{"crank"});
    EXPECT_EQ(e.pins.size(), 8U);
}

TEST(DescribeEcu, DuplicatePinsAndImpossibleSpansAreSaid)
{
    const std::string shop = kShop;
    EXPECT_THAT(complaints(ecuFromText(shop + "AN3: A5, analog\n").complaints), HasSubstr("two uses"));
    EXPECT_THAT(complaints(ecuFromText(shop + "AN1: A7, analog\n").complaints), HasSubstr("twice"));
    EXPECT_THAT(complaints(ecuFromText(shop + "AN3: A99, analog\n").complaints), HasSubstr("11: "));
    EXPECT_THAT(complaints(ecuFromText(shop + "AN3: A7, analog, 0-50 V\n").complaints), HasSubstr("withstands"));
    EXPECT_THAT(complaints(ecuFromText(shop + "AN3: A7, wibbly\n").complaints), HasSubstr("wibbly"));
    EXPECT_THAT(complaints(ecuFromText(shop + "AN3: A7, frequency to often\n").complaints), HasSubstr("frequency"));
    EXPECT_THAT(complaints(ecuFromText(shop + "just words\n").complaints), HasSubstr("key: value"));
    EXPECT_THAT(complaints(ecuFromText("").complaints), HasSubstr("no plug"));
}

TEST(DescribeEcu, EveryShippedOneGoesToLinesAndBack)
{
    for (const EcuProfile& p : test::library().ecus) {
        const auto back = ecuFromText(textOf(p));
        ASSERT_TRUE(back.part) << p.name << "\n" << textOf(p) << complaints(back.complaints);
        EXPECT_EQ(textOf(*back.part), textOf(p));
        ASSERT_EQ(back.part->ecu.inputs.size(), p.ecu.inputs.size());
        for (size_t i = 0; i < p.ecu.inputs.size(); ++i) {
            EXPECT_EQ(back.part->ecu.inputs[i].modes, p.ecu.inputs[i].modes) << p.name;
            EXPECT_EQ(back.part->ecu.inputs[i].pull_up_ohm, p.ecu.inputs[i].pull_up_ohm) << p.name;
        }
        EXPECT_EQ(back.part->ecu.pins.size(), p.ecu.pins.size());
    }
}

/// Nothing that is pasted brings the readers down, and nothing wrong goes unsaid.
TEST(DescribeEcu, OhmsAreWrittenAsPeopleWriteThem)
{
    const std::string text = textOf(test::ecu("small-4"));
    EXPECT_THAT(text, testing::HasSubstr("pull-down 470k"));
    EXPECT_THAT(text, testing::HasSubstr("pull-up 4k7"));
    EXPECT_THAT(text, testing::Not(testing::HasSubstr("e+")));
    EcuProfile odd = test::ecu("small-4");
    odd.ecu.inputs.front().pull_down_ohm = 123456.789012345;
    const auto back = ecuFromText(textOf(odd));
    ASSERT_TRUE(back.part);
    EXPECT_EQ(back.part->ecu.inputs.front().pull_down_ohm, 123456.789012345) << "and none is rounded for it";
}

TEST(DescribeSensor, AConditionerIsSaid)
{
    const auto read = partFromText("name: Box\nkind: crank trigger\nrange: 0 to 10 kHz\nfeed: battery\n"
                                   "pins: 1 supply, 2 signal, 3 ground\nconditioner: yes\nhertz: 0 Hz, 10000 Hz\n");
    ASSERT_TRUE(read.part) << read.complaints.front().sentence;
    EXPECT_TRUE(read.part->conditioned);
    EXPECT_THAT(textOf(*read.part), testing::HasSubstr("conditioner: yes"));
    const auto odd = partFromText("name: Box\nkind: crank trigger\nrange: 0 to 10 kHz\nconditioner: perhaps\n"
                                  "pins: 1 supply, 2 signal, 3 ground\nhertz: 0 Hz, 10000 Hz\n");
    ASSERT_FALSE(odd.complaints.empty());
    EXPECT_EQ(odd.complaints.front().line, 4);
    EXPECT_THAT(odd.complaints.front().sentence, testing::HasSubstr("yes or no"));
}

TEST(DescribeSensor, AThermistorInLiquidIsWarmedLessThanOneInAir)
{
    const auto of = [](const char* kind) {
        const auto read = partFromText(std::string("name: T\nkind: ") + kind +
                                       "\nrange: -40 to 150 C\npins: 1 signal, 2 ground\nbeta: 2200 ohm, 3500 K\n");
        EXPECT_TRUE(read.part);
        return std::get<Thermistor>(read.part->model).dissipation_w_per_k;
    };
    EXPECT_GT(of("fluid temperature"), 5 * of("air temperature"));
}

/// Lines of shipped parts with pieces cut, doubled and swapped: a part that makes sense, or a complaint with its line.
TEST(Describe, DamagedLinesAreUnderstoodOrComplainedOf)
{
    std::mt19937 random(8); // NOLINT(bugprone-random-generator-seed)
    std::vector<std::string> texts;
    for (const Layout& l : test::library().layouts)
        texts.push_back(textOf(l));
    int understood = 0;
    for (int round = 0; round < 600; ++round) {
        std::string text = texts[random() % texts.size()];
        for (unsigned damage = 0; damage < 1 + random() % 3; ++damage) {
            const size_t at = random() % text.size(), length = 1 + random() % 6;
            if (random() % 2 == 0)
                text.erase(at, length);
            else
                text.insert(at, text.substr(random() % text.size(), length));
            if (text.empty())
                text = ":";
        }
        const auto read = layoutFromText(text, test::library().terminals);
        EXPECT_EQ(read.part.has_value(), read.complaints.empty()) << text;
        understood += read.part ? 1 : 0;
        if (read.part) {
            EXPECT_TRUE(checkLayout(*read.part)) << text;
        }
        const int lines = static_cast<int>(std::ranges::count(text, '\n')) + 1;
        for (const LineComplaint& c : read.complaints) {
            EXPECT_FALSE(c.sentence.empty()) << text;
            EXPECT_LE(c.line, lines) << text;
        }
    }
    EXPECT_GT(understood, 10) << "damage to a name does no harm";
}

TEST(Describe, GarbageIsComplainedOf)
{
    std::mt19937 random(3); // NOLINT(bugprone-random-generator-seed)
    const std::string whole = std::string(kShop) + "table:\n1 2\nrange: -40 to 150 °C\nbeta: 2k2, 3500 K\n";
    for (int round = 0; round < 2000; ++round) {
        std::string text = whole;
        for (int hits = 0; hits < 4; ++hits) {
            const size_t at = random() % text.size();
            switch (random() % 3) {
            case 0:
                text[at] = static_cast<char>(random() % 256);
                break;
            case 1:
                text.erase(at, random() % 20);
                break;
            default:
                text.insert(at, text.substr(random() % text.size(), random() % 30));
            }
        }
        const auto ecu = ecuFromText(text);
        EXPECT_NE(ecu.part.has_value(), !ecu.complaints.empty());
        const auto sensor = partFromText(text);
        EXPECT_NE(sensor.part.has_value(), !sensor.complaints.empty());
    }
}

} // namespace
} // namespace vicegrip::parts
