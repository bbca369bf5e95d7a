#include "core/scaling/exchange.h"
#include "core/seating/ways_out.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <cmath>
#include <random>

/// Every sensor of the library in every form an ECU may take its scaling in: what a table says of its own error must be
/// what it does.
namespace vicegrip::scaling {
namespace {

struct Form
{
    const char* name;
    job::Takes takes;
    int degree;
    job::Knots knots;
};
constexpr Form kForms[] = {{"even", job::Takes::Points, 1, job::Knots::Even},
                           {"best", job::Takes::Points, 1, job::Knots::Best},
                           {"free", job::Takes::Points, 1, job::Knots::Free},
                           {"counts", job::Takes::Counts, 1, job::Knots::Best},
                           {"line", job::Takes::Polynomial, 1, job::Knots::Even},
                           {"cubic", job::Takes::Polynomial, 3, job::Knots::Even},
                           {"sixth", job::Takes::Polynomial, 6, job::Knots::Even},
                           {"Steinhart-Hart", job::Takes::SteinhartHart, 1, job::Knots::Even}};

/// The sensor where it seats best; none where this unit has no input for it.
std::optional<job::Job> seatedOn(const parts::EcuProfile& unit, const parts::Sensor& sensor)
{
    job::Job job = harness::startJob("Table", unit);
    harness::addCircuit(job, {"map"}, "Circuit", job::Want::Required, sensor);
    seating::take(job, seating::bestPlan(job));
    return job.circuits.front().input.empty() ? std::nullopt : std::optional(job);
}

/// Largest error at random values, as a multiple of what the table says.
double beyondClaim(const job::Job& job, const Table& table)
{
    const job::Circuit& c = job.circuits.front();
    const auto car = electrics::build(job, {.surroundings = job.surroundings});
    const auto transfer = Transfer::of(job, *car, c);
    std::mt19937 random(11); // NOLINT(bugprone-random-generator-seed)
    std::uniform_real_distribution<double> values(c.scaling.low, c.scaling.high);
    const double claim = table.worstError + 1e-6 * (c.scaling.high - c.scaling.low);
    double worst = 0;
    for (int i = 0; i < 500; ++i) {
        const double value = values(random);
        worst = std::max(worst, std::abs(lookUp(table, transfer->reading(value)) - value) / claim);
    }
    return worst;
}

TEST(LibraryTables, EachIsAsWrongAsItSaysAndNoMore)
{
    int tables = 0, thermistors = 0;
    for (const parts::Sensor& sensor : test::library().sensors) {
        for (const parts::EcuProfile& unit : test::library().ecus) {
            const auto seated = unit.ecu.expander ? std::nullopt : seatedOn(unit, sensor);
            if (!seated)
                continue;
            double even = 0;
            for (const Form& form : kForms) {
                const std::string what = sensor.id.value + " on " + unit.id.value + ", " + form.name;
                job::Job job = *seated;
                job::ScalingSpec& spec = job.circuits.front().scaling;
                spec.points = 12;
                spec.takes = form.takes;
                spec.degree = form.degree;
                spec.knots = form.knots;
                const auto analysis = test::analysed(job);
                const auto& view = analysis.circuits.front();
                if (!view.table) {
                    EXPECT_FALSE(view.tableTrouble.empty()) << what;
                    continue;
                }
                ++tables;
                thermistors += form.takes == job::Takes::SteinhartHart ? 1 : 0;
                EXPECT_LT(beyondClaim(job, *view.table), 1.03) << what;
                if (form.knots == job::Knots::Even && form.takes == job::Takes::Points)
                    even = view.table->worstError;
                if (form.knots != job::Knots::Even && form.takes == job::Takes::Points) {
                    EXPECT_LE(view.table->worstError, even * (1 + 1e-9)) << what << ": they gain, or stay even";
                }
                const Table taken = asTaken(*view.table, job, job.circuits.front());
                const auto back = readHeld(toCsv(taken, sensor, spec), *view.table, sensor, spec,
                                           readingStep(job, job.circuits.front()));
                ASSERT_TRUE(back) << what << ": " << back.error().text();
            }
            break; // one unit that takes it is enough
        }
    }
    EXPECT_GT(tables, 100);
    EXPECT_GT(thermistors, 5);
}

} // namespace
} // namespace vicegrip::scaling
