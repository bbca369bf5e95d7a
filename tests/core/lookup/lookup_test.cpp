#include "core/lookup/lookup.h"

#include "tests/support/petrel.h"

#include <gmock/gmock.h>
#include <random>

namespace vicegrip::lookup {
namespace {

using testing::HasSubstr;
using testing::IsEmpty;

const Search& petrel()
{
    static const Search kSearch(entriesOf(analysis::analyse(std::make_shared<const job::Job>(test::petrel()))));
    return kSearch;
}

std::string first(std::string_view typed)
{
    const auto found = petrel().find(typed, 1);
    return found.empty() ? std::string() : petrel().entries()[found.front()].text;
}

TEST(Lookup, ACavityIsFoundByItsName)
{
    EXPECT_EQ(first("a7"), "Cavity A7");
    EXPECT_EQ(first("A.7"), "Cavity A7");
    EXPECT_EQ(first("cavity a7"), "Cavity A7");
    EXPECT_EQ(first("plug clt 1"), "Plug CLT 1");
}

TEST(Lookup, AWireIsFoundByItsNameAndItsColours)
{
    EXPECT_EQ(first("w12"), "Wire w12");
    const auto found = petrel().find("wire green white", 50);
    ASSERT_FALSE(found.empty());
    for (const size_t i : found) {
        EXPECT_THAT(petrel().entries()[i].detail, HasSubstr("green"));
        EXPECT_THAT(petrel().entries()[i].detail, HasSubstr("white"));
    }
}

TEST(Lookup, ACircuitIsFoundByWhatPeopleCallIt)
{
    EXPECT_EQ(first("coolant temp"), "Coolant temp");
    EXPECT_EQ(first("cool"), "Coolant temp");
    EXPECT_EQ(first("temp coolant"), "Coolant temp") << "in any order";
    EXPECT_EQ(first("clt"), "Coolant temp") << "its short name";
    EXPECT_EQ(first("gbx"), "Gearbox temp") << "letters of it, in order";
}

TEST(Lookup, PlacesPartsFindingsAndTheLogAreThere)
{
    EXPECT_EQ(first("stud g1"), "Stud G1");
    bool part = false, finding = false, log = false;
    for (const Entry& e : petrel().entries()) {
        part = part || e.kind == Kind::Part;
        finding = finding || e.kind == Kind::Finding;
        log = log || e.kind == Kind::Log;
        EXPECT_FALSE(e.text.empty());
    }
    EXPECT_TRUE(part && finding && log);
}

TEST(Lookup, EveryEntryIsFoundByItsWholeName)
{
    for (size_t i = 0; i < petrel().entries().size(); ++i) {
        const Entry& e = petrel().entries()[i];
        const auto found = petrel().find(e.text, 1);
        ASSERT_FALSE(found.empty()) << e.text;
        EXPECT_EQ(petrel().entries()[found.front()].text, e.text);
    }
}

TEST(Lookup, EveryWordMustBeThere)
{
    EXPECT_THAT(petrel().find("coolant zzz", 10), IsEmpty());
    EXPECT_THAT(petrel().find("zz", 10), IsEmpty());
    EXPECT_THAT(petrel().find("a7", 0), IsEmpty());
}

TEST(Lookup, WhatIsTakenOftenComesFirst)
{
    const auto often = [](const Entry& e) { return e.text == "Oil temp" ? 20 : 0; };
    const auto now = petrel().find("temp", 10, often);
    ASSERT_FALSE(now.empty());
    EXPECT_EQ(petrel().entries()[now.front()].text, "Oil temp");
    const auto exact = petrel().find("coolant temp", 10, often);
    EXPECT_EQ(petrel().entries()[exact.front()].text, "Coolant temp") << "what is meant is worth more";
}

TEST(Lookup, WithoutAWordThereIsWhatIsDoneAndWhatIsTakenOften)
{
    const Search search({{Kind::Wire, "w1", "Wire w1", {}, {}},
                         {Kind::Wire, "w2", "Wire w2", {}, {}},
                         {Kind::Action, "save", "Save", {}, {}}});
    EXPECT_THAT(search.find("  ", 9), testing::ElementsAre(2U));
    EXPECT_THAT(search.find("", 9, [](const Entry& e) { return e.id == "w2" ? 1 : 0; }), testing::ElementsAre(1U, 2U));
}

/// Held against a plain reading of the same rule: a word is in an entry as a part of one of its texts.
TEST(Lookup, FindsWhatAPlainSearchFinds)
{
    std::mt19937 random(7); // NOLINT(bugprone-random-generator-seed)
    const auto lower = [](std::string s) {
        std::erase_if(s, [](char c) { return c == '.' || c == '-'; });
        std::ranges::transform(s, s.begin(), [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
        return s;
    };
    const auto& entries = petrel().entries();
    for (int round = 0; round < 300; ++round) {
        const std::string from = lower(entries[random() % entries.size()].text);
        const size_t at = random() % from.size();
        const std::string typed = from.substr(at, 1 + random() % 2);
        if (typed.find_first_not_of("abcdefghijklmnopqrstuvwxyz0123456789") != std::string::npos)
            continue;
        size_t plain = 0;
        for (const Entry& e : entries)
            plain += lower(e.text + "\n" + e.detail + "\n" + e.also).find(typed) != std::string::npos ? 1 : 0;
        EXPECT_EQ(petrel().find(typed, entries.size()).size(), plain) << typed;
    }
}

TEST(Lookup, HostileWordsEndQuickly)
{
    EXPECT_THAT(petrel().find(std::string(100000, 'a'), 10), IsEmpty());
    std::string many;
    for (int i = 0; i < 20000; ++i)
        many += "a ";
    EXPECT_EQ(petrel().find(many, 10), petrel().find("a", 10)) << "the same word again asks for nothing more";
    EXPECT_THAT(petrel().find("\xff\xfe", 10), IsEmpty());
}

} // namespace
} // namespace vicegrip::lookup
