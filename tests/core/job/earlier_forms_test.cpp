#include "core/analysis/analysis.h"
#include "core/job/json.h"
#include "tests/support/tool.h"

#include <cmath>
#include <filesystem>
#include <gtest/gtest.h>
#include <map>
#include <set>

/// The promise of docs/formats.md: a job that any earlier form of the program wrote is read, and nothing in it is lost.
/// tests/data/earlier holds the demo jobs as they were written when a member was added or got another name.
namespace vicegrip::job {
namespace {

using Json = nlohmann::json;

/// How often each word and number stands in it, whatever it is called; numbers to nine digits.
void count(const Json& value, std::map<std::string, int>& out)
{
    if (value.is_structured()) {
        for (const Json& item : value)
            count(item, out);
    } else if (value.is_string()) {
        ++out[value.get<std::string>()];
    } else if (value.is_number()) {
        char text[32];
        std::snprintf(text, sizeof text, "%.9g", value.get<double>());
        ++out[text];
    }
}

TEST(EarlierForms, AreReadAndLoseNothing)
{
    int read = 0;
    for (const auto& file :
         std::filesystem::directory_iterator(std::string(VICEGRIP_SOURCE_DIR) + "/tests/data/earlier")) {
        const std::string name = file.path().filename().string();
        const test::Said text = test::tool("gzip -dc " + file.path().string());
        ASSERT_EQ(text.code, 0) << name;
        const auto job = job::read(text.out);
        ASSERT_TRUE(job) << name << ": " << job.error().text();
        ++read;
        const std::string written = job::write(*job);
        const auto again = job::read(written);
        ASSERT_TRUE(again) << name << ": " << again.error().text();
        EXPECT_EQ(*again, *job) << name;
        std::map<std::string, int> before, after;
        count(Json::parse(text.out), before);
        count(Json::parse(written), after);
        for (const auto& [what, times] : before)
            EXPECT_GE(after[what], times) << name << ": \"" << what << "\" is lost";
        const auto analysis = analysis::analyse(std::make_shared<const Job>(*job));
        EXPECT_EQ(analysis.networkTrouble, "") << name;
        EXPECT_GT(analysis.circuits.size(), 5U) << name;
        // What was renamed bears only its new name.
        for (const char* old : {"\"knots\"", "\"stops\"", "\"reluctance\"", "\"resistor\":", "\"hands\":"})
            EXPECT_EQ(written.find(old), std::string::npos) << name << ": " << old;
    }
    EXPECT_GE(read, 14);
}

} // namespace
} // namespace vicegrip::job
