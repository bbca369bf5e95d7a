#pragma once

#include "tests/support/library.h"
#include "tests/support/window.h"

#include <cmath>

namespace vicegrip::test {

/// At a circuit on the Scale stage.
inline void goTo(Window& w, const char* circuit)
{
    w.choose(circuit);
    w.window.showStage(analysis::Stage::Scale);
    w.settle();
}

inline const job::Circuit& circuit(Window& w, const char* id)
{
    return *job::find(*w.window.desk().store.job(), job::CircuitId{id});
}

/// Opens a copy of the van's job in place of the first; where it lies.
inline QString openCurlew(Window& w)
{
    const QString van = w.folder.filePath(QStringLiteral("curlew.vicegrip"));
    QFile::copy(QStringLiteral(VICEGRIP_SOURCE_DIR "/data/jobs/curlew.vicegrip"), van);
    EXPECT_TRUE(w.window.openJob(van));
    w.settle();
    return van;
}

/// Sets a measurand to a share of its travel until the ECU has sent so many samples of it.
inline void hold(Window& w, const char* id, double share, int samples)
{
    auto& live = w.window.desk().live;
    const auto job = w.window.desk().store.job();
    const int input = job::inputIndex(*job, circuit(w, id).input).value_or(-1);
    int heard = 0;
    const auto counting = QObject::connect(&live, &app::Live::heard, [&](const QList<stream::Heard>& list) {
        for (const stream::Heard& h : list)
            heard += h.input == input && h.tells == job::Tells::Volts ? 1 : 0;
    });
    live.bench().setMeasurand(QString::fromLatin1(id), share);
    EXPECT_TRUE(QTest::qWaitFor([&] { return heard >= samples; }, 10000));
    QObject::disconnect(counting);
}

/// A slow hand at a throttle: two strokes with rests, at the ECU's 50 samples a second.
inline void strokeTwice(Window& w, const char* id, double shut, double open)
{
    constexpr int kRest = 35, kOnTheWay = 2, kSteps = 12;
    for (int stroke = 0; stroke < 2; ++stroke) {
        hold(w, id, shut, kRest);
        for (int i = 1; i < kSteps; ++i)
            hold(w, id, std::lerp(shut, open, double(i) / kSteps), kOnTheWay);
        hold(w, id, open, kRest);
        for (int i = kSteps - 1; i > 0; --i)
            hold(w, id, std::lerp(shut, open, double(i) / kSteps), kOnTheWay);
    }
    hold(w, id, shut, kRest);
}

/// One more sensor of the library on an input of the open job, named as its part is.
inline job::CircuitId addSensor(Window& w, const char* part, const char* input)
{
    job::CircuitId added;
    EXPECT_TRUE(w.window.desk().store.edit(QStringLiteral("Fit a sensor"), [&](job::Job& job) {
        added = harness::addCircuit(job, job::FunctionId{part}, part, job::Want::Wanted, sensor(part));
        job::Circuit& circuit = *job::find(job, added);
        circuit.input = parts::InputId{input};
        circuit.name = part;
    }));
    w.settle();
    return added;
}

} // namespace vicegrip::test
