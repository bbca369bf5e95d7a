#include "core/wires/colour.h"

#include <gtest/gtest.h>
#include <set>

namespace vicegrip::wires {
namespace {

/// Whether the letters occur in the word, in that order, the first one first.
bool abbreviates(const std::string& letters, const std::string& word)
{
    size_t at = 0;
    for (char c : word)
        if (at < letters.size() && c == std::tolower(letters[at]))
            ++at;
    return at == letters.size() && word[0] == std::tolower(letters[0]);
}

// IEC 60757 codes a colour by two letters of its English word. That is all of the standard that can be checked here:
// its table is from memory in the code, and a second copy of the same memory would prove nothing.
TEST(Iec60757, EveryCodeIsTwoLettersOfItsOwnWord)
{
    std::set<std::string> codes;
    for (const char* word : {"black", "brown", "red", "orange", "yellow", "green", "blue", "violet", "grey", "white",
                             "pink", "turquoise"}) {
        const auto code = parseColour(word);
        ASSERT_TRUE(code) << word;
        EXPECT_EQ(code->size(), 2u);
        EXPECT_TRUE(abbreviates(*code, word)) << *code;
        EXPECT_TRUE(codes.insert(*code).second) << *code << " twice";
        EXPECT_EQ(colourName(*code), word);
        EXPECT_EQ(parseColour(*code).value(), *code);
        for (const std::string& tracer : codes)
            EXPECT_EQ(parseColour(*code + "-" + tracer).value(), *code + "/" + tracer);
    }
}

} // namespace
} // namespace vicegrip::wires
