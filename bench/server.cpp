#include "bench/server.h"

#include "bench/control.h"
#include "bench/scpi.h"
#include "core/job/json.h"
#include "link/bench_bus.h"

namespace vicegrip::bench {
namespace {

constexpr int kSamplePeriod_ms = 20; // 50 Hz
constexpr int kSettle_ms = 50; // editors write a file in several goes

template <class Instrument> void answerAs(link::LineSocket* line, Car& car)
{
    const auto scpi = std::make_shared<Instrument>(car);
    QObject::connect(line, &link::LineSocket::received, line, [line, scpi](const QByteArray& text) {
        for (const Answer& answer : scpi->execute(text)) {
            if (answer.isBlock)
                line->writeBlock(answer.bytes);
            else
                line->writeLine(answer.bytes);
        }
    });
}

} // namespace

Server::Server(std::filesystem::path jobFile, std::filesystem::path faultsFile, QObject* parent)
    : QObject(parent), m_jobFile(std::move(jobFile)), m_faultsFile(std::move(faultsFile))
{
    m_tick.setInterval(kSamplePeriod_ms);
    m_tick.setTimerType(Qt::PreciseTimer);
    connect(&m_tick, &QTimer::timeout, this, &Server::sendSamples);
    m_settle.setInterval(kSettle_ms);
    m_settle.setSingleShot(true);
    connect(&m_settle, &QTimer::timeout, this, &Server::reload);
    connect(&m_watcher, &QFileSystemWatcher::fileChanged, &m_settle, qOverload<>(&QTimer::start));
    connect(&m_watcher, &QFileSystemWatcher::directoryChanged, &m_settle, qOverload<>(&QTimer::start));
}

Server::~Server() = default;

Result<Car> Server::readCar() const
{
    return job::readFile(m_jobFile).and_then([&](const job::Job& job) -> Result<Car> {
        if (m_faultsFile.empty())
            return Car(job, {});
        return faults::readFaultsFile(m_faultsFile, job).map([&](const faults::FaultList& faults) {
            return Car(job, faults);
        });
    });
}

Result<void> Server::start()
{
    auto car = readCar();
    if (!car)
        return tl::make_unexpected(car.error());
    m_car = std::make_unique<Car>(std::move(*car));
    m_car->takeUpTables();
    connect(&m_door, &Door::entered, this, &Server::welcome);
    return m_door.open().map([&] {
        watch();
        m_tick.start();
    });
}

void Server::welcome(link::LineSocket* line, const QByteArray& channel)
{
    using Link = link::LineSocket;
    if (channel == "meter") {
        answerAs<Multimeter>(line, *m_car);
    } else if (channel == "scope") {
        answerAs<Scope>(line, *m_car);
    } else if (channel == "control") {
        connect(line, &Link::received, line,
                [this, line](const QByteArray& text) { line->writeLine(control(*m_car, m_drives, text)); });
    } else {
        m_bus.append(line);
        connect(line, &Link::received, this, &Server::takeFrame);
        connect(line, &Link::closed, this, [this, line] { m_bus.removeOne(line); });
    }
}

/// The list and the job are read again when they change on disk; a file that cannot be used is said and left.
void Server::watch()
{
    for (const auto& file : {m_jobFile, m_faultsFile}) {
        if (file.empty())
            continue;
        m_watcher.addPath(QString::fromStdString(file.string()));
        // An atomic save replaces the file: the folder tells.
        m_watcher.addPath(QString::fromStdString(std::filesystem::absolute(file).parent_path().string()));
    }
}

void Server::reload()
{
    watch();
    const auto fresh = job::readFile(m_jobFile).and_then([&](const job::Job& job) -> Result<void> {
        faults::FaultList faults = m_car->faults(); // in no file, where who practises gave them
        std::erase_if(faults, [&](const faults::Fault& f) { return !faults::isThere(f, job); });
        if (!m_faultsFile.empty()) {
            auto read = faults::readFaultsFile(m_faultsFile, job);
            if (!read)
                return tl::make_unexpected(read.error());
            faults = std::move(*read);
        }
        return m_car->rewire(job, std::move(faults));
    });
    if (fresh && !m_isTroubled)
        return;
    m_isTroubled = !fresh;
    emit troubled(fresh ? QString() : QString::fromStdString(fresh.error().text()));
}

void Server::sendSamples()
{
    if (m_bus.isEmpty())
        return;
    m_car->pass(kSamplePeriod_ms / 1000.0);
    for (const link::EcuSample& sample : m_car->samples())
        send(link::frameOf(sample));
    for (const link::EcuPulses& pulses : m_car->pulses())
        send(link::frameOf(pulses));
}

void Server::takeFrame(const QByteArray& text)
{
    const auto frame = link::frameOf(text);
    if (frame)
        for (const QCanBusFrame& answer : m_diagnostics.take(*frame, *m_car))
            send(answer);
    const auto outcome =
        frame ? m_tables.take(*frame, static_cast<int>(job::inputs(m_car->job()).size())) : std::nullopt;
    if (!outcome || m_car->samples().empty())
        return; // without power it does not answer
    if (outcome->answer == link::TableAnswer::Accepted)
        m_car->accept(outcome->table);
    send(link::frameOf(outcome->input, outcome->answer));
}

void Server::send(const QCanBusFrame& frame)
{
    const QByteArray line = link::lineOf(frame);
    const auto listeners = m_bus; // one that does not read leaves meanwhile
    for (link::LineSocket* listener : listeners)
        listener->writeLine(line);
}

} // namespace vicegrip::bench
