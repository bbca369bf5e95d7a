#include "core/harness/start.h"
#include "core/job/check.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

/// Files that say of outputs and of the engine what cannot be: a sentence at the place.
namespace vicegrip::job {
namespace {

using Json = nlohmann::json;
using testing::HasSubstr;

Json petrelFile()
{
    return Json::parse(write(test::petrel()));
}

/// What reading a file that was changed so complains of: pointer and sentence.
template <class Change> std::string complaint(Change change)
{
    Json file = petrelFile();
    change(file);
    const auto read = job::read(file.dump());
    return read ? std::string() : read.error().place.pointer + ": " + read.error().sentence;
}

Json& outputPin(Json& file, int nth)
{
    for (Json& pin : file["ecu"]["pins"])
        if (pin["role"] == "output" && nth-- == 0)
            return pin;
    return file;
}

TEST(BadOutputs, CurrentsOfNothingAndOfTenThousandAmperes)
{
    for (const double amps : {0.0, 10e3, -1.0}) {
        EXPECT_THAT(complaint([&](Json& f) { f["ecu"]["outputs"][0]["most_a"] = amps; }),
                    HasSubstr("/ecu/outputs/0/most_a: "));
        EXPECT_THAT(complaint([&](Json& f) { f["loads"][0]["current_a"] = amps; }), HasSubstr("/loads/0/current_a: "));
    }
    EXPECT_THAT(complaint([](Json& f) { f["switches"][0]["rating_a"] = 10e3; }), HasSubstr("/switches/0/rating_a: "));
}

TEST(BadOutputs, OneCavityOfTwoOutputs)
{
    EXPECT_THAT(complaint([](Json& f) { outputPin(f, 1)["at"] = outputPin(f, 0)["at"]; }),
                HasSubstr("cavity A.15 has two uses"));
    EXPECT_THAT(complaint([](Json& f) { outputPin(f, 1)["output"] = "NONE"; }), HasSubstr("no output \"NONE\""));
    EXPECT_THAT(complaint([](Json& f) { outputPin(f, 1)["at"] = "CLT.1"; }), HasSubstr("of kind \"ecu\""));
    EXPECT_THAT(complaint([](Json& f) { f["ecu"]["outputs"][1]["id"] = f["ecu"]["outputs"][0]["id"]; }),
                HasSubstr("/ecu/outputs/1: "));
}

/// Half a pair on another unit's plug.
TEST(BadOutputs, APairAcrossTwoUnits)
{
    Job job = test::petrel();
    harness::addExpander(job, test::ecu("expander-8"));
    ASSERT_TRUE(check(job)) << check(job).error().text();
    for (parts::EcuPin& pin : job.expanders[0].pins)
        if (pin.at == "E.6")
            pin.at = "A.15";
    EXPECT_THAT(check(job).error().sentence, "cavity A.15 belongs to another unit");
    EXPECT_THAT(check(job).error().place.pointer, HasSubstr("/expanders/0/pins/"));
}

/// A job in which they are being corrected opens all the same: it is a finding.
TEST(BadOutputs, AFiringOrderThatRepeatsOrMissesACylinder)
{
    const auto said = [](const std::vector<int>& order) {
        Job job = test::petrel();
        job.brief->firingOrder = order;
        EXPECT_TRUE(read(write(job)));
        const auto found = test::of(job, "brief-facts");
        return found.empty() ? std::string() : found[0].what;
    };
    EXPECT_EQ(said({1, 3, 4, 2}), "");
    EXPECT_THAT(said({1, 3, 3, 2}), HasSubstr("3"));
    EXPECT_THAT(said({1, 3, 4}), HasSubstr("2"));
    EXPECT_THAT(said({1, 3, 4, 2, 5}), HasSubstr("5"));
}

} // namespace
} // namespace vicegrip::job
