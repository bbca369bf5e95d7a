#include "app/live/live.h"

#include "core/electrics/electrics.h"
#include "core/electrics/sensor_model.h"
#include "core/job/settling.h"

#include <QFileInfo>

#include <algorithm>
#include <utility>

namespace vicegrip::app {
namespace {

constexpr int kRefresh_ms = 100, kProgress_ms = 250;

QString answerText(link::TableAnswer answer)
{
    switch (answer) {
    case link::TableAnswer::Accepted:
        return {};
    case link::TableAnswer::Incomplete:
        return Live::tr("The ECU says the table came incomplete. Send it again.");
    case link::TableAnswer::Damaged:
        return Live::tr("The ECU says the table was damaged on the way. Send it again.");
    case link::TableAnswer::NotRising:
        return Live::tr("The ECU refuses the table: its volts must rise from point to point.");
    case link::TableAnswer::NoFormula:
        return Live::tr("The ECU refuses the formula: it has too few terms, too many, or one that cannot be.");
    case link::TableAnswer::NoSuchInput:
        return Live::tr("The ECU has no such input.");
    }
    return Live::tr("The ECU answered nonsense.");
}

QStringList namesOf(const std::vector<std::string>& names)
{
    QStringList out;
    for (const std::string& name : names)
        out << QString::fromStdString(name);
    return out;
}

} // namespace

Live::Live(QObject* parent) : QObject(parent)
{
    m_refresh.setSingleShot(true);
    m_refresh.setInterval(kRefresh_ms);
    connect(&m_refresh, &QTimer::timeout, this, &Live::sampled);
    connect(&m_bench, &link::BenchLink::ready, this, [this](const link::BenchDoor& door) {
        m_door = door;
        openLinks();
    });
    connect(&m_bench, &link::BenchLink::failed, this, [this](const QString& sentence) {
        m_ecu.close();
        m_meter.close();
        finishTable(sentence);
        tell(sentence);
    });
    connect(&m_bench, &link::BenchLink::said, this, &Live::benchSaid);
    connect(&m_ecu, &link::CanEcu::told, this, [this](const QList<stream::Heard>& all) {
        if (!job::isLive(m_condition))
            return;
        for (const stream::Heard& h : all)
            m_latest.hear(h);
        m_recorder.take(all, now_s());
        emit heard(all);
        if (!m_refresh.isActive())
            m_refresh.start();
    });
    connect(&m_ecu, &link::CanEcu::healthChanged, this, &Live::healthChanged);
    connect(&m_ecu, &link::CanEcu::unitsSaid, this, &Live::unitsSaid);
    m_progress.setSingleShot(true);
    m_progress.setInterval(kProgress_ms);
    connect(&m_progress, &QTimer::timeout, this, &Live::healthChanged);
    connect(&m_ecu, &link::CanEcu::playedOn, this, [this] {
        if (!m_progress.isActive())
            m_progress.start();
    });
    connect(&m_ecu, &link::CanEcu::complained, this, &Live::benchSaid);
    connect(&m_recorder, &Recorder::broke, this, &Live::benchSaid);
    connect(&m_ecu, &link::CanEcu::stateChanged, this, [this](link::CanEcu::State state, const QString& sentence) {
        if (state != link::CanEcu::State::Live)
            m_latest.clear();
        if (state == link::CanEcu::State::Failed)
            tell(sentence);
        emit linksChanged();
        emit sampled();
    });
    connect(&m_ecu, &link::CanEcu::tableAnswered, this,
            [this](int, link::TableAnswer answer) { finishTable(answerText(answer)); });
    connect(&m_ecu, &link::CanEcu::tableFailed, this, [this](int, const QString& sentence) { finishTable(sentence); });
    connect(&m_meter, &link::ScpiMeter::stateChanged, this,
            [this](link::ScpiMeter::State state, const QString& sentence) {
                if (state == link::ScpiMeter::State::Failed)
                    tell(sentence);
                emit linksChanged();
            });
    connect(&m_meter, &link::ScpiMeter::measured, this, &Live::settle);
    connect(&m_scope, &link::ScpiScope::swept, this,
            [this](const std::shared_ptr<const link::Swept>& swept) { finishSweep(swept, {}); });
    connect(&m_scope, &link::ScpiScope::failed, this,
            [this](const QString& sentence) { finishSweep(nullptr, sentence); });
    connect(&m_meter, &link::ScpiMeter::failed, this,
            [this](const QString& sentence) { finishReading(std::nullopt, sentence); });
}

void Live::startPractice(const QString& program, const QString& jobFile, const QByteArray& faults)
{
    startBench(program, jobFile, {});
    m_hidden = faults;
}

void Live::startBench(const QString& program, const QString& jobFile, const QString& faultsFile)
{
    emit chosenOtherwise();
    closeStream();
    endReplay();
    m_meterAddress.reset();
    readBenchFrames();
    m_hidden.clear();
    m_benchCall = {program, jobFile, faultsFile};
    m_begins = QFileInfo(m_file) != QFileInfo(jobFile); // it is being read: what it says first is what it begins with
    m_mendsBefore = m_mends;
    m_bench.start(program, jobFile, faultsFile);
    emit linksChanged();
}

void Live::openLinks()
{
    m_listener.reset();
    listen();
    m_ecu.open(link::opensBench(m_door.channel("can")));
    m_meter.open(m_door.channel("meter"));
    m_bench.setCondition(m_condition);
    if (!m_hidden.isEmpty())
        m_bench.practise(m_hidden, [this](const QString& error) {
            if (!error.isEmpty())
                tell(error);
        });
    tellMends();
}

void Live::connectAgain()
{
    if (m_replay)
        play(Replay(*m_replay));
    if (m_stream)
        openStream(StreamLink(*m_stream));
    if (m_meterAddress)
        openMeter(link::Address(*m_meterAddress));
    if (m_bench.isReady())
        openLinks();
    else if (m_benchCall.size() == 3) {
        const QByteArray hidden = m_hidden;
        const auto before = m_mendsBefore;
        startBench(m_benchCall[0], m_benchCall[1], m_benchCall[2]);
        m_hidden = hidden;
        m_mendsBefore = before; // it is the same car
    }
}

void Live::stopBench()
{
    if (!m_stream && !m_replay)
        m_ecu.close();
    if (!m_meterAddress)
        m_meter.close();
    m_bench.stop();
}

std::optional<InputNow> Live::sample(int input) const
{
    return m_latest.sample(input, now_s());
}

std::optional<double> Live::staleFor_s(int input, proof::StationKind kind) const
{
    using enum job::Tells;
    return kind == proof::StationKind::Value ? m_latest.staleFor_s(input, {Value}, now_s())
                                             : m_latest.staleFor_s(input, {Volts, Counts, Hertz}, now_s());
}

Live::Missing Live::whyMissing(const job::Job& job, const job::Circuit& circuit, proof::StationKind kind) const
{
    const auto input = job::inputIndex(job, circuit.input);
    if (input && staleFor_s(*input, kind))
        return Missing::Stale;
    if (!input || !sample(*input))
        return Missing::Silent;
    return !m_stream && !m_replay && kind == proof::StationKind::Value ? Missing::NoTable : Missing::NotTold;
}

QString Live::missing(const job::Job& job, const job::Circuit& circuit, proof::StationKind kind,
                      const QString& silent) const
{
    switch (whyMissing(job, circuit, kind)) {
    case Missing::Silent:
        return silent;
    case Missing::Stale:
        return tr("stale");
    case Missing::NotTold:
        return tr("not told");
    case Missing::NoTable:
        return tr("no table");
    }
    return silent;
}

QString Live::notOfNow() const
{
    return m_replay ? tr("A recording is played: it proves nothing of the car as it is now.") : QString();
}

Live::Chip Live::ecuChip() const
{
    switch (m_ecu.state()) {
    case link::CanEcu::State::Off:
        return Chip::Off;
    case link::CanEcu::State::Connecting:
        return Chip::Waiting;
    case link::CanEcu::State::Live:
        return Chip::Good;
    case link::CanEcu::State::Silent:
        return job::isLive(m_condition) ? Chip::Bad : Chip::Waiting;
    case link::CanEcu::State::Failed:
        return Chip::Bad;
    }
    return Chip::Off;
}

Live::Chip Live::meterChip() const
{
    switch (m_meter.state()) {
    case link::ScpiMeter::State::Off:
        return Chip::Off;
    case link::ScpiMeter::State::Connecting:
        return Chip::Waiting;
    case link::ScpiMeter::State::Ready:
    case link::ScpiMeter::State::Busy:
        return Chip::Good;
    case link::ScpiMeter::State::Failed:
        return Chip::Bad;
    }
    return Chip::Off;
}

void Live::takeReading(const QString& red, const QString& black, job::Condition condition, Taken taken)
{
    if (m_taken) {
        taken(std::nullopt, tr("The meter is still at the last reading."));
        return;
    }
    m_taken = std::move(taken);
    m_readings.clear();
    if (!m_bench.isReady()) {
        m_meter.measure(condition);
        return;
    }
    m_bench.putProbes(red, black, [this, condition](const QString& error) {
        if (error.isEmpty())
            m_meter.measure(condition);
        else
            finishReading(std::nullopt, error);
    });
}

/// Read again until it stands still; while the engine turns nothing does.
void Live::settle(const job::Reading& reading)
{
    constexpr size_t kMostReadings = 12;
    m_readings.push_back(reading);
    if (job::engineTurns(reading.condition()) || job::isSettled(m_readings, m_job->meter)) {
        finishReading(reading, {});
    } else if (m_readings.size() < kMostReadings) {
        m_meter.measure(reading.condition());
    } else {
        finishReading(std::nullopt,
                      tr("The reading does not stand still, and was %1 last. Hold the tips firmly, then take it again.")
                          .arg(QString::fromStdString(job::readingText(reading, {}))));
    }
}

void Live::finishReading(const std::optional<job::Reading>& reading, const QString& sentence)
{
    if (const Taken taken = std::exchange(m_taken, {}))
        taken(reading, sentence);
}

std::optional<job::Reading> Live::now(const job::Job& job, const job::Circuit& circuit, const proof::Place& place) const
{
    const auto latest = sample(job::inputIndex(job, circuit.input).value_or(-1));
    if (!latest)
        return std::nullopt;
    std::optional<double> told;
    switch (place.station.kind) {
    case proof::StationKind::Input:
        told = reading(job, circuit);
        break;
    case proof::StationKind::Counts:
        told = latest->counts;
        break;
    case proof::StationKind::Value:
        told = latest->value;
        break;
    case proof::StationKind::Probe:
        break;
    }
    return told ? std::optional(place.reading(*told)) : std::nullopt;
}

bool Live::untouched(const job::Job& job, const job::Circuit& circuit) const
{
    const auto held = m_bench.measurand(QString::fromStdString(circuit.id.value));
    return !held || *held == electrics::atRest(circuit, job.surroundings).value;
}

std::optional<double> Live::reading(const job::Job& job, const job::Circuit& circuit) const
{
    const parts::Part* sensor = job::sensorOf(job, circuit);
    const auto now = sample(job::inputIndex(job, circuit.input).value_or(-1));
    if (!now)
        return std::nullopt;
    return sensor != nullptr && parts::countsValue(*sensor) ? now->hertz : volts(job, circuit);
}

std::optional<double> Live::volts(const job::Job& job, const job::Circuit& circuit) const
{
    const auto now = sample(job::inputIndex(job, circuit.input).value_or(-1));
    if (!now)
        return std::nullopt;
    const parts::EcuInput* input = job::findInput(job, circuit.input);
    if (!now->volts && now->counts && input != nullptr)
        return *now->counts * electrics::countVolts(job, *input);
    return now->volts;
}

void Live::sendTable(int input, const scaling::Table& table, units::Dimension measures, Sent sent)
{
    if (m_sent) { // who waits for the first one must hear of it
        sent(tr("The ECU is still taking the last table: send this one again."));
        return;
    }
    if (m_stream || m_replay) {
        sent(tr("Over this link the ECU is only listened to: copy the table into its own program."));
        return;
    }
    m_sent = std::move(sent);
    m_ecu.sendTable(link::tableFor(input, table, measures));
}

void Live::finishTable(const QString& trouble)
{
    if (const Sent sent = std::exchange(m_sent, {}))
        sent(trouble);
}

void Live::click(const job::Circuit& circuit, const Heard& heard)
{
    m_bench.click(QString::fromStdString(circuit.output.value),
                  [heard](const QStringList& circuits, const QString& error) {
                      std::vector<job::CircuitId> answered;
                      for (const QString& id : circuits)
                          answered.push_back({id.toStdString()});
                      heard(answered, error);
                  });
}

void Live::follow(const std::shared_ptr<const job::Job>& job, const QString& file)
{
    const bool moved = m_mends != job->mends;
    m_mends = job->mends;
    m_file = file;
    m_job = job;
    if (m_recorder.isRecording() && recording::columnsOf(*job) != m_columns)
        stopRecording(); // its columns would be of other inputs
    listen();
    if (m_benchCall.size() != 3 || QFileInfo(file) != QFileInfo(m_benchCall[1]))
        return;
    if (std::exchange(m_begins, false))
        m_mendsBefore = m_mends;
    else if (moved)
        tellMends();
}

void Live::tellMends()
{
    QList<QStringList> since;
    for (const job::Mend& m : m_mends)
        if (std::ranges::find(m_mendsBefore, m) == m_mendsBefore.end())
            since << namesOf(m.subjects);
    if (m_bench.isReady() && !(since.isEmpty() && m_told == 0))
        m_bench.mend(since);
    m_told = since.size();
}

void Live::hold(const std::vector<std::string>& held)
{
    if (m_bench.isReady())
        m_bench.hold(namesOf(held));
}

void Live::turn(double crank_deg, const std::function<void(const QString& trouble)>& turned)
{
    m_bench.turn(crank_deg, turned);
}

void Live::setCondition(job::Condition condition)
{
    m_condition = condition;
    if (m_bench.isReady())
        m_bench.setCondition(condition);
    if (condition == job::Condition::BatteryOff)
        m_latest.clear(); // what was sent before the lead came off is not now
    emit linksChanged();
    emit sampled();
}

void Live::tell(const QString& sentence)
{
    m_trouble = sentence;
    emit linksChanged();
    emit troubled(sentence);
}

} // namespace vicegrip::app
