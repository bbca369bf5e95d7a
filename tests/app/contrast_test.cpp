#include "app/look/look.h"

#include <QApplication>

#include <algorithm>
#include <cmath>
#include <gtest/gtest.h>

/// WCAG 2.1: relative luminance and contrast ratio by its formula; 1.4.3 asks 4.5 to 1 of text, 1.4.11 asks 3 to 1 of
/// what tells a control, its state or its focus.
namespace vicegrip::app::look {
namespace {

double luminance(const QColor& c)
{
    const auto linear = [](double v) { return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
    return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF());
}

double contrast(const QColor& a, const QColor& b)
{
    const auto [low, high] = std::minmax({luminance(a), luminance(b)});
    return (high + 0.05) / (low + 0.05);
}

/// Examples published with the formula: black on white is 21, #767676 on white is the lightest grey that passes 4.5.
TEST(Contrast, TheFormulaIsTheStandards)
{
    EXPECT_NEAR(contrast(Qt::black, Qt::white), 21, 1e-9);
    EXPECT_NEAR(contrast(QColor("#767676"), Qt::white), 4.54, 0.005);
    EXPECT_LT(contrast(QColor("#777777"), Qt::white), 4.5);
}

class EitherSheet : public testing::TestWithParam<bool>
{
  protected:
    void SetUp() override { apply(*qApp, GetParam()); }
    void TearDown() override { apply(*qApp, false); }

    static void expect(const char* what, const QColor& ink, const QColor& on, double least)
    {
        EXPECT_GE(contrast(ink, on), least)
            << what << ": " << ink.name().toStdString() << " on " << on.name().toStdString();
    }
};

TEST_P(EitherSheet, TextIsReadOnEverythingItStandsOn)
{
    constexpr double kText = 4.5;
    const Colours& c = colours();
    const std::pair<const char*, QColor> inks[] = {{"ink", c.ink},   {"soft ink", c.inkSoft}, {"accent", c.accent},
                                                   {"done", c.done}, {"failing", c.failing},  {"stale", c.stale}};
    for (const auto& [name, ink] : inks)
        for (const QColor& paper : {c.paper, c.card, c.list, c.selected})
            expect(name, ink, paper, kText);
    for (const QColor& ink : {c.ink, c.inkSoft})
        expect("in the rail", ink, c.rail, kText);
    expect("in the header", c.bandInk, c.band, kText);
    expect("on the next step", c.accentInk, c.accent, kText);
    expect("in a caution", c.ink, c.caution, kText);
    for (const QColor& ink : {c.ink, c.failing})
        expect("on what fails", ink, c.failingFill, kText);
    for (const QColor& ink : {c.ink, c.stale})
        expect("on what is stale", ink, c.staleFill, kText);
}

TEST_P(EitherSheet, EdgesAndFocusAreSeen)
{
    constexpr double kEdge = 3;
    const Colours& c = colours();
    for (const QColor& paper : {c.paper, c.card, c.list, c.selected}) {
        expect("the edge of a field", c.inkSoft, paper, kEdge);
        expect("focus", c.accent, paper, kEdge);
        expect("what is wrong", c.failing, paper, kEdge);
    }
    expect("a stage's mark in the rail", c.accent, c.rail, kEdge);
    expect("the edge of a button in the header", c.bandLine, c.band,
           1.4); // its words tell it, 1.4.11 asks nothing of it
}

/// Wires are drawn in their own colours, with a rim: it is the rim that is seen on either sheet.
TEST_P(EitherSheet, AWiresRimIsSeen)
{
    expect("rim", colours().inkSoft, colours().paper, 3);
    expect("rim in the strip", colours().inkSoft, colours().list, 3);
}

TEST_P(EitherSheet, ThePaletteIsTheSheets)
{
    const QPalette p = QApplication::palette();
    expect("text", p.color(QPalette::Text), p.color(QPalette::Base), 4.5);
    expect("buttons", p.color(QPalette::ButtonText), p.color(QPalette::Button), 4.5);
    expect("what is chosen", p.color(QPalette::HighlightedText), p.color(QPalette::Highlight), 4.5);
    expect("tips", p.color(QPalette::ToolTipText), p.color(QPalette::ToolTipBase), 4.5);
    expect("hints", p.color(QPalette::PlaceholderText), p.color(QPalette::Base), 4.5);
    expect("links", p.color(QPalette::Link), p.color(QPalette::Window), 4.5);
}

INSTANTIATE_TEST_SUITE_P(Sheets, EitherSheet, testing::Bool(),
                         [](const auto& sheet) { return sheet.param ? "Night" : "Day"; });

} // namespace
} // namespace vicegrip::app::look
