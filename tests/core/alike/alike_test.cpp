#include "core/alike/alike.h"

#include <gmock/gmock.h>

namespace vicegrip::alike {
namespace {

using Words = std::set<std::string>;

using testing::UnorderedElementsAre;

TEST(Alike, AbbreviationsOfTheTradeAreSpelledOut)
{
    EXPECT_THAT(wordsOf("CLT"), UnorderedElementsAre("coolant", "temp"));
    EXPECT_THAT(wordsOf("Water temperature"), UnorderedElementsAre("coolant", "temp"));
    EXPECT_THAT(wordsOf("MAP sensor"), UnorderedElementsAre("manifold", "pressure", "sensor"));
    EXPECT_THAT(wordsOf("the, of - and"), UnorderedElementsAre());
}

TEST(Alike, WordsThatWereWrittenTogetherComeApart)
{
    EXPECT_EQ(apart("EngCoolantTemp1_V"), "Eng Coolant Temp 1_V");
    EXPECT_EQ(apart("TPS2"), "TPS 2");
    EXPECT_EQ(apart("ECUVolts"), "ECU Volts");
    EXPECT_EQ(apart("fuel_pressure"), "fuel_pressure");
    EXPECT_EQ(apart(""), "");
}

TEST(Alike, SharedWordsOfAllWords)
{
    EXPECT_DOUBLE_EQ(shared(Words{"coolant", "temp"}, Words{"temp", "coolant"}), 1);
    EXPECT_DOUBLE_EQ(shared(Words{"coolant", "temp"}, Words{"temp"}), 0.5);
    EXPECT_DOUBLE_EQ(shared(Words{"a"}, Words{"b"}), 0);
    EXPECT_DOUBLE_EQ(shared(Words{}, Words{}), 0);
}

} // namespace
} // namespace vicegrip::alike
