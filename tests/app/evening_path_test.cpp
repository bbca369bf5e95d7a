#include "core/harness/edits.h"
#include "tests/support/library.h"
#include "tests/support/on_the_sheet.h"

#include <gmock/gmock.h>

/// The last evening: from a battery that is off to a warm idle with three faults met on the way, out on the road, what
/// the log says, and whether what was changed did what it was for.
namespace vicegrip {
namespace {

using analysis::Stage;
using testing::HasSubstr;
using testing::StartsWith;

class EveningPath : public test::OnTheSheet
{
  protected:
    void save()
    {
        w.key(Qt::Key_S, Qt::ControlModifier);
        w.settle();
    }

    /// Every table that the job works out goes to the ECU.
    void handOverTables()
    {
        const auto analysis = w.window.desk().store.analysis();
        for (const job::Circuit& c : job().circuits) {
            const auto* view = analysis::find(*analysis, c.id);
            const auto input = job::inputIndex(job(), c.input);
            const parts::Part* sensor = job::sensorOf(job(), c);
            if (!view->table || !input || sensor == nullptr || job::readsWheel(job(), c))
                continue;
            std::optional<QString> said;
            w.window.desk().live.sendTable(static_cast<int>(*input), *view->table, sensor->measures,
                                           [&](const QString& trouble) { said = trouble; });
            ASSERT_TRUE(QTest::qWaitFor([&] { return said.has_value(); }, 10000)) << c.id.value;
            EXPECT_EQ(said->toStdString(), "") << c.id.value;
        }
    }

    [[nodiscard]] bool passes(const char* line, const std::string& id, int patience_ms = 60000)
    {
        choose(line);
        return QTest::qWaitFor(
            [&] {
                const auto s = run_sheet::sheetOf(*w.window.desk().store.analysis(), "2026-01-01T00:00:00Z");
                for (size_t l = 0; l < s.lines.size(); ++l)
                    if (s.lines[l].id == id)
                        return s.standings[l].state == proof::State::Done;
                return false;
            },
            patience_ms);
    }

    /// F on a line that does not pass leads to its circuit at Meter, with the reading; the finder names places, and
    /// what it names is mended.
    void findAndMend(const char* circuit, const char* wire)
    {
        w.key(Qt::Key_F);
        w.settle();
        find(circuit, wire);
    }

    /// Where it leads, in Meter.
    void find(const char* circuit, const char* wire)
    {
        ASSERT_EQ(w.window.stage(), Stage::Meter);
        ASSERT_EQ(w.window.desk().selection.circuit().value, circuit);
        const size_t mends = job().mends.size();
        for (int n = 0; n < 14 && !w.find<QWidget>("belief-mended")->isVisible(); ++n) {
            w.key(Qt::Key_G);
            w.settle();
            const size_t before = job().proofs.size();
            w.key(Qt::Key_M);
            ASSERT_TRUE(QTest::qWaitFor([&] { return job().proofs.size() > before; }, 15000));
            w.settle();
        }
        EXPECT_THAT(w.textOf("belief-1"), HasSubstr(wire));
        w.key(Qt::Key_D);
        w.settle();
        ASSERT_EQ(job().mends.size(), mends + 1);
        show();
    }

    /// From its line to the click at Meter; what answered.
    std::vector<job::CircuitId> clickPump()
    {
        choose("Fuel pump relay answers its output");
        w.key(Qt::Key_G);
        w.settle();
        EXPECT_EQ(w.window.stage(), Stage::Meter);
        EXPECT_EQ(w.window.desk().selection.circuit().value, "fuel-pump");
        w.key(Qt::Key_2, Qt::AltModifier);
        w.key(Qt::Key_Y, Qt::ControlModifier);
        w.settle();
        const size_t clicks = job().clicks.size();
        w.key(Qt::Key_C);
        EXPECT_TRUE(QTest::qWaitFor([&] { return job().clicks.size() > clicks; }, 10000)) << w.textOf("click-todo");
        return job().clicks.back().answered;
    }

    /// D, and the log is read and reviewed when the car is back.
    void drive(const char* title)
    {
        w.window.showStage(Stage::Start);
        w.key(Qt::Key_2, Qt::AltModifier);
        w.settle();
        w.key(Qt::Key_D);
        ASSERT_TRUE(QTest::qWaitFor([&] { return w.textOf("log-title").find(title) == 0; }, 180000))
            << w.textOf("log-title") << w.notice();
        w.settle();
    }

    [[nodiscard]] std::string said()
    {
        std::string out;
        auto* rows = w.find<QTableWidget>("log-says");
        for (int row = 0; row < rows->rowCount(); ++row)
            out += rows->item(row, 1)->text().toStdString() + "\n";
        return out;
    }
};

TEST_F(EveningPath, FromBatteryOffToAWarmIdleAndALogThatIsBelieved)
{
    w.setFaults(
        R"([{"kind": "open", "wire": "w25"}, {"kind": "open", "wire": "w5"}, {"kind": "open", "wire": "w68"}])");
    workElsewhere();
    ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("more is asked"), [](job::Job& j) -> Result<void> {
        j.brief->target_pa = 220e3;
        std::erase_if(j.clicks, [](const job::Click& c) { return c.circuit.value == "fuel-pump"; });
        return {};
    }));
    w.settle();
    save();
    show();
    passBeforePower();
    w.startBench();
    w.key(Qt::Key_Y, Qt::ControlModifier);
    handOverTables();
    show();

    // Key on: two sensors do not read their place.
    EXPECT_TRUE(passes("Key on: the ECU wakes and is heard", "awake"));
    EXPECT_TRUE(passes("Manifold pressure reads its place", "value map"));
    EXPECT_FALSE(passes("Coolant temp reads its place", "value clt", 3000));
    findAndMend("clt", "w5");
    EXPECT_TRUE(passes("Coolant temp reads its place", "value clt"));
    workThrough("value fp");
    EXPECT_FALSE(passes("Fuel pressure reads its place", "value fp", 3000));
    findAndMend("fp", "w25");
    EXPECT_TRUE(passes("Fuel pressure reads its place", "value fp"));

    // Outputs: the pump's relay is silent, and without it nothing starts.
    workThrough("click fuel-pump");
    EXPECT_TRUE(clickPump().empty());
    w.key(Qt::Key_1, Qt::AltModifier);
    w.settle();
    find("fuel-pump", "w68");
    EXPECT_FALSE(clickPump().empty()) << "it is heard";
    show();

    // On the starter, then by itself, then warm: each passes by what the ECU reports.
    for (const auto& [line, id] : {std::pair("The ECU shows the starter's speed", "crank speed"),
                                   {"It runs by itself", "runs"},
                                   {"Warm: coolant above 71 °C", "warm"}}) {
        workThrough(id);
        choose(line);
        w.key(Qt::Key_C);
        ASSERT_TRUE(passes(line, id)) << line << ": " << standing() << w.notice()
                                      << w.window.desk().live.trouble().toStdString();
    }
    EXPECT_EQ(w.window.desk().selection.condition(), job::Condition::Running);

    // Pulls count from an oil of about 80 °C (common practice, no source).
    const auto oil = job::inputIndex(job(), job::find(job(), job::CircuitId{"ot"})->input);
    EXPECT_TRUE(QTest::qWaitFor(
        [&] {
            const auto now = w.window.desk().live.sample(static_cast<int>(*oil));
            return now && now->value.value_or(0) > 273.15 + 84;
        },
        60000));

    // Out on the road, and what the log says of it.
    drive("petrel-drive-1.csv");
    EXPECT_THAT(said(), HasSubstr("Manifold pressure stops at 300.0 kPa abs, the end of the sensor's range, while up"));
    EXPECT_THAT(said(), HasSubstr("Wideband, Gearbox temp step together when Fan is switched"));
    EXPECT_THAT(said(), HasSubstr("Pull"));

    // A sensor that reads further, and a ground of its own for the fan; and out again.
    ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("both"), [](job::Job& j) -> Result<void> {
        for (job::Wire& wire : j.wires)
            if (wire.id.value == "w88")
                (wire.from.owner == "G6" ? wire.from : wire.to) = job::PointRef{"BAT-", {}};
        return harness::setSensor(j, job::CircuitId{"map"}, test::sensor("map-4bar"));
    }));
    w.settle();
    save();
    handOverTables();
    drive("petrel-drive-2.csv");
    EXPECT_THAT(said(), HasSubstr("the range is enough"));
    EXPECT_THAT(said(), HasSubstr("Gearbox temp steps with the others no more"));
    EXPECT_EQ(said().find("step together"), std::string::npos) << said();
    EXPECT_EQ(said().find("stops at"), std::string::npos) << said();
}

} // namespace
} // namespace vicegrip
