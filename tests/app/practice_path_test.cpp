#include "core/job/json.h"
#include "core/wiggle/wiggle.h"
#include "tests/support/clipped.h"
#include "tests/support/library.h"
#include "tests/support/new_user.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

#include <QDir>
#include <QDirIterator>
#include <QStandardPaths>

/// Rounds of practice from the choice of a level to the debrief, in the real window with the real bench.
namespace vicegrip {
namespace {

using app::Practice;
using testing::HasSubstr;
using testing::Not;

class PracticePath : public testing::Test
{
  protected:
    PracticePath()
    {
        m_path = w.folder.filePath(QStringLiteral("own.vicegrip"));
        test::NewUser::write(m_path, QByteArray::fromStdString(job::write(test::petrel())));
        EXPECT_TRUE(w.window.openJob(m_path));
        w.settle();
    }

    [[nodiscard]] const job::Job& job() { return *w.window.desk().store.job(); }
    [[nodiscard]] Practice& practice() { return w.window.desk().practice; }

    /// From the Board, by keys.
    void begin(int level, unsigned seed)
    {
        w.window.setRoundSeed(seed);
        w.key(Qt::Key_0, Qt::ControlModifier);
        w.settle();
        w.key(Qt::Key_P);
        w.settle();
        test::expectNothingClipped(w, "the choice");
        w.key(static_cast<Qt::Key>(Qt::Key_0 + level));
        w.settle();
        ASSERT_EQ(practice().state(), Practice::State::Playing) << w.window.notices().said().toStdString();
        ASSERT_TRUE(QTest::qWaitFor([&] { return w.window.desk().live.ecuLive(); }, 15000));
        ASSERT_TRUE(QTest::qWaitFor([&] { return w.window.desk().live.meterReady(); }, 15000));
    }

    void take()
    {
        const size_t before = job().proofs.size();
        w.key(Qt::Key_M);
        ASSERT_TRUE(QTest::qWaitFor([&] { return job().proofs.size() > before; }, 10000));
        w.settle();
    }

    /// As who knows it: by the words of what it is.
    void name(const std::string& words)
    {
        w.key(Qt::Key_F6);
        auto* list = w.find<QTableWidget>("practice-candidates");
        ASSERT_TRUE(QTest::qWaitFor([&] { return list->rowCount() > 0; }, 10000));
        w.type(w.find<QLineEdit>("practice-filter"), words.c_str());
        w.settle();
    }

    void waitForDebrief()
    {
        ASSERT_TRUE(QTest::qWaitFor([&] { return practice().debrief() != nullptr; }, 20000));
        w.settle();
    }

    test::NewUser user;
    test::Window w;
    QString m_path;
};

TEST_F(PracticePath, OneFaultIsReadNamedMendedAndGoneThrough)
{
    begin(1, 3);
    const practice::Round round = *practice().round();
    EXPECT_EQ(w.textOf("complaint"), "Practice 1. " + round.complaint);
    EXPECT_THAT(w.textOf("complaint"), Not(HasSubstr(round.truth[0].what)));
    EXPECT_EQ(job().proofs.size(), 1U) << "what the driver saw";
    const job::CircuitId circuit = round.circuits[0];
    EXPECT_EQ(w.window.desk().selection.circuit(), circuit);
    take();
    EXPECT_TRUE(w.window.desk().selection.pointed().empty()) << "the finder is quiet";
    EXPECT_FALSE(w.find<QWidget>("belief")->isVisible());
    w.key(Qt::Key_F7);
    EXPECT_TRUE(QTest::qWaitFor([&] { return w.find<QWidget>("belief")->isVisible(); }, 10000)) << "it speaks";
    EXPECT_EQ(practice().hints(), 1);
    take();
    EXPECT_FALSE(w.find<QWidget>("belief")->isVisible()) << "until something is done";
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.settle();

    name("no such thing at all");
    EXPECT_EQ(w.find<QTableWidget>("practice-candidates")->rowCount(), 0);
    w.find<QLineEdit>("practice-filter")->clear();
    w.type(w.find<QLineEdit>("practice-filter"), round.truth[0].what.c_str());
    w.settle();
    ASSERT_EQ(w.find<QTableWidget>("practice-candidates")->rowCount(), 1) << round.truth[0].what;
    w.key(Qt::Key_Return);
    w.settle();
    waitForDebrief();
    EXPECT_THAT(w.textOf("debrief-verdict"), HasSubstr("Mended after")) << "a hint was taken";
    EXPECT_THAT(w.textOf("debrief-truth"), HasSubstr(round.truth[0].what));
    EXPECT_THAT(w.textOf("debrief-account"), HasSubstr("The finder needs"));
    EXPECT_EQ(w.find<QTableWidget>("debrief-steps")->rowCount(), 2);
    test::expectNothingClipped(w, "the debrief");
    EXPECT_EQ(practice().record().rounds, 1);

    w.key(Qt::Key_B);
    w.settle();
    EXPECT_EQ(practice().state(), Practice::State::Off);
    EXPECT_EQ(w.window.desk().store.path(), m_path) << "back at one's own job";
    EXPECT_EQ(job(), test::petrel()) << "as it was";
}

TEST_F(PracticePath, WhatComesAndGoesIsFoundByWiggling)
{
    begin(5, 2);
    const auto loose = std::get<faults::Loose>(practice().round()->faults().front());
    w.key(Qt::Key_3, Qt::AltModifier);
    w.settle();
    ASSERT_TRUE(QTest::qWaitFor([&] { return w.textOf("wiggle").find("Hands to") == 0; }, 20000));
    auto* places = w.find<QTableWidget>("places-to-hold");
    const auto holds = wiggle::holds(job(), practice().round()->circuits[0], job::Condition::KeyOn);
    ASSERT_EQ(static_cast<size_t>(places->rowCount()), holds.size());
    for (size_t h = 0; h < holds.size(); ++h)
        if (std::ranges::find(holds[h].may, loose, &wiggle::MayLetGo::what) != holds[h].may.end())
            places->setCurrentCell(static_cast<int>(h), 1);
    for (int i = 0; i < 60 && w.textOf("wiggle").find("lets go") == std::string::npos; ++i) {
        if (w.textOf("wiggle").find("Wait:") != 0)
            w.key(w.textOf("wiggle").find("Hands off:") == 0 ? Qt::Key_O : Qt::Key_Space);
        const std::string asked = w.textOf("wiggle");
        (void)QTest::qWaitFor([&] { return w.textOf("wiggle") != asked; }, 6000);
    }
    ASSERT_THAT(w.textOf("wiggle"), HasSubstr("lets go"));
    w.key(Qt::Key_D);
    w.settle();
    waitForDebrief();
    EXPECT_TRUE(practice().debrief()->clean());
    EXPECT_THAT(w.textOf("debrief-verdict"), HasSubstr("Found in"));
    EXPECT_EQ(practice().record().kinds.at("comes-and-goes").right, 1);
    EXPECT_TRUE(practice::isDue(practice().record(), "comes-and-goes")) << "in the next round";
}

/// A slip of hands; what is sound is mended first, then the round is given up.
TEST_F(PracticePath, WhoGivesUpIsToldAndPlaysAnother)
{
    begin(3, 1);
    const std::string first = practice().round()->complaint;
    name("wire w16 is open");
    w.key(Qt::Key_Return);
    w.settle();
    EXPECT_EQ(practice().state(), Practice::State::Playing) << "that was sound";
    EXPECT_EQ(job().mends.size(), 1U);
    w.key(Qt::Key_F8);
    w.settle();
    waitForDebrief();
    EXPECT_THAT(w.textOf("debrief-verdict"), HasSubstr("Not found"));
    EXPECT_THAT(w.textOf("debrief-account"), HasSubstr("Sound parts mended: 1"));
    w.window.setRoundSeed(8);
    w.key(Qt::Key_N);
    w.settle();
    ASSERT_EQ(practice().state(), Practice::State::Playing);
    EXPECT_EQ(practice().round()->level, practice::Level::Hands);
    EXPECT_NE(practice().round()->complaint, first);
    EXPECT_TRUE(job().mends.empty());
    EXPECT_TRUE(w.window.openJob(m_path));
    w.settle();
    EXPECT_EQ(practice().state(), Practice::State::Off) << "another job is opened: the round is over";
    EXPECT_FALSE(w.find<QWidget>("practice-bar")->isVisible());
}

/// What one round heard is none of the next, and one's own mends are none of any.
TEST_F(PracticePath, RoundsKnowNothingOfOneAnotherNorOfOtherJobs)
{
    const auto said = [&] { return w.textOf("wiggle-says"); };
    for (const bool first : {true, false}) {
        begin(5, 2);
        w.key(Qt::Key_3, Qt::AltModifier);
        w.settle();
        ASSERT_TRUE(QTest::qWaitFor([&] { return w.textOf("wiggle").find("Hands to") == 0; }, 20000)) << said();
        EXPECT_EQ(said().find("drop-out"), std::string::npos) << said();
        if (!first)
            break;
        const auto loose = std::get<faults::Loose>(practice().round()->faults().front());
        const auto holds = wiggle::holds(job(), practice().round()->circuits[0], job::Condition::KeyOn);
        for (size_t h = 0; h < holds.size(); ++h)
            if (std::ranges::find(holds[h].may, loose, &wiggle::MayLetGo::what) != holds[h].may.end())
                w.find<QTableWidget>("places-to-hold")->setCurrentCell(static_cast<int>(h), 1);
        w.key(Qt::Key_Space);
        ASSERT_TRUE(QTest::qWaitFor([&] { return said().find("drop-out") != std::string::npos; }, 20000));
        w.key(Qt::Key_F8);
        waitForDebrief();
        w.key(Qt::Key_B);
        w.settle();
    }
    const practice::Record before = practice().record();
    job::Job other = test::petrel(); // in which the very same wire was mended
    other.mends.push_back({{practice().round()->truth[0].subjects.begin(), practice().round()->truth[0].subjects.end()},
                           "Mended long ago",
                           "2026-01-01T10:00:00Z"});
    const QString path = w.folder.filePath(QStringLiteral("other.vicegrip"));
    test::NewUser::write(path, QByteArray::fromStdString(job::write(other)));
    ASSERT_TRUE(w.window.openJob(path));
    w.settle();
    EXPECT_EQ(practice().state(), Practice::State::Off);
    EXPECT_EQ(practice().record().rounds, before.rounds) << "it was not found";
}

/// What was not saved when the round began is there again after it, without a question.
TEST_F(PracticePath, EditsThatWereNotSavedComeBack)
{
    ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("t"), [](job::Job& j) { j.title = "edited"; }));
    w.settle();
    begin(1, 3);
    EXPECT_EQ(job().title, "edited") << "on the car as it is";
    w.key(Qt::Key_F8);
    waitForDebrief();
    w.key(Qt::Key_B);
    w.settle();
    EXPECT_EQ(w.window.desk().store.path(), m_path);
    EXPECT_EQ(job().title, "edited");
    EXPECT_EQ(w.window.notices().said(), QString());
}

/// Nothing on disk tells what is wrong while the round is played.
TEST_F(PracticePath, HiddenFaultsAreInNoFile)
{
    begin(1, 3);
    take();
    w.key(Qt::Key_S, Qt::ControlModifier);
    w.settle();
    take();
    const std::string said = faults::writeFaults(practice().round()->faults());
    const std::string kind = said.substr(said.find("\"kind\""), 24);
    int files = 0;
    for (const auto where : {QStandardPaths::AppDataLocation, QStandardPaths::AppConfigLocation}) {
        QDirIterator in(QStandardPaths::writableLocation(where), QDir::Files | QDir::Hidden,
                        QDirIterator::Subdirectories);
        while (in.hasNext()) {
            QFile file(in.next());
            ASSERT_TRUE(file.open(QIODevice::ReadOnly));
            const std::string all = file.readAll().toStdString();
            EXPECT_EQ(all.find("\"faults\""), std::string::npos) << file.fileName().toStdString();
            EXPECT_EQ(all.find(practice().round()->truth[0].what), std::string::npos);
            ++files;
        }
    }
    EXPECT_GT(files, 0);
    const auto& live = w.window.desk().live;
    const job::Circuit& circuit = *job::find(job(), practice().round()->circuits[0]);
    const auto reads = live.reading(job(), circuit);
    const auto sound = wiggle::readsWith(job(), circuit, job::Condition::KeyOn, {});
    ASSERT_TRUE(reads && sound);
    EXPECT_GT(std::abs(*reads - *sound), 0.02) << "saving the job does not mend the car";
}

/// The file of what was practised is kept from start to start.
TEST_F(PracticePath, WhatWasPractisedIsKept)
{
    begin(1, 3);
    w.key(Qt::Key_F8);
    waitForDebrief();
    const std::string family = practice().round()->truth[0].family;
    app::JobStore store;
    const Practice again(store);
    EXPECT_EQ(again.record().rounds, 1);
    EXPECT_EQ(again.record().kinds.at(family).wrong, 1);
}

} // namespace
} // namespace vicegrip
