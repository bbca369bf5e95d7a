#include "core/help/help.h"

#include "core/analysis/analysis.h"
#include "core/fuel/flex.h"
#include "core/units/units.h"

#include <algorithm>
#include <fstream>
#include <gmock/gmock.h>

namespace vicegrip::help {
namespace {

using testing::HasSubstr;
namespace fs = std::filesystem;

const fs::path kShipped = fs::path(VICEGRIP_SOURCE_DIR) / "data/help";

std::string small(std::string text)
{
    std::ranges::transform(text, text.begin(), [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    return text;
}

TEST(Help, EveryStageHasItsText)
{
    for (int i = 0; i < analysis::kStageCount; ++i) {
        const std::string stage = small(std::string(analysis::stageName(static_cast<analysis::Stage>(i))));
        const auto help = helpOn(kShipped, stage);
        ASSERT_TRUE(help) << help.error().text();
        EXPECT_GT(help->text.size(), 60U) << stage;
    }
    EXPECT_TRUE(helpOn(kShipped, "first"));
}

TEST(Help, AViewWithoutATextHasItsStages)
{
    const auto wires = helpOn(kShipped, "pins-wires");
    ASSERT_TRUE(wires);
    EXPECT_THAT(wires->text, HasSubstr("as it is cut"));
    EXPECT_EQ(helpOn(kShipped, "pins-plug")->text, helpOn(kShipped, "pins")->text);
    EXPECT_FALSE(helpOn(kShipped, "nowhere-at-all"));
}

/// What the help says of a number is what is reckoned with.
TEST(Help, NumbersAreThoseOfTheCode)
{
    const auto has = [](const char* view, double number, const char* unit) {
        const auto help = helpOn(kShipped, view);
        return help && std::ranges::any_of(help->sources, [&](const std::string& s) {
                   return s.find(" " + units::formatIn(number, units::Dimension::Frequency, unit, 0)) !=
                              std::string::npos ||
                          s.starts_with(units::formatIn(number, units::Dimension::Frequency, unit, 0));
               });
    };
    EXPECT_TRUE(has("scale-fuel", fuel::kNoEthanol_hz, "Hz"));
    EXPECT_TRUE(has("scale-fuel", fuel::kAllEthanol_hz, "Hz"));
    EXPECT_TRUE(has("scale-fuel", fuel::kFailed_hz, "Hz"));
}

TEST(Help, SourcesAreApartFromTheText)
{
    const auto wires = helpOn(kShipped, "pins-wires");
    ASSERT_TRUE(wires);
    EXPECT_THAT(wires->text, testing::Not(HasSubstr("Sources")));
    EXPECT_THAT(wires->sources, testing::Contains("wire gauges: ASTM B258"));
    EXPECT_THAT(wires->sources, testing::SizeIs(7));
    EXPECT_TRUE(helpOn(kShipped, "board")->sources.empty());
    for (const auto& file : fs::directory_iterator(kShipped)) { // each says what, and where from
        const auto help = helpOn(kShipped, file.path().stem().string());
        ASSERT_TRUE(help) << file.path();
        for (const std::string& source : help->sources)
            EXPECT_THAT(source, HasSubstr(": ")) << file.path();
    }
}

TEST(Help, WhatIsSetInBoldIsInTheGlossary)
{
    const auto terms = readGlossary(kShipped);
    ASSERT_TRUE(terms);
    for (const auto& file : fs::directory_iterator(kShipped)) {
        const auto help = helpOn(kShipped, file.path().stem().string());
        ASSERT_TRUE(help) << help.error().text();
        for (size_t at = help->text.find("**"); at != std::string::npos;) {
            const size_t end = help->text.find("**", at + 2);
            ASSERT_NE(end, std::string::npos) << file.path();
            const std::string bold = small(help->text.substr(at + 2, end - at - 2));
            const bool stage = bold == "pins" || bold == "meter" || bold == "scale";
            EXPECT_TRUE(stage || std::ranges::any_of(*terms,
                                                     [&](const Term& t) {
                                                         return bold == small(t.term) || bold == small(t.term) + "s";
                                                     }))
                << bold;
            at = help->text.find("**", end + 2);
        }
    }
}

TEST(Help, SaysTheTermsItSpeaksOf)
{
    const auto help = helpOn(kShipped, "pins");
    ASSERT_TRUE(help);
    const auto has = [&](const char* term) {
        return std::ranges::find(help->terms, term, &Term::term) != help->terms.end();
    };
    EXPECT_TRUE(has("cavity"));
    EXPECT_TRUE(has("mating face"));
    EXPECT_TRUE(has("harness"));
    EXPECT_FALSE(has("run-out"));
    EXPECT_FALSE(has("sync"));
}

TEST(Help, TheGlossaryIsInOrderAndSaysEachTermOnce)
{
    const auto terms = readGlossary(kShipped);
    ASSERT_TRUE(terms);
    EXPECT_GE(terms->size(), 30U);
    for (size_t i = 1; i < terms->size(); ++i)
        EXPECT_LT((*terms)[i - 1].term, (*terms)[i].term);
}

TEST(Help, WhatIsMissingOrBrokenIsSaidWithItsFile)
{
    const auto none = helpOn(kShipped, "nothing");
    ASSERT_FALSE(none);
    EXPECT_THAT(none.error().text(), HasSubstr("nothing.md"));
    const fs::path folder = fs::path(testing::TempDir()) / "vicegrip-help";
    fs::create_directories(folder);
    std::ofstream(folder / "a.md") << "text\n";
    std::ofstream(folder / "glossary.md") << "word: meaning\n\nno meaning here\n";
    const auto broken = helpOn(folder, "a");
    ASSERT_FALSE(broken);
    EXPECT_THAT(broken.error().text(), HasSubstr("line 3"));
    EXPECT_THAT(broken.error().text(), HasSubstr("glossary.md"));
    fs::remove_all(folder);
}

} // namespace
} // namespace vicegrip::help
