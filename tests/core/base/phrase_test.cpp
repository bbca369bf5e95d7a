#include "core/base/phrase.h"

#include <gmock/gmock.h>

namespace vicegrip {
namespace {

/// Another language, while this lives.
struct Speaking
{
    explicit Speaking(const char* words)
    {
        setTranslate([words](std::string_view) { return std::string(words); });
    }
    ~Speaking() { setTranslate({}); }
};

TEST(Phrase, PutsArgumentsInTheirPlaces)
{
    EXPECT_EQ(phrase("Measure it again."), "Measure it again.");
    EXPECT_EQ(phrase("{} is within {}", "2.5 V", std::string("2.4 to 2.6 V")), "2.5 V is within 2.4 to 2.6 V");
    EXPECT_EQ(phrase("{}{}", "", "B"), "B");
    EXPECT_EQ(phrase("a {{brace}} and {}", "one"), "a {brace} and one");
}

TEST(Phrase, WhatIsPutInIsNotReadAgain)
{
    EXPECT_EQ(phrase("{} and {}", "{}", "{1}"), "{} and {1}");
}

TEST(Phrase, ATranslationMayTurnThemRound)
{
    const Speaking german("Bis {1} reicht es von {0}");
    EXPECT_EQ(phrase("from {} to {}", "A", "B"), "Bis B reicht es von A");
}

TEST(Phrase, ATranslationThatDoesNotFitIsNotUsed)
{
    for (const char* wrong : {"{} {} {}", "{2}", "{", "}", "{x}", "{12}", "{0", "{:d}"}) {
        const Speaking language(wrong);
        EXPECT_EQ(phrase("from {} to {}", "A", "B"), "from A to B") << wrong;
    }
}

TEST(Phrase, WithoutArgumentsBracesAreBraces)
{
    EXPECT_EQ(phrase("{}"), "{}");
}

TEST(Phrase, AKeyThatLacksAnArgumentIsSaidAsItIs)
{
    EXPECT_EQ(phrase("{} and {}", "one"), "{} and {}");
}

} // namespace
} // namespace vicegrip
