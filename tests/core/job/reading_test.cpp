#include "core/job/json.h"
#include "core/logbook/logbook.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

namespace vicegrip::job {
namespace {

using units::Dimension;

TEST(Reading, OpenIsMoreThanAnyOhmAndAnOverloadComparesWithNothing)
{
    const Reading open = Reading::beyond(Dimension::Resistance, Condition::BatteryOff);
    const Reading over = Reading::beyond(Dimension::Voltage, Condition::KeyOn);
    EXPECT_TRUE(open.isOpen() && !open.isOverload() && !open.quantity());
    EXPECT_TRUE(over.isOverload() && !over.isOpen() && !over.quantity());
    EXPECT_GT(open.si(), 1e300);
    EXPECT_FALSE(over.si() >= -1e300);
    EXPECT_FALSE(over.si() <= 1e300);
    EXPECT_EQ(over, over) << "kept and read back it is the same reading";
    EXPECT_NE(open, Reading::of(1e9, Dimension::Resistance, Condition::BatteryOff));
}

TEST(Reading, IsShownInItsOwnUnitWhateverIsAskedFor)
{
    const auto text = [](double si, Dimension d, const char* unit) {
        return readingText(Reading::of(si, d, Condition::KeyOn), unit);
    };
    EXPECT_EQ(text(2.52, Dimension::Voltage, "V"), "2.520 V");
    EXPECT_EQ(text(358.15, Dimension::Temperature, "kPa"), "85.0 °C") << "a sensor of pressure has been fitted since";
    EXPECT_EQ(text(50, Dimension::Frequency, "%"), "50.0 Hz");
    EXPECT_EQ(text(99.94, Dimension::Resistance, ""), "99.94 Ω");
    EXPECT_EQ(text(2490, Dimension::Resistance, ""), "2.490 kΩ");
    EXPECT_EQ(text(2.2e6, Dimension::Resistance, ""), "2.200 MΩ");
    EXPECT_EQ(readingText(Reading::beyond(Dimension::Resistance, Condition::BatteryOff), "Ω"), "open");
    EXPECT_EQ(readingText(Reading::beyond(Dimension::Voltage, Condition::KeyOn), "V"), "overload");
}

/// A job with a proof of each kind of reading.
Job jobWith(const Reading& reading, double expected, double low, double high)
{
    Job job = test::petrel();
    job.proofs = {{{"clt"}, "A.7", reading, expected, low, high, ReadingSource::Meter, "2026-01-02T03:04:05Z", {}, {}}};
    job.proofs[0].extra = nlohmann::json::object();
    return job;
}

TEST(Reading, EveryKindComesBackFromTheFile)
{
    constexpr double kOpen = std::numeric_limits<double>::infinity();
    const Reading readings[] = {Reading::of(2480, Dimension::Resistance, Condition::BatteryOff),
                                Reading::of(30e6, Dimension::Resistance, Condition::BatteryOff),
                                Reading::beyond(Dimension::Resistance, Condition::BatteryOff),
                                Reading::beyond(Dimension::Voltage, Condition::KeyOn),
                                Reading::of(-0.02, Dimension::Voltage, Condition::KeyOn),
                                Reading::of(293.15, Dimension::Temperature, Condition::KeyOn)};
    for (const Reading& r : readings) {
        const Job job = jobWith(r, kOpen, kMost_ohm, kOpen);
        const auto back = read(write(job));
        ASSERT_TRUE(back) << back.error().text();
        EXPECT_EQ(back->proofs, job.proofs) << readingText(r, "");
    }
    EXPECT_THAT(write(jobWith(readings[2], kOpen, kMost_ohm, kOpen)), testing::HasSubstr(R"("value": "open")"));
    EXPECT_TRUE(jobWith(readings[1], kOpen, kMost_ohm, kOpen).proofs[0].passes()) << "a meter that reads so far";
    EXPECT_FALSE(jobWith(readings[3], 2.5, 2.4, 2.6).proofs[0].passes());
}

/// 1e9 Ohm stood for open, and nothing said what was measured.
TEST(Reading, OfAnOlderFileIsUnderstood)
{
    Job job = jobWith(Reading::of(1e9, Dimension::Resistance, Condition::BatteryOff), 1e9, 20e6, 1e9);
    job.proofs.push_back(job.proofs[0]);
    job.proofs[1].station = "value";
    job.proofs[1].reading = Reading::of(293.15, Dimension::Temperature, Condition::KeyOn);
    auto older = nlohmann::json::parse(write(job));
    for (auto& p : older["proofs"])
        p.erase("measures");
    const auto back = read(older.dump());
    ASSERT_TRUE(back) << back.error().text();
    EXPECT_TRUE(back->proofs[0].reading.isOpen());
    EXPECT_TRUE(std::isinf(back->proofs[0].high) && std::isinf(back->proofs[0].expected));
    EXPECT_EQ(back->proofs[0].low, 20e6);
    EXPECT_TRUE(back->proofs[0].passes());
    EXPECT_EQ(back->proofs[1], job.proofs[1]) << "what the sensor measures";
}

TEST(Reading, AWordThatIsNoneIsRefusedWhereItStands)
{
    auto json = nlohmann::json::parse(write(jobWith({}, 0, 0, 0)));
    json["proofs"][0]["value"] = "shorted";
    const auto back = read(json.dump());
    ASSERT_FALSE(back);
    EXPECT_THAT(back.error().text(), testing::HasSubstr("/proofs/0/value"));
}

TEST(Reading, StandsInTheLogbookAsWhatItIs)
{
    const auto line = [](const Reading& r) { return logbook::logbook(jobWith(r, 0, 0, 0), "outside").front().what; };
    EXPECT_THAT(line(Reading::beyond(Dimension::Resistance, Condition::BatteryOff)), testing::HasSubstr(": open, "));
    EXPECT_THAT(line(Reading::of(50, Dimension::Frequency, Condition::KeyOn)), testing::HasSubstr(": 50.0 Hz, "));
}

} // namespace
} // namespace vicegrip::job
