#include "tests/support/scale.h"

#include <gmock/gmock.h>

/// What is asked of an instrument is answered for what it was asked about, whatever happens before the answer comes.
namespace vicegrip::test {
namespace {

using proof::State;

/// At the oil temperature's first place, with a meter; how many readings the job has.
size_t atTheMeter(Window& w)
{
    w.startBench();
    w.choose("ot");
    w.key(Qt::Key_4, Qt::ControlModifier);
    w.settle();
    return w.window.desk().store.job()->proofs.size();
}

TEST(Asked, AReadingThatComesAfterTheKeyWasTurnedIsNotFiled)
{
    Window w;
    const size_t before = atTheMeter(w);
    w.key(Qt::Key_M); // asked with the key on
    w.key(Qt::Key_B, Qt::ControlModifier); // off before the meter has answered
    ASSERT_EQ(w.window.desk().selection.condition(), job::Condition::BatteryOff);
    ASSERT_TRUE(QTest::qWaitFor([&] { return w.textOf("verdict").find("read it again") != std::string::npos; }, 5000))
        << w.textOf("verdict");
    EXPECT_EQ(w.window.desk().store.job()->proofs.size(), before) << "volts with the key on are none without it";

    w.key(Qt::Key_Y, Qt::ControlModifier);
    w.key(Qt::Key_M);
    EXPECT_TRUE(w.becomes("ot", "A.12", State::Done)) << "asked again, it is";
    ASSERT_EQ(w.window.desk().store.job()->proofs.size(), before + 1);
    EXPECT_EQ(w.window.desk().store.job()->proofs.back().reading.condition(), job::Condition::KeyOn);
}

TEST(Asked, AReadingOfAPlaceThatWasLeftIsNotFiledAtTheNext)
{
    Window w;
    const size_t before = atTheMeter(w);
    w.key(Qt::Key_M);
    w.window.desk().selection.setStation("OT.2");
    ASSERT_TRUE(QTest::qWaitFor([&] { return w.textOf("verdict").find("read it again") != std::string::npos; }, 5000));
    EXPECT_EQ(w.window.desk().store.job()->proofs.size(), before);
}

TEST(Asked, ASecondTableIsRefusedAndTheFirstIsAnswered)
{
    Window w;
    w.startBench();
    goTo(w, "ot");
    const auto job = w.window.desk().store.job();
    const auto* view = analysis::find(*w.window.desk().store.analysis(), {"ot"});
    ASSERT_TRUE(view->table);
    const int input = *job::inputIndex(*job, job::find(*job, job::CircuitId{"ot"})->input);
    std::optional<QString> first, second;
    auto& live = w.window.desk().live;
    live.sendTable(input, *view->table, units::Dimension::Temperature, [&](const QString& said) { first = said; });
    live.sendTable(input, *view->table, units::Dimension::Temperature, [&](const QString& said) { second = said; });
    ASSERT_TRUE(second) << "at once";
    EXPECT_TRUE(second->contains(QLatin1String("still taking")));
    EXPECT_TRUE(QTest::qWaitFor([&] { return first.has_value(); }, 5000)) << "who waits for the first hears of it";
    EXPECT_EQ(*first, QString());
    second.reset();
    live.sendTable(input, *view->table, units::Dimension::Temperature, [&](const QString& said) { second = said; });
    EXPECT_TRUE(QTest::qWaitFor([&] { return second.has_value(); }, 5000));
    EXPECT_EQ(*second, QString()) << "and then the next is taken";
}

TEST(Asked, VerifyingEveryTableEndsThoughOneIsSentMeanwhile)
{
    Window w;
    w.startBench();
    goTo(w, "clt");
    w.key(Qt::Key_V, Qt::ShiftModifier);
    w.key(Qt::Key_E);
    EXPECT_TRUE(
        QTest::qWaitFor([&] { return w.find<QAbstractButton>("verify-all")->text().startsWith("Verify all"); }, 60000))
        << "it ends, whatever it says: " << w.textOf("said");
}

} // namespace
} // namespace vicegrip::test
