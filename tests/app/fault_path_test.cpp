#include "core/job/json.h"
#include "tests/support/faulty_car.h"
#include "tests/support/new_user.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

/// From Next on the Board to a circuit that is proved again: a new user on the demo car, by keys alone.
namespace vicegrip {
namespace {

using testing::HasSubstr;

TEST(FaultPath, ANewUserFollowsNextToTheOpenWireAndProvesTheCircuit)
{
    const test::NewUser user;
    test::Window w;
    const QString path = w.folder.filePath(QStringLiteral("petrel.vicegrip"));
    test::NewUser::write(path, QByteArray::fromStdString(job::write(test::petrel())));
    ASSERT_TRUE(w.window.openJob(path));
    w.settle();
    auto& desk = w.window.desk();
    desk.live.startBench(QStringLiteral(VICEGRIP_BENCH), path,
                         QString::fromStdString(std::string(VICEGRIP_SOURCE_DIR) + "/data/faults/petrel.json"));
    ASSERT_TRUE(QTest::qWaitFor([&] { return desk.live.meterReady() && desk.live.ecuLive(); }, 15000));
    const job::CircuitId fuel{"fp"};
    ASSERT_EQ(analysis::find(*desk.store.analysis(), fuel)->meter, proof::State::Failing);

    // What the finder needs of its own on a car with this fault, from the reading that the job has.
    const auto drawn = desk.store.analysis();
    diagnosis::Suspect open;
    open.faults = {faults::OpenWire{{"w20"}}};
    test::FaultyCar car(*drawn, open, test::spotsOf(*drawn, fuel));
    diagnosis::Finder finder(*drawn, fuel, test::families(), test::library());
    const int promised = diagnosis::follow(finder, {}, job::Condition::KeyOn, [&](const diagnosis::Spot& s) {
                             return car.at(s);
                         }).probes;

    w.key(Qt::Key_0, Qt::ControlModifier);
    w.settle();
    EXPECT_THAT(w.textOf("next"), HasSubstr("Fuel pressure"));
    w.key(Qt::Key_Return);
    w.settle();
    ASSERT_EQ(w.window.stage(), analysis::Stage::Meter);
    EXPECT_EQ(desk.selection.circuit(), fuel);
    const auto take = [&] {
        const size_t before = desk.store.job()->proofs.size();
        const auto input = job::inputIndex(*desk.store.job(), job::find(*desk.store.job(), fuel)->input);
        EXPECT_TRUE(QTest::qWaitFor( // what the ECU sends comes in its own time after the key is turned
            [&] { return desk.selection.condition() != job::Condition::KeyOn || desk.live.sample(*input); }, 10000));
        w.key(Qt::Key_M);
        EXPECT_TRUE(QTest::qWaitFor([&] { return desk.store.job()->proofs.size() > before; }, 10000))
            << desk.selection.station();
        w.settle();
    };
    int readings = 0;
    for (; readings < 12 && !w.find<QWidget>("belief-mended")->isVisible(); ++readings) {
        w.key(Qt::Key_G);
        w.settle();
        take();
    }
    EXPECT_THAT(w.textOf("belief-1"), HasSubstr("w20"));
    EXPECT_LE(readings, promised + 2) << "places that the tool asked for";

    w.key(Qt::Key_D);
    w.settle();
    ASSERT_EQ(desk.store.job()->mends.size(), 1U);
    EXPECT_EQ(analysis::find(*desk.store.analysis(), fuel)->meter, proof::State::Stale);
    for (int more = 0; more < 12; ++more) {
        take();
        if (analysis::find(*desk.store.analysis(), fuel)->meter == proof::State::Done)
            break;
        w.key(Qt::Key_N);
        w.settle();
    }
    EXPECT_EQ(analysis::find(*desk.store.analysis(), fuel)->meter, proof::State::Done) << "proved";
}

} // namespace
} // namespace vicegrip
