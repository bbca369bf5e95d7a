#include "core/dbc/dbc.h"

#include <cmath>
#include <gmock/gmock.h>
#include <random>

/// What the frames on a bus mean.
namespace vicegrip::dbc {
namespace {

using testing::HasSubstr;

const char* const kText = R"(VERSION ""

NS_ :
	CM_
	SIG_VALTYPE_
	VAL_

BS_:
BU_: ECU TOOL

BO_ 1280 Inputs: 8 ECU
 SG_ which M : 0|8@1+ (1,0) [0|0] "" TOOL
 SG_ clt m0 : 15|16@0- (0.1,-40) [-40|200] "degC" TOOL
 SG_ map m1 : 16|12@1+ (0.5,0) [0|400] "kPa" TOOL,ECU
 SG_ ratio m2 : 32|32@1- (1,0) [0|0] "" TOOL

BO_ 2566844672 Engine: 8 ECU
 SG_ rpm : 7|16@0+ (0.25,0) [0|16000] "rpm" TOOL
 SG_ all : 16|48@1+ (1,0) [0|0] "" TOOL

CM_ SG_ 1280 clt "coolant; BO_ 1 x: 8 y
BO_ 2 a comment may hold anything";
BA_DEF_ SG_ "Something" INT 0 100;
BA_ "Something" SG_ 1280 clt 4;
SIG_VALTYPE_ 1280 ratio : 1;
VAL_ 1280 which 0 "the \"clt\"" 1 "map" ;
VAL_ 1280 gone 0 "x" ;
)";

ReadDatabase known()
{
    auto out = read(kText);
    EXPECT_TRUE(out) << out.error().text();
    return out.value_or(ReadDatabase{});
}

std::map<std::string, double> decoded(const Message& m, const std::vector<std::uint8_t>& bytes)
{
    std::vector<Value> values;
    decode(m, bytes, values);
    std::map<std::string, double> out;
    for (const Value& v : values)
        out[v.signal->name] = v.value;
    return out;
}

using Values = std::map<std::string, double>;

/// Worked by hand. 0x1234 = 4660, a tenth of it less 40 is 426; 41 20 00 00 is 10 (IEEE 754).
TEST(Dbc, SignalsAreThereByWhatChoosesThem)
{
    const ReadDatabase d = known();
    ASSERT_EQ(d.database.messages().size(), 2U);
    const Message* m = d.database.find(0x500, false);
    ASSERT_NE(m, nullptr);
    EXPECT_EQ(d.database.find(0x500, true), nullptr) << "29 bits are another identifier";
    EXPECT_EQ(decoded(*m, {0, 0x12, 0x34, 0, 0, 0, 0x20, 0x41}), (Values{{"which", 0}, {"clt", 426}}));
    EXPECT_EQ(decoded(*m, {0, 0xFF, 0xFF, 0, 0, 0, 0, 0}), (Values{{"which", 0}, {"clt", -40.1}}));
    EXPECT_EQ(decoded(*m, {1, 0, 0xCD, 0xAB, 0, 0, 0, 0}), (Values{{"which", 1}, {"map", 0xBCD / 2.0}}));
    EXPECT_EQ(decoded(*m, {2, 0, 0, 0, 0, 0, 0x20, 0x41}), (Values{{"which", 2}, {"ratio", 10}}));
    EXPECT_EQ(decoded(*m, {2, 0, 0, 0}), (Values{{"which", 2}})) << "a frame that is too short for the rest";
    EXPECT_EQ(decoded(*m, {}), Values());
    const auto& signals = m->carries;
    EXPECT_EQ(signals[0].names.at(0), "the \"clt\"");
    EXPECT_EQ(signals[1].unit, "degC");
    EXPECT_EQ(signals[1].range, std::pair(-40.0, 200.0));
    EXPECT_FALSE(signals[3].range) << "0 to 0 says nothing";
    const Message* engine = d.database.find(0x18FEF100, true);
    ASSERT_NE(engine, nullptr);
    EXPECT_EQ(decoded(*engine, {0x1F, 0x40, 1, 0, 0, 0, 0, 0x80}), (Values{{"rpm", 2000}, {"all", 0x800000000001}}));
    ASSERT_EQ(d.remarks.size(), 1U);
    EXPECT_THAT(d.remarks[0].text(), HasSubstr("27:6: no message 1280 has a signal gone"));
}

/// Ranges, and what is chosen by what is chosen itself.
TEST(Dbc, MultiplexingMayBeNested)
{
    const auto read = dbc::read(R"(BO_ 100 M: 8 X
 SG_ a M : 0|8@1+ (1,0) [0|0] "" X
 SG_ b m1M : 8|8@1+ (1,0) [0|0] "" X
 SG_ c m3 : 16|8@1+ (1,0) [0|0] "" X
 SG_ d m0 : 16|8@1+ (2,0) [0|0] "" X
SG_MUL_VAL_ 100 b a 1-1;
SG_MUL_VAL_ 100 c b 3-5, 9-9;
SG_MUL_VAL_ 100 d a 0 - 0, 2-4;
)");
    ASSERT_TRUE(read) << read.error().text();
    const Message& m = read->database.messages().front();
    EXPECT_EQ(decoded(m, {1, 4, 7, 0, 0, 0, 0, 0}), (Values{{"a", 1}, {"b", 4}, {"c", 7}}));
    EXPECT_EQ(decoded(m, {1, 9, 7, 0, 0, 0, 0, 0}), (Values{{"a", 1}, {"b", 9}, {"c", 7}}));
    EXPECT_EQ(decoded(m, {1, 6, 7, 0, 0, 0, 0, 0}), (Values{{"a", 1}, {"b", 6}}));
    EXPECT_EQ(decoded(m, {3, 4, 7, 0, 0, 0, 0, 0}), (Values{{"a", 3}, {"d", 14}})) << "c is of b, which is not there";
}

/// A value comes back as near as its steps let it, and no further than its bits go.
TEST(Dbc, WhatIsPutIsReadAgain)
{
    std::mt19937_64 random(5);
    for (int i = 0; i < 20000; ++i) {
        Signal s;
        s.order = random() % 2 == 0 ? ByteOrder::Little : ByteOrder::Big;
        s.bits = 1 + static_cast<int>(random() % 64);
        s.start = static_cast<int>(random() % 128);
        s.coding = random() % 2 == 0 ? Coding::Signed : Coding::Unsigned;
        s.scale = 0.25;
        s.offset = -10;
        std::vector<std::uint8_t> bytes(32, 0xA5);
        const std::uint64_t raw = random() & (s.bits == 64 ? ~0ULL : (1ULL << s.bits) - 1);
        put(s, raw, bytes);
        ASSERT_EQ(rawOf(s, bytes), raw);
        if (s.bits <= 52) {
            EXPECT_EQ(rawFor(s, valueOf(s, raw)), raw);
        }
        EXPECT_EQ(rawFor(s, 1e300), rawFor(s, 1e299)) << "it stays at its end";
        EXPECT_GE(valueOf(s, rawFor(s, 1e300)), valueOf(s, raw));
        EXPECT_LE(valueOf(s, rawFor(s, -1e300)), valueOf(s, raw));
        EXPECT_EQ(rawOf(s, std::span(bytes).first(static_cast<size_t>(s.end() - 1))), std::nullopt);
    }
}

TEST(Dbc, WhatCannotBeIsRefusedAtItsPlace)
{
    const auto refused = [](const std::string& text) {
        const auto out = read(text);
        return out ? std::string() : out.error().text();
    };
    const std::string m = "BO_ 100 M: 2 X\n";
    EXPECT_THAT(refused(m + " SG_ a : 8|9@1+ (1,0) [0|0] \"\" X\n"),
                HasSubstr("2:6: a reaches beyond the 2 bytes of M"));
    EXPECT_THAT(refused(m + " SG_ a : 15|9@0+ (1,0) [0|0] \"\" X\n"), HasSubstr("reaches beyond"));
    EXPECT_THAT(refused(m + " SG_ a : 0|0@1+ (1,0) [0|0] \"\" X\n"), HasSubstr("2:12: a signal has one bit"));
    EXPECT_THAT(refused(m + " SG_ a : 0|65@1+ (1,0) [0|0] \"\" X\n"), HasSubstr("from 0 to 64"));
    EXPECT_THAT(refused(m + " SG_ a : 0|4@2+ (1,0) [0|0] \"\" X\n"), HasSubstr("order of bytes"));
    EXPECT_THAT(refused(m + " SG_ a : 0|4@1 (1,0) [0|0] \"\" X\n"), HasSubstr("has a sign"));
    EXPECT_THAT(refused(m + " SG_ a : 0|4@1+ (0,0) [0|0] \"\" X\n"), HasSubstr("scale of a is 0"));
    EXPECT_THAT(refused(m + " SG_ a : 0|4@1+ (1e999,0) [0|0] \"\" X\n"), HasSubstr("is no number"));
    EXPECT_THAT(refused(m + " SG_ a : 0|4@1+ (1,0) [0|0] X\n"), HasSubstr("the unit"));
    EXPECT_THAT(refused(m + " SG_ a m1 : 0|4@1+ (1,0) [0|0] \"\" X\n"), HasSubstr("no signal of M chooses"));
    EXPECT_THAT(refused(m + " SG_ a mm : 0|4@1+ (1,0) [0|0] \"\" X\n"), HasSubstr("after a signal's name"));
    EXPECT_THAT(refused(m + " SG_ a : 0|4@1+ (1,0) [0|0] \"\" X\n SG_ a : 4|4@1+ (1,0) [0|0] \"\" X\n"),
                HasSubstr("3:6: M has two signals a"));
    EXPECT_THAT(refused(m + m), HasSubstr("2:5: two messages have the identifier 100"));
    EXPECT_THAT(refused("BO_ 3000 M: 2 X\n"), HasSubstr("11 bits"));
    EXPECT_THAT(refused("BO_ 100 M: 65 X\n"), HasSubstr("from 0 to 64"));
    EXPECT_THAT(refused("BO_ 100 M 8 X\n"), HasSubstr("\":\" is missing"));
    EXPECT_THAT(refused("CM_ \"no end"), HasSubstr("a text has no end"));
    EXPECT_THAT(refused(m + " SG_ a : 0|16@1+ (1,0) [0|0] \"\" X\nSIG_VALTYPE_ 100 a : 1;"), HasSubstr("32"));
    EXPECT_EQ(refused("BO_ 100 M: 0 X\n"), "") << "a message may be empty";
    EXPECT_EQ(refused("BO_ 100 M: 64 X\n SG_ a : 511|1@1+ (1,0) [0|0] \"\" X\n"), "");
    EXPECT_EQ(refused(""), "");
    EXPECT_EQ(refused("CM_ \"" + std::string(10 << 20, 'x') + "\";"), "") << "ten megabytes of a comment";
    EXPECT_THAT(refused(std::string(kMostText + 1, ' ')), HasSubstr("B")) << "and no more than is read";
}

/// Signals in the same bits are said, and read; those that are never there at once are not.
TEST(Dbc, SaysWhichSignalsOverlap)
{
    const auto read = dbc::read(R"(BO_ 100 M: 8 X
 SG_ s M : 0|4@1+ (1,0) [0|0] "" X
 SG_ a m0 : 8|8@1+ (1,0) [0|0] "" X
 SG_ b m1 : 8|8@1+ (1,0) [0|0] "" X
 SG_ c m1 : 12|8@1+ (1,0) [0|0] "" X
 SG_ d : 3|2@1+ (1,0) [0|0] "" X
)");
    ASSERT_TRUE(read);
    ASSERT_EQ(read->remarks.size(), 2U);
    EXPECT_THAT(read->remarks[0].text(), HasSubstr("6:6: d and s lie in the same bits of M"));
    EXPECT_THAT(read->remarks[1].text(), HasSubstr("5:6: c and b lie in the same bits of M"));
}

/// Units written in another encoding: 0xB0 is the degree sign of ISO 8859-1.
TEST(Dbc, OtherLettersAreUnderstood)
{
    const auto degrees = [](const std::string& unit) {
        const auto read = dbc::read("BO_ 1 M: 1 X\n SG_ t : 0|8@1+ (1,0) [0|0] \"" + unit + "\" X\n");
        return read ? read->database.messages()[0].carries[0].unit : read.error().text();
    };
    EXPECT_EQ(degrees("\xB0"
                      "C"),
              "°C");
    EXPECT_EQ(degrees("°C"), "°C");
}

/// Cut anywhere, and with bytes exchanged: an error or a database, and never anything else.
TEST(Dbc, SurvivesWhatIsCutAndBroken)
{
    const std::string text = kText;
    for (size_t n = 0; n < text.size(); ++n)
        (void)read(std::string_view(text).substr(0, n));
    std::mt19937 random(4);
    int readable = 0;
    for (int i = 0; i < 20000; ++i) {
        std::string broken = text;
        for (unsigned k = 0; k < 1 + random() % 4; ++k)
            broken[random() % broken.size()] =
                static_cast<char>(random() % 3 == 0 ? random() % 256 : "09|@m;\"- \n"[random() % 10]);
        if (const auto out = read(broken)) {
            ++readable;
            std::vector<std::uint8_t> bytes(random() % 65, static_cast<std::uint8_t>(random()));
            std::vector<Value> values;
            for (const Message& m : out->database.messages())
                decode(m, bytes, values);
        } else {
            EXPECT_GT(out.error().place.line, 0) << out.error().sentence;
        }
    }
    EXPECT_GT(readable, 1000);
}

} // namespace
} // namespace vicegrip::dbc
