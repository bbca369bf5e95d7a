#include "app/store/job_store.h"
#include "app/store/whole_file.h"
#include "tests/support/job_folder.h"
#include "tests/support/petrel.h"

#include <QFile>
#include <QSysInfo>
#include <QTest>

#include <array>
#include <csignal>
#include <gmock/gmock.h>
#include <random>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

/// Who may write a job's file, what a crash leaves beside it, and what is said when it cannot be written.
namespace vicegrip::app {
namespace {

using test::Folder;
using testing::HasSubstr;

/// Writes fail as on a full disk while one of these stands.
class FullDisk
{
  public:
    FullDisk()
    {
        signal(SIGXFSZ, SIG_IGN); // NOLINT(cert-err33-c)
        getrlimit(RLIMIT_FSIZE, &m_before);
        rlimit small = m_before;
        small.rlim_cur = 100;
        setrlimit(RLIMIT_FSIZE, &small);
    }
    ~FullDisk() { setrlimit(RLIMIT_FSIZE, &m_before); }
    FullDisk(const FullDisk&) = delete;
    FullDisk& operator=(const FullDisk&) = delete;

  private:
    rlimit m_before{};
};

TEST(JobStore, ASecondWriterReadsOnly)
{
    const Folder folder;
    JobStore first, second;
    ASSERT_TRUE(first.open(folder.path()));
    EXPECT_TRUE(first.readOnlyReason().isEmpty());
    ASSERT_TRUE(second.open(folder.path()));
    EXPECT_THAT(second.readOnlyReason().toStdString(), HasSubstr("open in another window"));
    EXPECT_FALSE(second.save());
    EXPECT_FALSE(second.saveCopy(folder.path())) << "a copy does not take the place of what is open elsewhere";
    EXPECT_EQ(*job::readFile(folder.path().toStdString()), test::petrel());
    EXPECT_THAT(second.saveCopy(QStringLiteral("/nowhere/copy.vicegrip")).error().text(), HasSubstr("not saved"));
    EXPECT_EQ(second.path(), folder.path()) << "and what was open stays open";

    ASSERT_TRUE(second.edit(QStringLiteral("Rename"), [](job::Job& j) { j.title = "mine"; }));
    EXPECT_FALSE(second.keep()) << "kept nowhere";
    const QString copy = folder.dir() + QStringLiteral("/copy.vicegrip");
    ASSERT_TRUE(second.saveCopy(copy));
    EXPECT_EQ(second.path(), copy) << "it goes on there";
    EXPECT_EQ(second.readOnlyReason(), QString());
    EXPECT_TRUE(second.isSaved());
    ASSERT_TRUE(second.edit(QStringLiteral("Rename"), [](job::Job& j) { j.title = "later"; }));
    ASSERT_TRUE(second.save());
    EXPECT_EQ(job::readFile(copy.toStdString())->title, "later");
    EXPECT_EQ(*job::readFile(folder.path().toStdString()), test::petrel());
    JobStore third;
    ASSERT_TRUE(third.open(copy));
    EXPECT_FALSE(third.readOnlyReason().isEmpty()) << "the copy is locked by who went on there";
}

/// As after a crash: a saved job, and an autosave beside it that says more.
QString leaveBehind(const Folder& folder, const char* title)
{
    job::Job more = *job::readFile(folder.path().toStdString());
    more.title = title;
    const QString autosave = folder.dir() + QStringLiteral("/.petrel.vicegrip.autosave");
    EXPECT_TRUE(writeWhole(autosave, QByteArray::fromStdString(job::write(more))));
    return autosave;
}

TEST(JobStore, AnUnansweredRecoveryOutlivesEditsSavesAndAnotherCrash)
{
    const Folder folder;
    const QString autosave = leaveBehind(folder, "lost once");
    {
        JobStore store;
        ASSERT_TRUE(store.open(folder.path()));
        ASSERT_TRUE(store.hasRecovery());
        ASSERT_TRUE(store.edit(QStringLiteral("Rename"), [](job::Job& j) { j.title = "went on"; }));
        ASSERT_TRUE(QTest::qWaitFor([&] { return QFile::exists(autosave); }, 5000));
        ASSERT_TRUE(store.save());
    }
    for (const QString& earlier :
         QDir(folder.dir()).entryList({QStringLiteral(".petrel.vicegrip.recovered*")}, QDir::Files | QDir::Hidden)) {
        QFile file(QDir(folder.dir()).filePath(earlier)); // its date tells the later one from the earlier
        ASSERT_TRUE(file.open(QIODevice::ReadWrite));
        ASSERT_TRUE(file.setFileTime(QDateTime::currentDateTime().addSecs(-60), QFileDevice::FileModificationTime));
    }
    leaveBehind(folder, "lost twice");
    JobStore store;
    ASSERT_TRUE(store.open(folder.path()));
    ASSERT_TRUE(store.hasRecovery());
    int offers = 0;
    QObject::connect(&store, &JobStore::recoveryOffered, [&] { ++offers; });
    store.takeRecovery();
    EXPECT_EQ(store.job()->title, "lost twice") << "the latest first";
    EXPECT_EQ(offers, 1) << "and then the other";
    store.dismissRecovery();
    EXPECT_FALSE(store.hasRecovery());
    EXPECT_EQ(store.job()->title, "lost twice");
    EXPECT_EQ(QDir(folder.dir()).entryList({QStringLiteral(".petrel.vicegrip.recovered*")}, QDir::Files | QDir::Hidden),
              QStringList());
    EXPECT_TRUE(QFile::exists(autosave)) << "what was taken is kept at once";
}

TEST(JobStore, ANewerDateOnTheJobDoesNotHideWhatACrashLeft)
{
    const Folder folder;
    leaveBehind(folder, "lost");
    QFile file(folder.path());
    ASSERT_TRUE(file.open(QIODevice::ReadWrite));
    ASSERT_TRUE(file.setFileTime(QDateTime::currentDateTime().addSecs(3600), QFileDevice::FileModificationTime));
    file.close();
    JobStore store;
    ASSERT_TRUE(store.open(folder.path()));
    EXPECT_TRUE(store.hasRecovery());
}

TEST(JobStore, WhatIsSavedAlreadyIsNotOffered)
{
    const Folder folder;
    leaveBehind(folder, test::petrel().title.c_str());
    JobStore store;
    ASSERT_TRUE(store.open(folder.path()));
    EXPECT_FALSE(store.hasRecovery());
    EXPECT_EQ(QDir(folder.dir()).entryList({QStringLiteral(".petrel*recovered*")}, QDir::Files | QDir::Hidden),
              QStringList());
}

TEST(JobStore, AFullDiskIsSaidAndTheSavedJobStays)
{
    const Folder folder;
    JobStore store;
    ASSERT_TRUE(store.open(folder.path()));
    ASSERT_TRUE(store.edit(QStringLiteral("Rename"), [](job::Job& j) { j.title = "kept"; }));
    {
        const FullDisk full;
        const auto saved = store.save();
        ASSERT_FALSE(saved);
        EXPECT_EQ(saved.error().code, ErrorCode::Io);
        EXPECT_THAT(saved.error().text(), HasSubstr("not saved"));
    }
    EXPECT_EQ(*job::readFile(folder.path().toStdString()), test::petrel());
    EXPECT_EQ(store.job()->title, "kept");
    EXPECT_TRUE(store.save()) << "once there is room again";
}

TEST(JobStore, AReadOnlyFolderOpensReadOnlyAndSaysSo)
{
    const Folder folder;
    QFile::setPermissions(folder.dir(), QFileDevice::ReadOwner | QFileDevice::ExeOwner | QFileDevice::ReadGroup |
                                            QFileDevice::ExeGroup | QFileDevice::ReadOther | QFileDevice::ExeOther);
    const bool root = geteuid() == 0;
    if (root) {
        ASSERT_EQ(seteuid(65534), 0); // root may write anywhere: be nobody for a moment
    }
    JobStore store;
    const auto opened = store.open(folder.path());
    const auto saved = store.save();
    if (root) {
        ASSERT_EQ(seteuid(0), 0);
    }
    QFile::setPermissions(folder.dir(), QFileDevice::ReadOwner | QFileDevice::WriteOwner | QFileDevice::ExeOwner);
    ASSERT_TRUE(opened) << opened.error().text();
    EXPECT_THAT(store.readOnlyReason().toStdString(), HasSubstr("cannot be written"));
    EXPECT_FALSE(saved);
}

TEST(JobFile, OfANewerVersionIsLookedAtAndNotWritten)
{
    const Folder folder;
    job::Job newer = *job::readFile(folder.path().toStdString());
    newer.version = job::kVersion + 1;
    ASSERT_TRUE(writeWhole(folder.path(), QByteArray::fromStdString(job::write(newer))));
    JobStore store;
    ASSERT_TRUE(store.open(folder.path()));
    EXPECT_THAT(store.readOnlyReason().toStdString(), HasSubstr("newer Vicegrip"));
    ASSERT_TRUE(store.edit("Rename", [](job::Job& job) { job.title = "changed"; }));
    EXPECT_FALSE(store.save());
    EXPECT_NE(job::readFile(folder.path().toStdString())->title, "changed");
}

/// The lock of a process of this machine that is gone; where it lies.
QString lockOfTheDead(const Folder& folder)
{
    const pid_t gone = fork();
    if (gone == 0)
        _exit(0);
    int status = 0;
    waitpid(gone, &status, 0);
    QFile file(folder.dir() + QStringLiteral("/.petrel.vicegrip.lock"));
    EXPECT_TRUE(file.open(QIODevice::WriteOnly));
    file.write(QStringLiteral("%1\nvicegrip\n%2\n").arg(gone).arg(QSysInfo::machineHostName()).toUtf8());
    return file.fileName();
}

/// What is left when somebody dies while he takes a dead one's lock away: the lock, and a mark that names nobody.
TEST(JobFile, ALockThatWasBeingTakenAwayIsRecovered)
{
    const Folder folder;
    QFile mark(lockOfTheDead(folder) + QStringLiteral(".rmlock"));
    ASSERT_TRUE(mark.open(QIODevice::WriteOnly));
    mark.close();
    const auto opened = JobFile::open(folder.path());
    ASSERT_TRUE(opened);
    EXPECT_EQ(opened->first.readOnlyReason().toStdString(), "");
}

/// Several start at once where somebody died: one of them has the job, the others may look.
TEST(JobFile, OfManyStartsOnADeadLockOneOwnsTheJob)
{
    for (int round = 0; round < 4; ++round) {
        const Folder folder;
        lockOfTheDead(folder);
        int status = 0;
        std::array<int, 2> tried{}, over{}; // each says what he got, and stays until all have said it
        ASSERT_EQ(pipe(tried.data()), 0);
        ASSERT_EQ(pipe(over.data()), 0);
        constexpr int kStarts = 8;
        for (int i = 0; i < kStarts; ++i) {
            const pid_t child = fork();
            ASSERT_GE(child, 0);
            if (child > 0)
                continue;
            close(over[1]);
            const auto opened = JobFile::open(folder.path());
            char said = opened && opened->first.readOnlyReason().isEmpty() ? 'o' : 'r';
            const bool told = write(tried[1], &said, 1) == 1 && read(over[0], &said, 1) == 0;
            _exit(told ? 0 : 1);
        }
        int owners = 0;
        for (int i = 0; i < kStarts; ++i) {
            char said = 0;
            ASSERT_EQ(read(tried[0], &said, 1), 1);
            owners += said == 'o' ? 1 : 0;
        }
        close(over[1]);
        while (wait(&status) > 0)
            EXPECT_TRUE(WIFEXITED(status) && WEXITSTATUS(status) == 0);
        for (const int end : {tried[0], tried[1], over[0]})
            close(end);
        EXPECT_EQ(owners, 1) << "round " << round;
    }
}

TEST(JobStore, ALockFromAnotherMachineIsToldAndTakenOverKnowingly)
{
    const Folder folder;
    const QString lock = folder.dir() + QStringLiteral("/.petrel.vicegrip.lock");
    const auto lockElsewhere = [&] {
        QFile file(lock);
        EXPECT_TRUE(file.open(QIODevice::WriteOnly));
        file.write("4711\nvicegrip\nworkshop-pc\n");
    };
    lockElsewhere();
    JobStore store;
    ASSERT_TRUE(store.open(folder.path()));
    EXPECT_THAT(store.readOnlyReason().toStdString(), testing::AllOf(HasSubstr("workshop-pc"), HasSubstr("since")));
    ASSERT_TRUE(store.canTakeOver());
    ASSERT_TRUE(store.edit(QStringLiteral("Rename"), [](job::Job& j) { j.title = "typed"; }));
    EXPECT_FALSE(store.save());

    // Somebody did work on it there: then it is not taken.
    job::Job theirs = test::petrel();
    theirs.title = "theirs";
    ASSERT_TRUE(writeWhole(folder.path(), QByteArray::fromStdString(job::write(theirs))));
    EXPECT_THAT(store.takeOver().error().sentence, HasSubstr("changed on disk"));
    ASSERT_TRUE(writeWhole(folder.path(), QByteArray::fromStdString(job::write(test::petrel()))));

    ASSERT_TRUE(store.takeOver());
    EXPECT_EQ(store.readOnlyReason(), QString());
    EXPECT_FALSE(store.canTakeOver());
    ASSERT_TRUE(store.save());
    EXPECT_EQ(job::readFile(folder.path().toStdString())->title, "typed");
    JobStore other;
    ASSERT_TRUE(other.open(folder.path()));
    EXPECT_FALSE(other.readOnlyReason().isEmpty()) << "locked from here now";
    EXPECT_FALSE(other.canTakeOver()) << "a living window is asked, not robbed";
}

/// kill -9 while saving, over and over: what is on disk is always a whole job.
TEST(JobFile, KilledWhileSavingLosesNothing)
{
    const Folder folder;
    const std::string path = folder.path().toStdString();
    std::mt19937 random(2); // NOLINT(bugprone-random-generator-seed)
    for (int round = 0; round < 25; ++round) {
        const pid_t child = fork();
        ASSERT_GE(child, 0);
        if (child == 0) {
            auto opened = JobFile::open(folder.path());
            if (!opened || !opened->first.readOnlyReason().isEmpty())
                _exit(1);
            for (int i = 0;; ++i) {
                opened->second.title = "version " + std::to_string(i);
                if (!opened->first.save(opened->second))
                    _exit(2);
            }
        }
        usleep(static_cast<useconds_t>(5000 + random() % 40000));
        ASSERT_EQ(kill(child, SIGKILL), 0);
        int status = 0;
        waitpid(child, &status, 0);
        ASSERT_TRUE(WIFSIGNALED(status)) << "it ended by itself with " << WEXITSTATUS(status)
                                         << ": is the dead one's lock recovered?";
        const auto job = job::readFile(path);
        ASSERT_TRUE(job) << job.error().text();
        ASSERT_EQ(job->circuits.size(), 23U);
    }
}

} // namespace
} // namespace vicegrip::app
