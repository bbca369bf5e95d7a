#include "core/review/kept_review.h"

#include "core/book/book.h"
#include "core/book/html.h"
#include "core/compare/compare.h"
#include "core/job/json.h"
#include "core/logbook/logbook.h"
#include "core/packet/packet.h"
#include "core/recheck/recheck.h"
#include "tests/core/review/driven_log.h"
#include "tests/support/cli.h"

#include <gmock/gmock.h>

namespace vicegrip::review {
namespace {

using testing::AllOf;
using testing::HasSubstr;
using testing::IsEmpty;
using testing::Not;

const std::string kLogs = VICEGRIP_SOURCE_DIR "/data/logs/";

struct LoggedDrive
{
    explicit LoggedDrive(const std::string& file)
        : log(log::readLog(kLogs + file).value()),
          meanings(log_columns::meaningsOf(log, test::petrel().job.get())),
          review(review::review(log, meanings, test::petrel()))
    {
    }
    [[nodiscard]] Side side() const { return {log, meanings, review}; }

    log::Log log;
    std::vector<log_columns::Meaning> meanings;
    Review review;
};

/// Petrel with what its older log said.
const job::Job& petrelWithLog()
{
    static const job::Job kJob = [] {
        const LoggedDrive drive("petrel-before.csv");
        job::Job job = *test::petrel().job;
        keep(job, record(test::petrel(), drive.side(), kLogs + "petrel-before.csv", "2026-12-01T10:00:00Z"));
        return job;
    }();
    return kJob;
}

analysis::Analysis analysed(const job::Job& job)
{
    return analysis::analyse(std::make_shared<const job::Job>(job));
}

TEST(KeptReview, HoldsEverySentenceAndIsReadBackAsItWas)
{
    const job::Job& job = petrelWithLog();
    const LoggedDrive drive("petrel-before.csv");
    ASSERT_EQ(job.logReviews.size(), 1U);
    const job::LogReview& kept = job.logReviews.front();
    EXPECT_EQ(kept.log, "petrel-before.csv");
    EXPECT_EQ(kept.rows, 6000);
    EXPECT_NEAR(kept.seconds, 299.95, 0.01);
    ASSERT_EQ(kept.said.size(), drive.review.findings.size());
    for (size_t i = 0; i < kept.said.size(); ++i) {
        EXPECT_EQ(kept.said[i].weight, drive.review.findings[i].weight);
        EXPECT_THAT(kept.said[i].what, HasSubstr(drive.review.findings[i].what));
        EXPECT_EQ(kept.said[i].todo, drive.review.findings[i].todo);
    }
    const auto read = job::read(job::write(job));
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(read->logReviews, job.logReviews);
}

/// A log of a hostile logger: what is kept of it must not make the job unreadable.
TEST(KeptReview, IsReadBackHoweverMuchALogSays)
{
    const LoggedDrive drive("petrel-before.csv");
    Review much;
    for (int i = 0; i < 1500; ++i) {
        Finding& f = much.findings.emplace_back();
        f.what = "x"; // letters of two bytes begin at odd places
        for (int letters = 0; letters < 2500; ++letters)
            f.what += "ä";
        f.todo = f.what;
    }
    job::Job job = *test::petrel().job;
    keep(job, record(test::petrel(), {drive.log, drive.meanings, much}, "much.csv", "2026-12-01T10:00:00Z"));
    const auto read = job::read(job::write(job));
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(read->logReviews, job.logReviews);
    EXPECT_EQ(read->logReviews.front().said.size(), 1000U);
    EXPECT_THAT(read->logReviews.front().said.front().what, testing::EndsWith("ä..."));
}

/// The last word on a log is the one that counts, and a log's folder is nobody's business.
TEST(KeptReview, OneOfEachLogIsKept)
{
    job::Job job = petrelWithLog();
    job::LogReview later = job.logReviews.front();
    later.when = "2026-12-02T10:00:00Z";
    later.said.clear();
    keep(job, later);
    ASSERT_EQ(job.logReviews.size(), 1U);
    EXPECT_EQ(keptOf(job, "/elsewhere/petrel-before.csv")->when, "2026-12-02T10:00:00Z");
    EXPECT_EQ(keptOf(job, "petrel-after.csv"), nullptr);
    EXPECT_EQ(job::saidText(job.logReviews.front()), "nothing against it");
}

TEST(KeptReview, SaysWhatAChangeDidSinceTheOlderLog)
{
    const LoggedDrive before("petrel-before.csv"), after("petrel-after.csv");
    auto kept = record(test::petrel(), after.side(), "petrel-after.csv", "2026-12-01T10:00:00Z");
    const auto changes = compareAll(before.side(), after.side());
    ASSERT_FALSE(changes.empty());
    addChanges(kept, kLogs + "petrel-before.csv", changes);
    for (const Compared& c : changes)
        EXPECT_TRUE(std::ranges::any_of(kept.said, [&](const job::LogSaid& s) {
            return s.what == "Since petrel-before.csv: " + c.verdict;
        })) << c.verdict;
    EXPECT_TRUE(std::ranges::is_sorted(kept.said, {}, &job::LogSaid::weight)) << "the heaviest first";
}

/// Another manifold sensor makes it stale; what the log has no column of does not.
TEST(KeptReview, IsStaleOnceACircuitOfItsColumnsIsOther)
{
    const job::LogReview& kept = petrelWithLog().logReviews.front();
    const auto stale = [&](auto&& change) {
        job::Job job = petrelWithLog();
        change(job);
        return job::changes(kept.restsOn.facts(), job::facts(job));
    };
    EXPECT_THAT(stale([](job::Job&) {}), IsEmpty());
    const auto scaled = [](const char* id) {
        return [id](job::Job& job) {
            std::ranges::find(job.circuits, job::CircuitId{id}, &job::Circuit::id)->scaling.high *= 0.9;
        };
    };
    EXPECT_THAT(stale(scaled("map")), Not(IsEmpty()));
    EXPECT_THAT(stale(scaled("fp")), IsEmpty());
    job::Job other = petrelWithLog();
    scaled("map")(other);
    const std::string html = book::htmlOf(book::bookOf(analysed(other), {book::Chapter::Logs}));
    EXPECT_THAT(html, AllOf(HasSubstr("Stale"), HasSubstr("petrel-before.csv")));
}

TEST(KeptReview, StandsInTheBookThePacketTheLogbookAndTheComparison)
{
    const job::Job& job = petrelWithLog();
    const auto now = analysed(job);
    const std::string html = book::htmlOf(book::bookOf(now, {book::Chapter::Logs}));
    EXPECT_THAT(html, HasSubstr("petrel-before.csv: 2 wrong, 0 to look at"));
    for (const job::LogSaid& s : job.logReviews.front().said)
        EXPECT_THAT(html, HasSubstr(s.what.substr(0, s.what.find('\'')))) << "an apostrophe is written otherwise";
    EXPECT_THAT(html, Not(HasSubstr("Stale")));
    EXPECT_EQ(book::chapterHolds(now, book::Chapter::Logs), "one log");

    const auto packet = packet::packetOf(now, {.habits = {}, .photos = {}, .last = {}}, {});
    ASSERT_TRUE(packet);
    const auto facts = std::ranges::find(packet->files, "facts.json", &packet::File::path);
    ASSERT_NE(facts, packet->files.end());
    const auto logs = nlohmann::json::parse(facts->bytes)["logs"];
    ASSERT_EQ(logs.size(), 1U);
    EXPECT_EQ(logs[0]["said"].size(), job.logReviews.front().said.size());
    EXPECT_EQ(logs[0]["said"][0]["weight"], "wrong");
    EXPECT_TRUE(logs[0]["changed_since"].empty());

    const auto lines = logbook::logbook(job, "petrel-before.csv");
    ASSERT_EQ(lines.size(), 1U);
    EXPECT_EQ(lines.front().what, "Log petrel-before.csv reviewed: 2 wrong, 0 to look at");

    const auto told = compare::differences(test::petrel(), now);
    EXPECT_TRUE(std::ranges::any_of(told, [](const compare::Difference& d) {
        return d.what == "Log petrel-before.csv, reviewed" && d.before.empty() &&
               d.after == "2 wrong, 0 to look at, 2026-12-01T10:00:00Z";
    }));
}

TEST(KeptReview, AnotherSensorAsksForAnotherDrive)
{
    const job::Job& job = petrelWithLog();
    const auto asks = [&](const char* change) {
        return std::ranges::any_of(
            recheck::after(job, job::facts(job), recheck::changeNamed(job, change).value()),
            [](const recheck::Again& a) { return a.what == "Log petrel-before.csv: drive and review it again"; });
    };
    EXPECT_TRUE(asks("sensor map"));
    EXPECT_FALSE(asks("sensor fp"));
}

TEST(KeptReview, TheCommandLineWritesAJobThatKeepsIt)
{
    const vicegrip::test::Written out("kept.vicegrip", "");
    const auto said = vicegrip::test::run("review " + kLogs + "petrel-before.csv " + VICEGRIP_SOURCE_DIR +
                                          "/data/jobs/petrel.vicegrip --out " + out.path());
    EXPECT_EQ(said.code, 1) << "not to be tuned by" << said.out;
    const auto job = job::readFile(out.path());
    ASSERT_TRUE(job) << job.error().text();
    ASSERT_EQ(job->logReviews.size(), 1U);
    EXPECT_EQ(job->logReviews.front().log, "petrel-before.csv");
    EXPECT_EQ(job::saidText(job->logReviews.front()), "2 wrong, 0 to look at");
}

} // namespace
} // namespace vicegrip::review
