#include "app/widgets/typed_field.h"
#include "tests/support/clipped.h"
#include "tests/support/faulty_car.h"
#include "tests/support/window.h"

#include <QAbstractButton>
#include <QLabel>
#include <gmock/gmock.h>

namespace vicegrip::app {
namespace {

using testing::HasSubstr;

TEST(BeliefView, AFailingReadingLeadsToTheOpenWire)
{
    test::Window w;
    w.window.desk().selection.setCircuit({"fp"});
    w.key(Qt::Key_4, Qt::ControlModifier);
    w.settle();
    ASSERT_TRUE(w.find<QWidget>("belief")->isVisible());
    EXPECT_NE(w.textOf("belief-1"), "");
    EXPECT_THAT(w.textOf("belief-next"), HasSubstr("Tells most: "));
    EXPECT_THAT(w.textOf("belief-outcomes"), HasSubstr(" V: "));

    // By keys alone: go where it says, read there what the open feed makes of it, until it is enough.
    const auto before = w.window.desk().selection.station();
    w.key(Qt::Key_G);
    EXPECT_NE(w.window.desk().selection.station(), before);
    const auto drawn = w.window.desk().store.analysis();
    diagnosis::Suspect open;
    open.faults = {faults::OpenWire{{"w20"}}};
    const auto spots = test::spotsOf(*drawn, {"fp"});
    test::FaultyCar car(*drawn, open, spots);
    for (int readings = 0; readings < 8 && !w.find<QWidget>("belief-mended")->isVisible(); ++readings) {
        w.key(Qt::Key_G); // it asks until it is sure
        const auto now = w.window.desk().store.analysis();
        const Selection& at = w.window.desk().selection;
        for (const diagnosis::Spot& s : spots)
            if (s.place.station.key == at.station() && s.place.condition == at.condition()) {
                ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("read"), [&](job::Job& job) {
                    for (const proof::Judged& j : analysis::promised(*now, {"fp"}, at.condition()))
                        if (j.expectation.station == s.place.station)
                            job.proofs.push_back(proof::record(now->facts, {"fp"}, j.expectation, *car.at(s),
                                                               job::ReadingSource::Typed, "2026-11-29T09:00:00Z"));
                }));
            }
        w.settle();
        test::expectNothingClipped(w, "the belief");
    }
    EXPECT_THAT(w.textOf("belief-1"), HasSubstr("w20"));

    // Put right: what rests on it is stale, and the hands are led to where it shows.
    ASSERT_TRUE(w.find<QWidget>("belief-mended")->isVisible()) << w.textOf("belief-next");
    EXPECT_THAT(w.textOf("belief-outcomes"), HasSubstr("again"));
    w.key(Qt::Key_D);
    w.settle();
    const auto job = w.window.desk().store.job();
    ASSERT_EQ(job->mends.size(), 1U);
    EXPECT_THAT(job->mends[0].what, HasSubstr("w20"));
    EXPECT_EQ(analysis::find(*w.window.desk().store.analysis(), {"fp"})->meter, proof::State::Stale);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    EXPECT_TRUE(w.window.desk().store.job()->mends.empty());
}

/// What the ECU shows is read where the rest is: its rows are in the table, and that it shows nothing is a reading.
TEST(BeliefView, ASilentEcuIsReadAtMeter)
{
    test::Window w;
    w.window.desk().selection.setCircuit({"clt"});
    w.key(Qt::Key_4, Qt::ControlModifier);
    w.settle();
    w.window.desk().selection.setStation("value");
    w.settle();
    EXPECT_THAT(w.textOf("probe"), HasSubstr("off the ECU"));
    w.type(w.find<TypedField>("reading")->edit(), "OL");
    w.settle();
    const auto job = w.window.desk().store.job();
    ASSERT_EQ(job->proofs.back().station, "value");
    EXPECT_TRUE(job->proofs.back().reading.isOverload());
    EXPECT_THAT(w.textOf("verdict"), HasSubstr("the ECU shows nothing"));
    ASSERT_TRUE(w.find<QWidget>("belief")->isVisible());
    EXPECT_NE(w.textOf("belief-1"), "");
}

TEST(BeliefView, SaysNothingOfACircuitThatReadsAsDrawn)
{
    test::Window w;
    w.window.desk().selection.setCircuit({"map"});
    w.key(Qt::Key_4, Qt::ControlModifier);
    w.settle();
    EXPECT_FALSE(w.find<QWidget>("belief")->isVisible());
    w.choose("fp");
    EXPECT_TRUE(w.find<QWidget>("belief")->isVisible());
    w.window.desk().selection.setCircuit({"clt"}); // at once, before anything is worked out
    EXPECT_FALSE(w.find<QWidget>("belief")->isVisible()) << "what was said of another circuit is not of this one";
}

} // namespace
} // namespace vicegrip::app
