#include "core/base/document.h"
#include "core/job/json.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

/// What a file may say of faces, pins and steps, and what is refused, where.
namespace vicegrip::job {
namespace {

using testing::HasSubstr;

nlohmann::json& connector(nlohmann::json& job, const char* id)
{
    for (auto& c : job["connectors"])
        if (c["id"] == id)
            return c;
    ADD_FAILURE() << id;
    return job["connectors"][0];
}

Error refused(const nlohmann::json& job)
{
    const auto read = job::read(job.dump());
    EXPECT_FALSE(read);
    return read ? Error{} : read.error();
}

TEST(PinnedFile, FacesAreCheckedWithTheirConnector)
{
    auto job = test::petrelJson();
    connector(job, "A")["layout"]["rows"][0]["runs"][0]["last"] = 12;
    EXPECT_THAT(refused(job).place.pointer, HasSubstr("/connectors/0/cavities"));
    EXPECT_THAT(refused(job).sentence, HasSubstr("no cavity \"13\""));

    job = test::petrelJson();
    connector(job, "A")["layout"]["rows"][1]["runs"][0]["first"] = 13;
    EXPECT_EQ(refused(job).place.pointer, "/connectors/0/layout/rows/1/runs/0");
    EXPECT_THAT(refused(job).sentence, HasSubstr("cavity 13 is there twice"));

    job = test::petrelJson();
    connector(job, "A")["layout"]["rows"][0]["runs"][0]["terminal"] = "gold";
    EXPECT_THAT(refused(job).sentence, HasSubstr("no terminal family \"gold\""));

    job = test::petrelJson();
    connector(job, "A")["layout"]["terminals"][0]["most_mm2"] = 0.1;
    EXPECT_THAT(refused(job).place.pointer, HasSubstr("/layout/terminals/0/most_mm2"));

    job = test::petrelJson();
    connector(job, "A")["layout"]["rows"] = nlohmann::json::array();
    EXPECT_EQ(refused(job).code, ErrorCode::Schema);
}

TEST(PinnedFile, HugeAndHostileFacesAreRefusedQuickly)
{
    auto job = test::petrelJson();
    connector(job, "A")["layout"]["rows"][0]["runs"][0]["last"] = 2000000000;
    EXPECT_EQ(refused(job).code, ErrorCode::Schema);
    job = test::petrelJson();
    connector(job, "A")["layout"]["rows"][0]["runs"][0]["last"] = 999;
    EXPECT_THAT(refused(job).sentence, testing::AnyOf(HasSubstr("300"), HasSubstr("twice")));
    job = test::petrelJson();
    connector(job, "A")["layout"]["pitch_mm"] = 1e300;
    EXPECT_EQ(refused(job).code, ErrorCode::Schema);
    job = test::petrelJson();
    connector(job, "A")["layout"]["missing"] = {1, 2, 500};
    EXPECT_THAT(refused(job).sentence, HasSubstr("no row has a place 500"));
}

TEST(PinnedFile, APinThatIsNowhereIsRefused)
{
    auto job = test::petrelJson();
    job["pinned"][0]["at"] = "A.99";
    EXPECT_EQ(refused(job).place.pointer, "/pinned/0/at");
    EXPECT_THAT(refused(job).sentence, HasSubstr("no cavity \"99\""));
    job["pinned"][0]["at"] = "Q.1";
    EXPECT_THAT(refused(job).sentence, HasSubstr("no connector or joint"));
    job = test::petrelJson();
    job["pinned"][0]["steps"] = -1;
    EXPECT_EQ(refused(job).code, ErrorCode::Schema);
    job["pinned"][0]["steps"] = "many";
    EXPECT_EQ(refused(job).code, ErrorCode::Schema);
}

TEST(PinnedFile, WhatItDoesNotKnowIsKept)
{
    auto job = test::petrelJson();
    job["pinned"][0]["by"] = "left hand";
    job["hands"]["weather"] = "rain";
    connector(job, "A")["layout"]["colour"] = "grey";
    connector(job, "A")["layout"]["rows"][0]["note"] = "bent";
    connector(job, "A")["layout"]["terminals"][0]["plating"] = "tin";
    const auto read = job::read(job.dump());
    ASSERT_TRUE(read) << read.error().text();
    const auto again = nlohmann::json::parse(job::write(*read));
    EXPECT_EQ(again["pinned"][0]["by"], "left hand");
    EXPECT_EQ(again["hands"]["weather"], "rain");
    auto copy = again;
    EXPECT_EQ(connector(copy, "A")["layout"]["colour"], "grey");
    EXPECT_EQ(connector(copy, "A")["layout"]["rows"][0]["note"], "bent");
    EXPECT_EQ(connector(copy, "A")["layout"]["terminals"][0]["plating"], "tin");
}

TEST(PinnedFile, AJobOfBeforeHasNeitherFacesNorPins)
{
    auto job = test::petrelJson();
    for (auto& c : job["connectors"])
        c.erase("layout");
    job.erase("pinned");
    job.erase("hands");
    for (auto& i : job["ecu"]["inputs"])
        i.erase("set_to");
    const auto read = job::read(job.dump());
    ASSERT_TRUE(read) << read.error().text();
    const auto a = test::analysed(*read);
    for (const char* rule : {"mode-set-otherwise", "pin-wrong", "terminal-wire"})
        for (const findings::Finding& f : a.findings)
            EXPECT_NE(f.rule, rule) << "nothing is known, so nothing is said";
    EXPECT_EQ(a.pins.size(), read->connectors.size());
}

} // namespace
} // namespace vicegrip::job
