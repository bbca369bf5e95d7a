#include "app/store/job_store.h"
#include "tests/support/job_folder.h"
#include "tests/support/petrel.h"

#include <QFile>
#include <QTest>

#include <gmock/gmock.h>
#include <limits>

namespace vicegrip::app {
namespace {

using test::Folder;
using testing::HasSubstr;

TEST(JobStore, EditIsOneUndoStepWithAName)
{
    JobStore store;
    store.setJob(test::petrel());
    const auto before = store.job();
    ASSERT_TRUE(store.edit(QStringLiteral("Rename"), [](job::Job& j) { j.title = "other"; }));
    EXPECT_EQ(store.undoStack().undoText(), QStringLiteral("Rename"));
    EXPECT_FALSE(store.isSaved());
    store.undoStack().undo();
    EXPECT_EQ(*store.job(), *before);
    EXPECT_TRUE(store.isSaved());
    store.undoStack().redo();
    EXPECT_EQ(store.job()->title, "other");
}

TEST(JobStore, AnEditThatChangesNothingOrBreaksTheJobLeavesNoStep)
{
    JobStore store;
    store.setJob(test::petrel());
    EXPECT_TRUE(store.edit(QStringLiteral("Nothing"), [](job::Job&) {}));
    const auto refused =
        store.edit(QStringLiteral("Break"), [](job::Job& j) { j.wires.front().to = j.wires.front().from; });
    ASSERT_FALSE(refused);
    EXPECT_THAT(refused.error().sentence, HasSubstr("both ends"));
    EXPECT_EQ(store.undoStack().count(), 0);
}

/// What could be saved and not opened again is no job: a number that no file holds, a value the schema forbids.
TEST(JobStore, AnEditThatNoFileCouldHoldIsRefused)
{
    JobStore store;
    store.setJob(test::petrel());
    const auto before = store.job();
    const auto refused = [&](const Change& change) {
        const auto kept = store.edit(QStringLiteral("Spoil"), change);
        EXPECT_FALSE(kept);
        EXPECT_EQ(store.job(), before);
        return kept ? std::string() : kept.error().text();
    };
    constexpr double kNone = std::numeric_limits<double>::quiet_NaN();
    EXPECT_THAT(refused([](job::Job& j) { job::find(j, job::CircuitId{"tps"})->rest.value = kNone; }),
                HasSubstr("circuits"));
    EXPECT_THAT(refused([](job::Job& j) { j.battery.ohm = std::numeric_limits<double>::infinity(); }),
                HasSubstr("ohm"));
    EXPECT_THAT(refused([](job::Job& j) {
                    for (parts::Part& s : j.parts)
                        if (auto* t = std::get_if<parts::Thermistor>(&s.model))
                            t->curve = parts::SteinhartHartCurve{2e-3, 1e-4, -9.5e-8};
                }),
                HasSubstr("turns back"));
    EXPECT_THAT(refused([](job::Job& j) { j.wires.front().length_m = -1; }), HasSubstr("wires/0"));
    ASSERT_TRUE(store.edit(QStringLiteral("Sound"), [](job::Job& j) { j.battery.volts = 12.1; }));
}

/// An edit that says it failed is refused with its sentence, whatever it has done to its copy by then.
TEST(JobStore, AnEditThatFailsIsRefusedWithItsReason)
{
    JobStore store;
    store.setJob(test::petrel());
    const auto before = store.job();
    const auto fails = [](job::Job& job) -> Result<void> {
        job.battery.volts = 11;
        return fail(ErrorCode::Reference, "there is no such thing");
    };
    EXPECT_EQ(store.edit(QStringLiteral("Fails"), fails).error().sentence, "there is no such thing");
    QString said;
    QObject::connect(&store, &JobStore::refused, [&](const QString& sentence) { said = sentence; });
    EXPECT_FALSE(store.editOrSay(QStringLiteral("Fails"), fails));
    EXPECT_EQ(said.toStdString(), "Fails: there is no such thing");
    EXPECT_EQ(store.job(), before);
    EXPECT_TRUE(store.isSaved()) << "no step is left of it";
}

/// Who opens another job within half a second of an edit finds it offered when he comes back.
TEST(JobStore, LeavingAJobKeepsTheLastHalfSecond)
{
    const Folder folder;
    {
        JobStore store;
        ASSERT_TRUE(store.open(folder.path()));
        EXPECT_TRUE(store.isOpen(folder.path()));
        EXPECT_TRUE(store.isOpen(folder.dir() + QStringLiteral("/./petrel.vicegrip")));
        ASSERT_TRUE(store.edit(QStringLiteral("Rename"), [](job::Job& j) { j.title = "other"; }));
        const QString other = folder.dir() + QStringLiteral("/other.vicegrip");
        QFile::copy(QString::fromStdString(test::petrelPath()), other);
        ASSERT_TRUE(store.open(other));
        EXPECT_FALSE(store.isOpen(folder.path()));
    }
    JobStore again;
    ASSERT_TRUE(again.open(folder.path()));
    ASSERT_TRUE(again.hasRecovery());
    again.takeRecovery();
    EXPECT_EQ(again.job()->title, "other");
}

TEST(JobStore, TheLastEditIsWhatGetsAnalysed)
{
    JobStore store;
    store.setJob(test::petrel());
    for (int i = 1; i <= 30; ++i)
        ASSERT_TRUE(store.edit(QStringLiteral("Firmware"), [i](job::Job& j) { j.ecu.firmware = std::to_string(i); }));
    ASSERT_TRUE(QTest::qWaitFor([&] { return store.analysis()->job == store.job(); }, 10000));
    EXPECT_EQ(store.analysis()->facts.at("ECU firmware"), "30");
}

TEST(JobStore, SavesAtomicallyAndReadsBack)
{
    const Folder folder;
    JobStore store;
    ASSERT_TRUE(store.open(folder.path()));
    ASSERT_TRUE(store.edit(QStringLiteral("Rename"), [](job::Job& j) { j.title = "kept"; }));
    ASSERT_TRUE(store.save());
    EXPECT_TRUE(store.isSaved());
    EXPECT_EQ(job::readFile(folder.path().toStdString())->title, "kept");
    EXPECT_FALSE(QFile::exists(folder.dir() + QStringLiteral("/.petrel.vicegrip.autosave")));
}

TEST(JobStore, UndoneBackToTheSavedStateDropsTheAutosave)
{
    const Folder folder;
    const QString autosave = folder.dir() + QStringLiteral("/.petrel.vicegrip.autosave");
    JobStore store;
    ASSERT_TRUE(store.open(folder.path()));
    ASSERT_TRUE(store.edit(QStringLiteral("Rename"), [](job::Job& j) { j.title = "kept"; }));
    ASSERT_TRUE(QTest::qWaitFor([&] { return QFile::exists(autosave); }, 5000));
    store.undoStack().undo();
    EXPECT_TRUE(QTest::qWaitFor([&] { return !QFile::exists(autosave); }, 5000));
}

} // namespace
} // namespace vicegrip::app
