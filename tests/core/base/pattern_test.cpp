#include "core/base/pattern.h"

#include "core/base/document.h"
#include "core/base/schema_text.h"
#include "core/job/json.h"
#include "core/parts/library.h"
#include "tests/support/petrel.h"

#include <functional>
#include <gmock/gmock.h>
#include <random>
#include <regex>
#include <set>

namespace vicegrip::document {
namespace {

using nlohmann::json;
using testing::HasSubstr;

/// Every pattern of the published schemas.
std::set<std::string> patterns()
{
    std::set<std::string> out;
    const std::function<void(const json&)> look = [&](const json& node) {
        if (node.is_object() && node.contains("pattern") && node["pattern"].is_string())
            out.insert(node["pattern"].get<std::string>());
        if (node.is_structured())
            for (const json& each : node)
                look(each);
    };
    for (const std::string_view schema :
         {kJobSchema, kPartSchema, kEcuSchema, kConnectorSchema, kTerminalSchema, kFaultsSchema})
        look(json::parse(schema));
    return out;
}

// The standard library's matcher is another engine with the same grammar: on short texts both must agree.
TEST(Patterns, FitWhatTheStandardsMatcherFits)
{
    std::mt19937 random(3); // NOLINT(bugprone-random-generator-seed)
    const std::string letters = "AZaz09+-_./ BU\n\xC3\xA4";
    ASSERT_GE(patterns().size(), 5U);
    int fitting = 0;
    for (const std::string& pattern : patterns()) {
        json schema = {{"type", "string"}, {"pattern", pattern}};
        const Patterns ours(schema);
        EXPECT_FALSE(schema.contains("pattern")) << "taken out";
        const std::regex theirs(pattern);
        for (int i = 0; i < 3000; ++i) {
            std::string text;
            for (auto n = random() % 9; n > 0; --n)
                text += letters[random() % (i % 3 == 0 ? letters.size() : 8)];
            const bool fits = std::regex_search(text, theirs);
            fitting += fits ? 1 : 0;
            EXPECT_EQ(!ours.mismatch(text), fits) << pattern << ": " << text;
        }
    }
    EXPECT_GT(fitting, 3000);
}

TEST(Patterns, SayWhereAndWhatIsWanted)
{
    json schema = json::parse(R"({"definitions": {"id": {"pattern": "^[A-Za-z0-9+_-]+$"}}, "properties": {
        "list": {"items": {"$ref": "#/definitions/id"}}, "a/b": {"pattern": "^x$"},
        "one": {"oneOf": [{"pattern": "^p+$"}, {"pattern": "^q+$"}]}}, "additionalProperties": {"pattern": "^y$"}})");
    const Patterns patterns(schema);
    const auto at = [&](const char* document) {
        const auto found = patterns.mismatch(json::parse(document));
        return found ? found->pointer + " " + found->sentence : std::string();
    };
    EXPECT_EQ(at(R"({"list": ["A7", "B-2"], "a/b": "x", "one": "qq", "other": "y", "n": 4})"), "");
    EXPECT_EQ(at(R"({"list": ["A7", "B 2"]})"), R"(/list/1 "B 2" is not letters, digits, +, - and _ only)");
    EXPECT_THAT(at(R"({"a/b": "z"})"), HasSubstr("/a~1b \"z\" is not"));
    EXPECT_THAT(at(R"({"other": "z"})"), HasSubstr("/other"));
    EXPECT_EQ(at(R"({"one": "pp"})"), "");
    EXPECT_THAT(at(R"({"one": "pq"})"), HasSubstr("/one"));
    EXPECT_LT(at((R"({"a/b": ")" + std::string(5000, 'z') + "\"}").c_str()).size(), 120U) << "no more than is read";
}

TEST(Patterns, AMillionLettersAreRefusedAndNothingElse)
{
    json schema = {{"pattern", "^[A-Za-z0-9+_-]+(\\.[A-Za-z0-9+_-]+)?$"}};
    const Patterns patterns(schema);
    EXPECT_FALSE(patterns.mismatch(std::string(1000000, 'a')));
    EXPECT_TRUE(patterns.mismatch(std::string(1000000, 'a') + " "));
}

/// Every kind of text of a document once, by its pointer without numbers.
std::vector<json::json_pointer> textsOf(const json& document)
{
    std::vector<json::json_pointer> out;
    std::set<std::string> seen;
    const json flat = document.flatten();
    for (const auto& [pointer, value] : flat.items()) {
        // Of a proof's facts, which are many and alike, one will do.
        const std::string kind = std::regex_replace(pointer, std::regex("/[0-9]+|rests_on/.*"), "/#");
        if (value.is_string() && seen.insert(kind).second)
            out.emplace_back(pointer);
    }
    return out;
}

TEST(LongTexts, AreRefusedWhereverTheyStand)
{
    const std::string letters(200000, 'a');
    const json job = test::petrelJson();
    const auto places = textsOf(job);
    EXPECT_GT(places.size(), 60U);
    for (const auto& place : places) {
        json changed = job;
        changed[place] = letters;
        const auto read = job::read(changed.dump());
        // What the schema does not name is kept as it is.
        EXPECT_TRUE(read || read.error().sentence.size() < 400U) << place.to_string();
    }
    // One that is refused says where.
    json id = job;
    id["circuits"][0]["id"] = letters;
    EXPECT_EQ(job::read(id.dump()).error().place.pointer, "/circuits/0/id");
    for (const auto& [schema, folder] : {std::pair(kEcuSchema, "ecus"),
                                         {kPartSchema, "sensors"},
                                         {kConnectorSchema, "connectors"},
                                         {kTerminalSchema, "terminals"}})
        for (const auto& file :
             std::filesystem::directory_iterator(std::string(VICEGRIP_SOURCE_DIR "/data/library/") + folder)) {
            const json part = *parse(*readFile(file.path()));
            ASSERT_TRUE(validate(part, schema)) << file.path();
            for (const auto& place : textsOf(part)) {
                json changed = part;
                changed[place] = letters;
                (void)validate(changed, schema); // it must come back
            }
            break; // one of each kind
        }
    const json sheet = *parse(R"({"faults": [{"kind": "open", "wire": ")" + letters + "\"}]}");
    EXPECT_FALSE(validate(sheet, kFaultsSchema));
}

} // namespace
} // namespace vicegrip::document
