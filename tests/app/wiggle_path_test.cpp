#include "core/job/json.h"
#include "tests/support/clipped.h"
#include "tests/support/library.h"
#include "tests/support/new_user.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

/// From a reading that comes and goes to the wire that lets go, with the keyboard alone.
namespace vicegrip {
namespace {

using testing::HasSubstr;

class WigglePath : public testing::Test
{
  protected:
    WigglePath()
    {
        job::Job job = test::petrel();
        job.proofs.clear();
        m_path = w.folder.filePath(QStringLiteral("loose.vicegrip"));
        test::NewUser::write(m_path, QByteArray::fromStdString(job::write(job)));
        EXPECT_TRUE(w.window.openJob(m_path));
        w.settle();
    }

    [[nodiscard]] const job::Job& job() { return *w.window.desk().store.job(); }

    void startBench(const QByteArray& faults)
    {
        const QString list = w.folder.filePath(QStringLiteral("loose.json"));
        test::NewUser::write(list, "{\"faults\": [" + faults + "]}");
        w.window.desk().live.startBench(QStringLiteral(VICEGRIP_BENCH), m_path, list);
        ASSERT_TRUE(QTest::qWaitFor([&] { return w.window.desk().live.ecuLive(); }, 10000));
    }

    void wiggleTest(const char* circuit)
    {
        w.choose(circuit);
        w.key(Qt::Key_4, Qt::ControlModifier);
        w.settle();
        w.key(Qt::Key_3, Qt::AltModifier);
        w.settle();
    }

    bool comes(const char* label, const char* words)
    {
        return QTest::qWaitFor([&] { return w.textOf(label).find(words) != std::string::npos; }, 20000);
    }

    /// Hands to where the test asks for them, until it says so.
    void handsUntil(const char* title)
    {
        for (int place = 0; place < 40 && w.textOf("wiggle").find(title) == std::string::npos; ++place) {
            if (w.textOf("wiggle").find("Wait:") != 0)
                w.key(w.textOf("wiggle").find("Hands off:") == 0 ? Qt::Key_O : Qt::Key_Space);
            const std::string asked = w.textOf("wiggle");
            EXPECT_TRUE(QTest::qWaitFor([&] { return w.textOf("wiggle") != asked; }, 20000)) << asked;
        }
        EXPECT_THAT(w.textOf("wiggle"), HasSubstr(title));
    }

    test::NewUser user;
    test::Window w;
    QString m_path;
};

TEST_F(WigglePath, TheWireThatLetsGoIsNamedMendedAndProved)
{
    startBench(R"({"kind": "loose", "wire": "w20", "at": "FP.3"})");
    wiggleTest("fp");
    ASSERT_TRUE(comes("wiggle", "Hands to: Plug FP")) << w.textOf("wiggle");
    EXPECT_THAT(w.textOf("wiggle-says"), HasSubstr("Steady at 0.50 V"));
    handsUntil("Plug FP lets go");
    EXPECT_THAT(w.textOf("wiggle-says"), HasSubstr("w20"));
    w.settle();
    test::expectNothingClipped(w, "the wiggle test");
    EXPECT_THAT(w.textOf("wiggle-says"), HasSubstr("It reads 0.00 V then"));
    EXPECT_THAT(w.textOf("wiggle-hold"), HasSubstr("least 0.00 V")) << "held";
    const std::string named = w.textOf("wiggle-says");
    w.key(Qt::Key_O);
    w.key(Qt::Key_K);
    w.settle();
    ASSERT_EQ(job().wiggles.size(), 1U);
    EXPECT_EQ(job().wiggles.back().at, "FP") << w.textOf("wiggle-says") << "; " << named;

    w.key(Qt::Key_D);
    w.settle();
    ASSERT_EQ(job().mends.size(), 1U);
    EXPECT_EQ(job().wiggles.size(), 1U) << "not once more, whatever else was heard on the way";
    ASSERT_TRUE(comes("wiggle", "Hands to: Plug FP"));
    EXPECT_THAT(w.textOf("wiggle-says"), HasSubstr("Stale"));
    w.key(Qt::Key_Space);
    ASSERT_TRUE(QTest::qWaitFor([&] { return w.find<QWidget>("wiggle-keep")->isEnabled(); }, 20000))
        << "where it was mended has been moved for long enough";
    w.key(Qt::Key_K);
    w.settle();
    ASSERT_EQ(job().wiggles.size(), 2U);
    EXPECT_EQ(job().wiggles.back().dropOuts, 0);
    EXPECT_EQ(w.window.desk().store.analysis()->wiggles[0].state, proof::State::Done);

    w.key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(job().wiggles.size(), 1U) << "undone like anything";
}

TEST_F(WigglePath, WithoutAnInputOrAnEcuItSaysSo)
{
    wiggleTest("inj1");
    EXPECT_THAT(w.textOf("wiggle"), HasSubstr("does not read Injector 1"));
    w.choose("clt");
    ASSERT_TRUE(comes("wiggle-says", "The ECU says nothing"));
    w.key(Qt::Key_Space);
    EXPECT_FALSE(w.find<QWidget>("wiggle-there")->isEnabled());
    EXPECT_TRUE(job().wiggles.empty());
}

/// Next leads here, and what is chosen in the table is where the next mark goes.
TEST_F(WigglePath, WhatIsKeptLeadsBackHere)
{
    w.window.desk().store.editOrSay(QStringLiteral("test"), [](job::Job& job) {
        job.wiggles.push_back({.circuit = job::CircuitId{"clt"},
                               .wires = {job::WireId{"w5"}},
                               .at = "CLT",
                               .dropOuts = 4,
                               .watched_s = 20,
                               .when = "2026-03-01T10:00:00Z",
                               .restsOn = {},
                               .extra = nlohmann::json::object()});
    });
    w.settle();
    w.window.desk().selection.setCircuit(job::CircuitId{"clt"});
    w.window.desk().selection.setStation(std::string(proof::kWiggle));
    w.window.showStage(analysis::Stage::Meter);
    w.settle();
    ASSERT_TRUE(QTest::qWaitFor([&] { return w.find<QWidget>("wiggle-mended")->isEnabled(); }, 10000));
    startBench(R"({"kind": "loose", "wire": "w5", "at": "CLT.1"})");
    ASSERT_TRUE(comes("wiggle-says", "comes and goes"));
    EXPECT_THAT(w.textOf("wiggle-says"), HasSubstr("4 drop-outs in 20 s"));
    ASSERT_TRUE(comes("wiggle", "Hands to"));
    auto* table = w.find<QTableWidget>("places-to-hold");
    table->setCurrentCell(2, 1);
    EXPECT_THAT(w.textOf("wiggle"), HasSubstr("Bulkhead BE"));
    w.key(Qt::Key_D);
    w.settle();
    EXPECT_EQ(job().mends.size(), 1U);
    EXPECT_EQ(job().mends[0].what, "It comes and goes: wire w5 at Plug CLT 1");
}

} // namespace
} // namespace vicegrip
