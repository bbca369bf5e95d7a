#pragma once

#include "tests/support/library.h"
#include "tests/support/window.h"

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

/// One more sensor of the library on an input of the open job, named as its part is.
inline job::CircuitId fitSensor(Window& w, const char* part, const char* input)
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
