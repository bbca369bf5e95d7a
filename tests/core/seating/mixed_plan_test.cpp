#include "core/harness/edits.h"
#include "core/harness/start.h"
#include "core/seating/plan.h"
#include "tests/support/independent_solver.h"
#include "tests/support/library.h"

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>
#include <random>

/// Sensors and what the ECU drives, seated together, against a solver of another house: SciPy's milp (HiGHS), from the
/// registry. It is told who may sit where one seat at a time, not by classes of seats that are alike, and finds how
/// many of each rank can be seated.
namespace vicegrip::seating {
namespace {

/// A unit, and sensors and actuators of the library in random numbers, wanted in random ways; more than it can take.
job::Job randomJob(std::mt19937& engine)
{
    std::vector<const parts::EcuProfile*> units;
    for (const parts::EcuProfile& unit : test::library().ecus)
        if (!unit.ecu.expander)
            units.push_back(&unit);
    job::Job job = harness::startJob("Mixed", *units[engine() % units.size()]);
    const auto& parts = test::library().parts;
    for (size_t n = 6 + engine() % 18; n > 0; --n)
        harness::addCircuit(job, {"it"}, "It", static_cast<job::Want>(engine() % 3), parts[engine() % parts.size()]);
    return job;
}

nlohmann::json problemOf(const job::Job& job, const Plan& plan)
{
    constexpr int kOnABus = 30;
    nlohmann::json out = {{"budgets", {job.ecu.supply.limit_a}},
                          {"seated", {plan.required, plan.wanted, plan.preferred}},
                          {"cost", 0},
                          {"classes", nlohmann::json::array()},
                          {"items", nlohmann::json::array()}};
    std::vector<std::string> seats;
    for (const parts::EcuInput& input : job.ecu.inputs) {
        seats.push_back(input.id.value);
        out["classes"].push_back({1, 0});
    }
    for (const parts::EcuOutput& output : job.ecu.outputs) {
        seats.push_back(output.id.value);
        out["classes"].push_back({output.isShared() ? kOnABus : 1, 0});
    }
    for (const job::Circuit& c : job.circuits) {
        nlohmann::json costs = nlohmann::json::array();
        for (const std::string& seat : seats)
            costs.push_back(unfitness(job, c, seat).empty() ? nlohmann::json(0) : nlohmann::json(nullptr));
        out["items"].push_back(
            {{"rank", static_cast<int>(c.want)}, {"draw", supplyDraw(job, c, job.ecu)}, {"cost", costs}});
    }
    return out;
}

TEST(MixedPlan, SeatsAsManyAsAnIndependentSolverOnThreeHundredJobs)
{
    std::mt19937 engine(5); // NOLINT(bugprone-random-generator-seed)
    nlohmann::json problems = nlohmann::json::array();
    size_t left = 0, driven = 0;
    for (int round = 0; round < 300; ++round) {
        const job::Job job = randomJob(engine);
        const Plan plan = bestPlan(job);
        ASSERT_TRUE(plan.optimal) << round;
        left += plan.unseated.size();
        for (const Seat& s : plan.seats)
            driven += s.output.empty() ? 0U : 1U;
        problems.push_back(problemOf(job, plan));
    }
    EXPECT_GT(left, 300U) << "seats are short, or there is nothing to decide";
    EXPECT_GT(driven, 600U);
    EXPECT_TRUE(test::agreesWithMilp(problems));
}

} // namespace
} // namespace vicegrip::seating
