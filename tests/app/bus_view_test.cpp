#include "tests/support/window.h"

#include <gmock/gmock.h>

/// The demo job's bus through the real window: its end that is open is found by the finding, and by the meter.
namespace vicegrip {
namespace {

using testing::HasSubstr;

TEST(BusView, TheOpenEndIsReadSaidAndClosed)
{
    test::Window w;
    w.choose("display");
    w.key(Qt::Key_B, Qt::ControlModifier);
    w.key(Qt::Key_4, Qt::ControlModifier);
    w.settle();
    EXPECT_THAT(w.textOf("leads"), HasSubstr("every plug of the bus on"));
    EXPECT_EQ(w.textOf("must-read").substr(0, 3), "120") << "as drawn, one end is open";
    const auto* places = w.find<QTableWidget>("places");
    EXPECT_EQ(places->item(0, 1)->text(), QStringLiteral("Plug DISPLAY 3 · CAN high"));
    const auto open = [&] {
        return std::ranges::count(w.window.desk().store.analysis()->findings, "bus-ends", &findings::Finding::rule);
    };
    EXPECT_EQ(open(), 1);

    ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("Switch the terminator on"), [](job::Job& job) {
        for (parts::Part& part : job.parts)
            if (auto* device = std::get_if<parts::BusDevice>(&part.model);
                device && part.id.value == "can-display-open")
                device->terminator_ohm = 120;
        return Result<void>{};
    }));
    w.settle();
    EXPECT_EQ(w.textOf("must-read").substr(0, 2), "60");
    EXPECT_EQ(open(), 0);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    EXPECT_EQ(open(), 1) << "and is undone";
}

/// The circuit that is chosen elsewhere, and its seat far down the list, are in sight at Inputs.
TEST(BusView, InputsShowsWhatWasChosen)
{
    test::Window w;
    w.choose("inj2");
    w.key(Qt::Key_2, Qt::ControlModifier);
    w.settle();
    const auto* view = w.find<QWidget>("seating");
    EXPECT_TRUE(QTest::qWaitFor([&] { return view->visibleRegion().boundingRect().top() > 0; }, 5000))
        << "it is below the first screenful";
}

} // namespace
} // namespace vicegrip
