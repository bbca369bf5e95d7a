#pragma once

#include "app/shell/main_window.h"
#include "app/shell/notices.h"
#include "app/store/whole_file.h"
#include "core/job/json.h"
#include "tests/support/petrel.h"

#include <QAbstractButton>
#include <QApplication>
#include <QFile>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QTest>
#include <QThreadPool>

/// The real window on a copy of the demo job, driven by keys and clicks, read by what a person sees.
namespace vicegrip::test {

/// Documents and library of the user in a folder of the test, while this lives.
class UserFolder
{
  public:
    UserFolder() : m_data(qgetenv("XDG_DATA_HOME")), m_home(qgetenv("HOME"))
    {
        qputenv("XDG_DATA_HOME", home.path().toUtf8());
        qputenv("HOME", home.path().toUtf8());
    }
    ~UserFolder()
    {
        m_data.isNull() ? qunsetenv("XDG_DATA_HOME") : qputenv("XDG_DATA_HOME", m_data);
        qputenv("HOME", m_home);
    }

    QTemporaryDir home;

  private:
    QByteArray m_data, m_home;
};

/// Takes one of the notice's choices.
inline void take(app::MainWindow& window, const char* choice)
{
    for (QPushButton* b : window.notices().findChildren<QPushButton*>())
        if (b->text() == QLatin1String(choice)) {
            b->click();
            return;
        }
    ADD_FAILURE() << "no choice " << choice << " in: " << window.notices().said().toStdString();
}

class Window
{
  public:
    Window()
    {
        QFile::copy(QString::fromStdString(petrelPath()), job());
        setFaults("[]");
        EXPECT_TRUE(window.openJob(job()));
        window.resize(1280, 800); // whatever the desk is
        window.show();
        settle();
    }

    [[nodiscard]] QString job() const { return folder.filePath(QStringLiteral("petrel.vicegrip")); }
    [[nodiscard]] QString faults() const { return folder.filePath(QStringLiteral("faults.json")); }

    void setFaults(const QByteArray& list) const
    {
        QFile file(faults());
        EXPECT_TRUE(file.open(QIODevice::WriteOnly));
        file.write("{\"faults\": " + list + "}");
    }

    void startBench()
    {
        window.desk().live.startBench(QStringLiteral(VICEGRIP_BENCH), job(), faults());
        EXPECT_TRUE(
            QTest::qWaitFor([&] { return window.desk().live.meterReady() && window.desk().live.ecuLive(); }, 10000));
    }

    /// Lets the analysis catch up with the job, and the views with what they work out beside the window.
    void settle()
    {
        const auto isAnalysed = [&] { return window.desk().store.analysis()->job == window.desk().store.job(); };
        do { // an answer may begin what was asked for meanwhile, or change the job
            EXPECT_TRUE(QTest::qWaitFor(isAnalysed, 10000));
            QCoreApplication::processEvents();
            QThreadPool::globalInstance()->waitForDone();
            QCoreApplication::processEvents();
        } while (QThreadPool::globalInstance()->activeThreadCount() > 0 || !isAnalysed() ||
                 !window.desk().promises.isIdle());
        for (int level = 0; level < 4; ++level)
            QCoreApplication::processEvents(); // what they changed is laid out, from the inside out
    }

    template <class W> W* find(const char* name)
    {
        W* found = nullptr;
        for (W* candidate : window.findChildren<W*>(QLatin1String(name)))
            if (found == nullptr || candidate->isVisible())
                found = candidate;
        EXPECT_NE(found, nullptr) << name;
        return found;
    }

    [[nodiscard]] std::string textOf(const char* name) { return find<QLabel>(name)->text().toStdString(); }
    void click(const char* name) { QTest::mouseClick(find<QAbstractButton>(name), Qt::LeftButton); }
    void key(Qt::Key k, Qt::KeyboardModifiers modifiers = Qt::NoModifier) { QTest::keyClick(&window, k, modifiers); }
    [[nodiscard]] std::string notice() { return window.notices().said().toStdString(); }

    void choose(const char* circuit)
    {
        window.desk().selection.setCircuit({circuit});
        settle();
    }

    /// Types into a field, and Enter.
    void type(QLineEdit* edit, const char* typed)
    {
        edit->setFocus();
        edit->selectAll();
        QTest::keyClicks(edit, QString::fromUtf8(typed));
        QTest::keyClick(edit, Qt::Key_Return);
        settle();
    }

    [[nodiscard]] proof::Judged at(const char* circuit, const char* station,
                                   job::Condition condition = job::Condition::KeyOn)
    {
        return test::at(*window.desk().store.analysis(), circuit, station, condition);
    }

    /// Waits for a state, since links and analysis answer in their own time.
    [[nodiscard]] bool becomes(const char* circuit, const char* station, proof::State state)
    {
        return QTest::qWaitFor(
            [&] {
                settle();
                return at(circuit, station).state == state;
            },
            5000);
    }

    /// Waits until the ECU reads what a station must read, or does no longer: the bench follows a saved job and its
    /// fault list in its own time.
    [[nodiscard]] bool ecuReads(const char* circuit, bool asPromised = true)
    {
        return QTest::qWaitFor(
            [&] {
                settle();
                const auto e = at(circuit, "input").expectation;
                const auto job = window.desk().store.job();
                const auto now = window.desk().live.now(*job, *job::find(*job, job::CircuitId{circuit}), e);
                return now && e.promises() && e.allows(*now) == asPromised;
            },
            10000);
    }

    QTemporaryDir folder;
    app::MainWindow window;
};

/// As another program writes: whole, in the file's place.
inline void writeElsewhere(const Window& w, const char* title)
{
    job::Job theirs = petrel();
    theirs.title = title;
    EXPECT_TRUE(app::writeWhole(w.job(), QByteArray::fromStdString(job::write(theirs))));
}

} // namespace vicegrip::test
