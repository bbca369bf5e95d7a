#include "core/harness/colour.h"

#include <array>
#include <gtest/gtest.h>
#include <utility>

namespace vicegrip::harness {
namespace {

/// IEC 60757:2021, table 1: letter codes of colours (from memory; gold and silver are no colours of insulation here).
constexpr std::array<std::pair<const char*, const char*>, 12> kStandard = {{{"BK", "black"},
                                                                            {"BN", "brown"},
                                                                            {"RD", "red"},
                                                                            {"OG", "orange"},
                                                                            {"YE", "yellow"},
                                                                            {"GN", "green"},
                                                                            {"BU", "blue"},
                                                                            {"VT", "violet"},
                                                                            {"GY", "grey"},
                                                                            {"WH", "white"},
                                                                            {"PK", "pink"},
                                                                            {"TQ", "turquoise"}}};

TEST(Iec60757, LettersAndWordsAreTheStandards)
{
    for (const auto& [letters, word] : kStandard) {
        EXPECT_EQ(colourName(letters), word);
        EXPECT_EQ(parseColour(letters).value(), letters);
        EXPECT_EQ(parseColour(word).value(), letters);
        for (const auto& [tracer, ignored] : kStandard)
            EXPECT_EQ(parseColour(std::string(letters) + "-" + tracer).value(), std::string(letters) + "/" + tracer);
    }
}

} // namespace
} // namespace vicegrip::harness
