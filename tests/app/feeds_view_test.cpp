#include "app/desk/part_library.h"
#include "core/feeds/feeds.h"
#include "core/harness/edits.h"
#include "core/harness/start.h"
#include "tests/support/window.h"

#include <QComboBox>
#include <gmock/gmock.h>

/// Feeds at Pins, how a wire lies, and a sensor inside the unit at Meter.
namespace vicegrip {
namespace {

using testing::HasSubstr;
using testing::StartsWith;

struct Feeds : test::Window
{
    Feeds()
    {
        key(Qt::Key_3, Qt::ControlModifier);
        settle();
    }
    void view(Qt::Key k)
    {
        key(k, Qt::AltModifier);
        settle();
    }
    [[nodiscard]] const job::Job& now() { return *window.desk().store.job(); }
    [[nodiscard]] double rating(const char* fuse)
    {
        return std::ranges::find(now().switches, fuse, &job::Switch::id)->rating_a;
    }
};

TEST(FeedsView, EveryFuseSaysWhatHangsOnItAndTakesARating)
{
    Feeds w;
    w.view(Qt::Key_7);
    auto* list = w.find<QTableWidget>("feeds");
    ASSERT_EQ(list->rowCount(), static_cast<int>(feeds::feedsOf(w.now(), electrics::Wiring(w.now())).size()));
    EXPECT_THAT(list->item(0, 1)->text().toStdString(), HasSubstr("Wideband"));
    list->setFocus();
    list->setCurrentCell(0, 3);
    QTest::keyClicks(list, QStringLiteral("2"));
    auto* editor = list->findChild<QLineEdit*>();
    ASSERT_NE(editor, nullptr);
    QTest::keyClick(editor, Qt::Key_Return);
    w.settle();
    EXPECT_EQ(w.rating("fuse-1"), 2);
    EXPECT_THAT(list->item(0, 5)->text().toStdString(), HasSubstr("more than the 75 %"));
    list->item(0, 3)->setText(QStringLiteral("120 A"));
    w.settle();
    EXPECT_EQ(w.rating("fuse-1"), 2) << "no fuse is rated so";
    EXPECT_THAT(w.textOf("feeds-said"), HasSubstr("up to 100 A"));
    list->item(0, 3)->setText(QStringLiteral("thick"));
    w.settle();
    EXPECT_EQ(w.rating("fuse-1"), 2);
    EXPECT_FALSE(w.textOf("feeds-said").empty());
    w.window.desk().store.undoStack().undo();
    w.settle();
    EXPECT_EQ(w.rating("fuse-1"), 5);
}

TEST(FeedsView, WhatIsProposedIsTakenAndUndone)
{
    Feeds w;
    const auto before = w.window.desk().store.job();
    w.view(Qt::Key_7);
    auto* proposals = w.find<QTableWidget>("feed-proposals");
    ASSERT_GT(proposals->rowCount(), 0);
    EXPECT_TRUE(proposals->hasFocus()) << "Enter takes the one that is marked";
    const int count = proposals->rowCount();
    QTest::keyClick(proposals, Qt::Key_Return);
    w.settle();
    EXPECT_NE(w.now().switches.size(), before->switches.size());
    EXPECT_LT(proposals->isVisible() ? proposals->rowCount() : 0, count);
    w.window.desk().store.undoStack().undo();
    w.settle();
    EXPECT_EQ(w.now(), *before);
    w.key(Qt::Key_Return, Qt::ControlModifier);
    w.settle();
    EXPECT_THAT(w.textOf("feeds-better"), StartsWith("Nothing to change"));
    EXPECT_FALSE(proposals->isVisible());
}

TEST(WireLies, AloneTwistedOrInAShield)
{
    Feeds w;
    w.view(Qt::Key_3);
    auto* lies = w.find<QComboBox>("wire-lies");
    ASSERT_TRUE(lies->isVisible());
    const auto choose = [&](const char* words) {
        const int index = lies->findText(QString::fromUtf8(words));
        ASSERT_GE(index, 0) << words;
        lies->setCurrentIndex(index);
        emit lies->activated(index);
        w.settle();
    };
    const size_t before = w.now().leads.size();
    choose("In a shield, landed at the ECU");
    ASSERT_EQ(w.now().leads.size(), before + 1);
    EXPECT_EQ(w.now().leads.back().drain.size(), 1U);
    EXPECT_EQ(lies->currentText(), QStringLiteral("In a shield, landed at the ECU"));
    choose("In a shield, landed at both ends");
    EXPECT_EQ(w.now().leads.back().drain.size(), 2U);
    bool found = false;
    for (const findings::Finding& f : w.window.desk().store.analysis()->findings)
        found = found || f.rule == "shield-both-ends";
    EXPECT_TRUE(found);
    choose("Twisted");
    EXPECT_FALSE(w.now().leads.back().shield);
    EXPECT_THAT(w.textOf("wire-colour-why"), HasSubstr("twisted with"));
    choose("Lies alone");
    EXPECT_EQ(w.now().leads.size(), before);
}

TEST(InsideSensor, IsReadOffTheEcuAndTyped)
{
    test::Window w;
    job::Job job = harness::startJob("Hose", *parts::find(app::library(), parts::EcuId{"entry-28"}));
    harness::addCircuit(job, {"map"}, "Manifold pressure", job::Want::Required, *job.ecu.inputs.front().inside);
    ASSERT_TRUE(harness::seat(job, {"map"}, job.ecu.inputs.front().id));
    const QString path = w.folder.filePath(QStringLiteral("hose.vicegrip"));
    ASSERT_TRUE(app::writeWhole(path, QByteArray::fromStdString(job::write(job))));
    ASSERT_TRUE(w.window.openJob(path));
    w.settle();
    w.choose("map");
    w.key(Qt::Key_4, Qt::ControlModifier);
    w.settle();
    EXPECT_THAT(w.textOf("probe"), HasSubstr("off the ECU"));
    w.window.desk().selection.setStation("value");
    w.settle();
    EXPECT_EQ(w.textOf("must-read"), "101.3");
    w.key(Qt::Key_M);
    w.settle();
    EXPECT_THAT(w.textOf("verdict"), HasSubstr("type what its screen shows"));
    w.type(w.find<QWidget>("reading")->findChild<QLineEdit*>(), "101 kPa");
    EXPECT_EQ(w.at("map", "value").state, proof::State::Done);
}

} // namespace
} // namespace vicegrip
