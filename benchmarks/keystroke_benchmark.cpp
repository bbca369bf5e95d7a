#include "app/desk/part_library.h"
#include "app/look/look.h"
#include "app/shell/main_window.h"
#include "app/stages/start/log_plot.h"
#include "app/stages/trigger/wave_plot.h"
#include "app/widgets/connector_face.h"
#include "app/widgets/transfer_plot.h"

#include <QApplication>
#include <QFile>
#include <QLineEdit>
#include <QTemporaryDir>
#include <QTest>

#include <benchmark/benchmark.h>

/// The real window, without a display: from the key to the drawn answer. A frame is 16.7 ms at 60 Hz.
namespace {

using vicegrip::app::MainWindow;

struct Brief
{
    QTemporaryDir folder;
    MainWindow window;
    QLineEdit* field = nullptr;

    Brief()
    {
        const QString job = folder.filePath(QStringLiteral("petrel.vicegrip"));
        QFile::copy(QStringLiteral(VICEGRIP_SOURCE_DIR "/data/jobs/petrel.vicegrip"), job);
        if (!window.openJob(job))
            std::abort();
        window.show();
        window.showStage(vicegrip::analysis::Stage::Brief);
        field = window.findChild<QLineEdit*>(QStringLiteral("target_kpa"));
        field->setFocus();
        draw();
    }
    void draw()
    {
        QApplication::processEvents();
        window.grab(); // everything, as after a resize: more than a keystroke draws
    }
};

void keystrokeInTheBrief(benchmark::State& state)
{
    Brief brief;
    for (auto _ : state) {
        QTest::keyClick(brief.field, Qt::Key_1);
        QApplication::processEvents();
        QTest::keyClick(brief.field, Qt::Key_Backspace);
        QApplication::processEvents();
    }
    state.SetItemsProcessed(2 * state.iterations());
}
BENCHMARK(keystrokeInTheBrief)->Unit(benchmark::kMillisecond);

/// While somebody zooms in on a hundred million samples, and out again: a key, and everything of the plot drawn.
void zoomIntoALargeCapture(benchmark::State& state)
{
    using namespace vicegrip;
    constexpr int kTimes = 10, kIn = 60;
    constexpr double kRate_hz = 1e6, kSeconds = 10;
    const trigger::Sensed once = trigger::senseHall(*trigger::readWheel("36-1"), {.rpm = 300, .ripple = 0.1}, {}, {},
                                                    {.noise_v = 0.1}, kSeconds, kRate_hz);
    capture::Seen seen{once.step_s, kTimes * kSeconds, {{"crank", {}, {}}}};
    for (int i = 0; i < kTimes; ++i)
        seen.channels[0].volts.insert(seen.channels[0].volts.end(), once.volts.begin(), once.volts.end());
    app::Looking how;
    how.coil = false;
    const auto opened = std::make_shared<const app::Opened>(
        app::lookForView(app::forView(std::move(seen), QStringLiteral("large")), how));
    app::WavePlot plot;
    plot.resize(1240, 400);
    plot.show(opened);
    int count = 0;
    for (auto _ : state) {
        QTest::keyClick(&plot, count++ % (2 * kIn) < kIn ? Qt::Key_Plus : Qt::Key_Minus);
        benchmark::DoNotOptimize(plot.grab());
    }
}
BENCHMARK(zoomIntoALargeCapture)->Unit(benchmark::kMillisecond);

/// The same in four columns of a log of ten million rows, one of them with what was asked for.
void zoomIntoALargeLog(benchmark::State& state)
{
    using namespace vicegrip;
    constexpr size_t kRows = 10'000'000, kColumns = 5;
    constexpr int kIn = 60;
    auto read = std::make_shared<app::ReadLog>();
    read->log.time_s.resize(kRows);
    for (size_t i = 0; i < kRows; ++i)
        read->log.time_s[i] = static_cast<double>(i) / 100;
    for (size_t c = 0; c < kColumns; ++c) {
        log::Column column{"column " + std::to_string(c), "kPa", std::vector<float>(kRows)};
        for (size_t i = 0; i < kRows; ++i)
            column.values[i] = static_cast<float>(100 + 50 * std::sin(1e-4 * static_cast<double>(i * (c + 1))) +
                                                  static_cast<double>(i * 2654435761U % 1000) / 500);
        read->log.columns.push_back(std::move(column));
    }
    read->held.resize(kColumns);
    for (size_t c = 0; c < kColumns; ++c)
        read->overviews.emplace_back(read->values(c));
    auto shown = std::make_shared<app::ReviewedLog>();
    shown->read = read;
    shown->meanings.resize(kColumns);
    shown->meanings[1].quantity = log_columns::Quantity::AskedPressure;
    shown->review.ends.resize(kColumns);
    app::LogPlot plot;
    plot.resize(700, 560);
    plot.show(shown, {0, 1, 2, 3, 4}, {});
    int count = 0;
    for (auto _ : state) {
        QTest::keyClick(&plot, count++ % (2 * kIn) < kIn ? Qt::Key_Plus : Qt::Key_Minus);
        benchmark::DoNotOptimize(plot.grab());
    }
}
BENCHMARK(zoomIntoALargeLog)->Unit(benchmark::kMillisecond);

/// A whole fact: typed, entered, its consequences and the analysis shown.
void factInTheBrief(benchmark::State& state)
{
    Brief brief;
    int boost = 100;
    for (auto _ : state) {
        boost = boost == 100 ? 120 : 100;
        brief.field->setText(QString::number(boost) + QStringLiteral(" kPa"));
        QTest::keyClick(brief.field, Qt::Key_Return);
        const auto& store = brief.window.desk().store;
        while (store.analysis()->job != store.job())
            QApplication::processEvents();
        brief.draw();
    }
}
BENCHMARK(factInTheBrief)->Unit(benchmark::kMillisecond);

/// The largest face of the library with sixty wires in it, drawn whole.
void connectorFace(benchmark::State& state)
{
    using namespace vicegrip;
    const auto& layouts = app::library().layouts;
    const parts::Layout& layout = layouts.back();
    std::vector<app::ConnectorFace::Cell> cells;
    for (const std::string& name : parts::cavityNames(layout))
        cells.push_back({app::text(name),
                         cells.size() < 60 ? QStringLiteral("BU/WH") : QString(),
                         cells.size() % 2 == 0 ? pinning::PinState::Counted : pinning::PinState::Planned,
                         false,
                         {}});
    app::ConnectorFace face;
    face.resize(560, 280);
    for (auto _ : state) {
        face.show(layout, cells, parts::Face::Wire, 30);
        benchmark::DoNotOptimize(face.grab());
    }
}
BENCHMARK(connectorFace)->Unit(benchmark::kMillisecond);

/// The transfer with its table while the ECU sends: what one sample draws, 50 of them a second.
void livePlot(benchmark::State& state)
{
    using namespace vicegrip;
    QTemporaryDir folder;
    const QString file = folder.filePath(QStringLiteral("petrel.vicegrip"));
    QFile::copy(QStringLiteral(VICEGRIP_SOURCE_DIR "/data/jobs/petrel.vicegrip"), file);
    MainWindow window;
    if (!window.openJob(file))
        std::abort();
    const auto analysis = window.desk().store.analysis();
    const job::CircuitId id{"clt"};
    app::TransferPlot plot;
    plot.resize(460, 420);
    plot.show(*analysis::find(*analysis, id), analysis::curve(*analysis, id),
              *job::sensorOf(*analysis->job, *job::find(*analysis->job, id)));
    double volts = 0;
    for (auto _ : state) {
        volts = volts < 4.5 ? volts + 0.01 : 0;
        plot.showNow(volts);
        QApplication::processEvents(); // the plot draws itself there
        benchmark::DoNotOptimize(plot.grab());
    }
}
BENCHMARK(livePlot)->Unit(benchmark::kMillisecond);

} // namespace

int main(int argc, char** argv)
{
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication app(argc, argv);
    vicegrip::app::look::apply(app, false);
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
}
