#include "core/recording/recording.h"
#include "tests/support/links.h"
#include "tests/support/new_user.h"
#include "tests/support/stalls.h"

#include <ctime>
#include <fstream>
#include <gmock/gmock.h>

/// Long recordings and large databases, with the views alive.
namespace vicegrip::test {
namespace {

constexpr double kHour_s = 3600, kTick_s = 0.02;

/// What an input reads at a moment of that hour.
double voltsAt(double time_s)
{
    return 1 + 3 * time_s / kHour_s;
}

/// An hour of every input of the job, fifty times a second.
void writeHour(const job::Job& job, const QString& path)
{
    const auto columns = recording::columnsOf(job);
    recording::Writer writer(columns);
    std::ofstream out(path.toStdString(), std::ios::binary);
    std::string text = writer.header();
    for (double t = 0; t < kHour_s; t += kTick_s) {
        for (const recording::Column& c : columns)
            if (c.tells == job::Tells::Volts)
                writer.take({c.input, c.tells, t, voltsAt(t)}, text);
        out << text;
        text.clear();
    }
    writer.finish(text);
    out << text;
}

TEST(LinksPlayed, AnHourAtFiftyTimesWithEveryViewAlive)
{
    const NewUser user;
    Window w;
    auto& desk = w.window.desk();
    const auto job = desk.store.job();
    const QString file = user.file("hour.csv");
    writeHour(*job, file);
    w.key(Qt::Key_L, Qt::ControlModifier);
    w.settle();
    w.find<QLineEdit>("recording-file")->setText(file);
    pick(w, "recording-speed", QStringLiteral("50"));
    w.click("recording-play");
    ASSERT_TRUE(QTest::qWaitFor([&] { return desk.live.ecu().played() && desk.live.ecuLive(); }, 10000))
        << w.textOf("recording-status");
    EXPECT_NEAR(desk.live.ecu().played()->seconds, kHour_s, 0.1) << "its length is known before it has been read";
    const job::Circuit& clt = *job::find(*job, job::CircuitId{"clt"});
    const double began_s = desk.live.ecu().played()->now_s;
    QElapsedTimer real;
    real.start();
    for (const auto stage : {analysis::Stage::Board, analysis::Stage::Scale, analysis::Stage::Meter}) {
        w.click("links-done");
        w.choose("clt");
        w.window.showStage(stage);
        w.settle();
        const Stalls stalls;
        const double until_s = desk.live.ecu().played()->now_s + 60;
        double least = 10, most = 0;
        EXPECT_TRUE(QTest::qWaitFor(
            [&] {
                const auto volts = desk.live.volts(*job, clt);
                least = std::min(least, volts.value_or(10));
                most = std::max(most, volts.value_or(0));
                return desk.live.ecu().played()->now_s > until_s;
            },
            20000));
        EXPECT_NEAR(least, voltsAt(until_s - 60), 0.02) << "what is shown is of the moment that is played";
        EXPECT_NEAR(most, voltsAt(desk.live.ecu().played()->now_s), 0.02) << "it went on while the window came round";
        EXPECT_LT(stalls.longest(), kStall) << int(stage);
        w.key(Qt::Key_L, Qt::ControlModifier);
        w.settle();
    }
    const double share = (desk.live.ecu().played()->now_s - began_s) / (50e-3 * static_cast<double>(real.elapsed()));
    EXPECT_NEAR(share, 1, 0.1) << "no faster and no slower";
}

/// As many values as come in a minute at ten thousand a second, faster than they would: every one is on the disk. What
/// that costs is told beside the test (RecordProperty), as a share of one core over that minute.
TEST(LinksPlayed, AMinuteOfTenThousandValuesASecondIsKeptWhole)
{
    const NewUser user;
    const auto columns = recording::columnsOf(petrel());
    const QString file = user.file("minute.csv");
    constexpr int kValues = 600'000, kBatch = 100, kMinute_s = 60;
    const auto cpu_s = [] {
        timespec t{};
        clock_gettime(CLOCK_PROCESS_CPUTIME_ID, &t);
        return static_cast<double>(t.tv_sec) + static_cast<double>(t.tv_nsec) * 1e-9;
    };
    const double before_s = cpu_s();
    {
        app::Recorder recorder;
        recorder.start(file, columns);
        QList<stream::Heard> batch;
        for (int i = 0; i < kValues; ++i) {
            const recording::Column& c = columns[static_cast<size_t>(i) % columns.size()];
            batch.append({c.input, c.tells, i * 1e-4, 1.0 + i % 4096});
            if (batch.size() == kBatch) {
                recorder.take(batch, i * 1e-4);
                batch.clear();
            }
        }
        EXPECT_EQ(recorder.values(), kValues);
    } // it ends with what was recorded on the disk
    RecordProperty("share", std::to_string((cpu_s() - before_s) / kMinute_s));
    std::ifstream in(file.toStdString());
    std::string line;
    std::getline(in, line);
    int kept = 0;
    while (std::getline(in, line)) {
        bool empty = true;
        int fields = 0;
        for (const char c : line.substr(line.find(',') + 1) + ',') {
            fields += c == ',' && !empty ? 1 : 0;
            empty = c == ',';
        }
        kept += fields;
    }
    EXPECT_EQ(kept, kValues);
}

/// The file of a whole car: it is read, and its signals are offered, while the window goes on.
double longestStallWithAWholeCar()
{
    const NewUser user;
    QByteArray text;
    for (int m = 1; m <= 1000; ++m) {
        text += "BO_ " + QByteArray::number(m) + " Module" + QByteArray::number(m) + ": 64 X\n";
        for (int s = 0; s < 20; ++s)
            text += " SG_ Door" + QByteArray::number(s) + (s % 2 == 0 ? "AirTemp" : "LampVolts") + " : " +
                    QByteArray::number(s * 16) + "|16@1+ (0.01,0) [0|0] \"" + (s % 2 == 0 ? "degC" : "V") + "\" Y\n";
    }
    const QString file = user.file("car.dbc");
    NewUser::write(file, text);
    Window w;
    fillIn(w, file, QStringLiteral("The car"));
    const Stalls stalls;
    w.click("stream-use");
    EXPECT_TRUE(QTest::qWaitFor([&] { return w.window.desk().live.stream().has_value(); }, 20000))
        << w.textOf("stream-status");
    auto* table = w.find<QTableWidget>("told");
    for (int row = 0; row < table->rowCount(); ++row) {
        table->setCurrentCell(row, 0);
        QCoreApplication::processEvents();
    }
    w.settle();
    EXPECT_GT(w.find<QComboBox>("told-reading")->count(), 10000) << "each is offered";
    return stalls.longest();
}

TEST(LinksPlayed, ADatabaseOfTwentyThousandSignalsBlocksNoView)
{
    double longest = longestStallWithAWholeCar();
    for (int again = 0; again < 2 && longest >= kStall; ++again) // what a machine takes for itself, it takes once
        longest = std::min(longest, longestStallWithAWholeCar());
    EXPECT_LT(longest, kStall);
}

/// What in it cannot be meant is said, and does not keep it from being used.
TEST(LinksPlayed, RemarksOfADatabaseAreSaid)
{
    const NewUser user;
    const QString file = user.file("odd.dbc");
    NewUser::write(file, "BO_ 1 A: 8 X\n SG_ ECT : 0|16@1+ (1,0) [0|0] \"C\" Y\n SG_ IAT : 8|16@1+ (1,0) [0|0] "
                         "\"C\" Y\n");
    Window w;
    fillIn(w, file, QStringLiteral("Odd"));
    EXPECT_FALSE(w.find<QLabel>("stream-remarks")->isVisible());
    w.click("stream-try");
    EXPECT_TRUE(QTest::qWaitFor([&] { return w.find<QLabel>("stream-remarks")->isVisible(); }, 5000));
    EXPECT_THAT(w.textOf("stream-remarks"), testing::AllOf(testing::HasSubstr("odd.dbc"), testing::HasSubstr("ECT")));
}

} // namespace
} // namespace vicegrip::test
