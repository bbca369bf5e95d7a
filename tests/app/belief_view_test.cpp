#include "tests/support/clipped.h"
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
    const auto analysis = w.window.desk().store.analysis();
    ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("read"), [&](job::Job& job) {
        for (const char* at : {"FP.3", "S1"})
            for (const proof::Judged& j : analysis::promised(*analysis, {"fp"}, job::Condition::KeyOn))
                if (j.expectation.station.key == at)
                    job.proofs.push_back(
                        proof::record(analysis->facts, {"fp"}, j.expectation,
                                      job::Reading::of(at == std::string("S1") ? 5.01 : 0.01, units::Dimension::Voltage,
                                                       job::Condition::KeyOn),
                                      job::ReadingSource::Typed, "2026-11-29T09:00:00Z"));
    }));
    w.settle();
    EXPECT_THAT(w.textOf("belief-1"), HasSubstr("w20"));
    test::expectNothingClipped(w, "the belief");
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
