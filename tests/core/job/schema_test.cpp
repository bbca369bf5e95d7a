#include "core/base/document.h"
#include "core/base/schema_text.h"
#include "core/job/json.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

/// The published schema, taken at its word: whatever it requires is missed with the right pointer, whatever it bounds
/// is refused outside, whatever it does not name is kept.
namespace vicegrip::job {
namespace {

using nlohmann::json;

json schema()
{
    return json::parse(kJobSchema);
}

/// The first document element of each kind of thing, with its schema.
std::vector<std::pair<std::string, json>> places()
{
    const json s = schema();
    const json ecu = s["definitions"]["ecu"];
    std::vector<std::pair<std::string, json>> out{{"", s}, {"/ecu", ecu}, {"/brief", s["properties"]["brief"]}};
    for (const char* list : {"connectors", "joints", "wires", "switches", "devices", "circuits", "proofs"})
        out.emplace_back("/" + std::string(list) + "/0", s["properties"][list]["items"]);
    out.emplace_back("/parts/0", s["definitions"]["part"]);
    out.emplace_back("/ecu/inputs/0", ecu["properties"]["inputs"]["items"]);
    out.emplace_back("/ecu/pins/0", ecu["properties"]["pins"]["items"]);
    return out;
}

TEST(Schema, EveryRequiredMemberIsMissed)
{
    int checked = 0;
    for (const auto& [pointer, itemSchema] : places()) {
        for (const auto& member : itemSchema["required"]) {
            json document = test::petrelJson();
            document[json::json_pointer(pointer)].erase(member.get<std::string>());
            const auto refused = read(document.dump());
            ASSERT_FALSE(refused) << pointer << " without " << member;
            EXPECT_FALSE(refused.error().place.pointer.empty());
            if (member != "vicegrip") {
                EXPECT_THAT(refused.error().text(), testing::HasSubstr(member.get<std::string>())) << pointer;
            }
            ++checked;
        }
    }
    EXPECT_GT(checked, 30);
}

TEST(Schema, EveryMemberOfTheWrongTypeIsRefusedWhereItIs)
{
    int checked = 0;
    for (const auto& [pointer, itemSchema] : places()) {
        for (const auto& [member, memberSchema] : itemSchema["properties"].items()) {
            json document = test::petrelJson();
            const std::string at = pointer + "/" + member;
            if (!document.contains(json::json_pointer(at)))
                continue;
            document[json::json_pointer(at)] =
                document[json::json_pointer(at)].is_array() ? json("x") : json(json::array({1}));
            const auto refused = read(document.dump());
            ASSERT_FALSE(refused) << at;
            ++checked;
            if (member != "vicegrip") {
                EXPECT_TRUE(refused.error().place.pointer.starts_with(at) ||
                            at.starts_with(refused.error().place.pointer))
                    << at << " said at " << refused.error().text();
            }
        }
    }
    EXPECT_GT(checked, 60);
}

TEST(Schema, BoundsAreHeldOnBothSides)
{
    int checked = 0;
    for (const auto& [pointer, itemSchema] : places()) {
        for (const auto& [member, memberSchema] : itemSchema["properties"].items()) {
            const std::string at = pointer + "/" + member;
            if (member == "vicegrip" || !test::petrelJson().contains(json::json_pointer(at)))
                continue;
            for (const auto& [keyword, outside] :
                 {std::pair("minimum", -1.0), {"exclusiveMinimum", 0.0}, {"maximum", 1.0}}) {
                if (!memberSchema.contains(keyword))
                    continue;
                json document = test::petrelJson();
                document[json::json_pointer(at)] = memberSchema[keyword].get<double>() + outside;
                EXPECT_FALSE(read(document.dump())) << at << " beyond its " << keyword;
                ++checked;
            }
        }
    }
    EXPECT_GT(checked, 10);
}

TEST(Schema, ShippedDocumentsFollowIt)
{
    EXPECT_TRUE(document::validate(test::petrelJson(), kJobSchema));
    const auto faults = document::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/faults/petrel.json")
                            .and_then([](const std::string& text) { return document::parse(text); });
    ASSERT_TRUE(faults);
    EXPECT_TRUE(document::validate(*faults, kFaultsSchema));
}

TEST(Schema, LengthsAndCountsAreBounded)
{
    json document = test::petrelJson();
    document["name"] = std::string(500, 'x');
    EXPECT_FALSE(read(document.dump()));
    document = test::petrelJson();
    document["connectors"][0]["cavities"] = json::array();
    for (int i = 0; i < 400; ++i)
        document["connectors"][0]["cavities"].push_back(std::to_string(i));
    EXPECT_FALSE(read(document.dump()));
    document = test::petrelJson();
    document["wires"][0]["colour"] = "bluish";
    EXPECT_FALSE(read(document.dump()));
}

TEST(Document, PointsAtLineAndColumn)
{
    const auto refused = document::parse("{\n  \"a\": 1,\n  \"b\": oops\n}");
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().place.line, 3);
    EXPECT_GE(refused.error().place.column, 8);
    EXPECT_EQ(document::parse("").error().sentence, "the file is empty");
}

TEST(Document, BracketsInTextAreNotDepth)
{
    const std::string text = "{\"a\": \"" + std::string(500, '[') + "\\\"" + std::string(500, '{') + "\"}";
    EXPECT_TRUE(document::parse(text));
}

TEST(ErrorText, PutsThePlaceInFront)
{
    EXPECT_EQ((Error{ErrorCode::Io, "gone", {"a.json", {}, 0, 0}}).text(), "a.json: gone");
    EXPECT_EQ((Error{ErrorCode::Malformed, "bad", {"a.json", {}, 3, 7}}).text(), "a.json:3:7: bad");
    EXPECT_EQ((Error{ErrorCode::Schema, "bad", {"a.json", "/x/0", 0, 0}}).text(), "a.json: /x/0: bad");
    EXPECT_EQ((Error{ErrorCode::Range, "bad", {}}).text(), "bad");
}

} // namespace
} // namespace vicegrip::job
