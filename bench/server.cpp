#include "bench/server.h"

#include "bench/control.h"
#include "bench/scpi.h"
#include "core/job/json.h"
#include "link/line_socket.h"

#include <QCanBus>
#include <QCanBusDevice>
#include <QJsonDocument>
#include <QJsonObject>
#include <QTcpSocket>
#include <QTextStream>

namespace vicegrip::bench {
namespace {

constexpr int kSamplePeriod_ms = 20; // 50 Hz
constexpr int kSettle_ms = 50; // editors write a file in several goes
constexpr int kMostClients = 8;

/// A port nobody has: asked of the system, then given back for the bus's server to take.
quint16 freePort()
{
    QTcpServer probe;
    return probe.listen(QHostAddress::LocalHost, 0) ? probe.serverPort() : 0;
}

tl::unexpected<Error> cannot(const QString& sentence)
{
    return fail(ErrorCode::Io, sentence.toStdString());
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
        return electrics::readFaultsFile(m_faultsFile, job).map([&](const electrics::FaultSheet& faults) {
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
    return listen().and_then([&] { return openBus(); }).map([&] {
        watch();
        m_tick.start();
    });
}

Result<void> Server::listen()
{
    if (!m_meter.listen(QHostAddress::LocalHost, 0) || !m_control.listen(QHostAddress::LocalHost, 0))
        return cannot(tr("the bench cannot listen on loopback: %1").arg(m_meter.errorString()));
    m_meter.setMaxPendingConnections(kMostClients);
    m_control.setMaxPendingConnections(kMostClients);
    connect(&m_meter, &QTcpServer::newConnection, this, [this] {
        auto* line = new link::LineSocket(m_meter.nextPendingConnection(), this);
        const auto scpi = std::make_shared<ScpiInterpreter>(*m_car);
        connect(line, &link::LineSocket::received, line, [line, scpi](const QByteArray& text) {
            for (const QByteArray& answer : scpi->execute(text))
                line->writeLine(answer);
        });
        connect(line, &link::LineSocket::closed, line, &QObject::deleteLater);
    });
    connect(&m_control, &QTcpServer::newConnection, this, [this] {
        auto* line = new link::LineSocket(m_control.nextPendingConnection(), this);
        connect(line, &link::LineSocket::received, line,
                [this, line](const QByteArray& text) { line->writeLine(control(*m_car, text)); });
        connect(line, &link::LineSocket::closed, line, &QObject::deleteLater);
    });
    return {};
}

Result<void> Server::openBus()
{
    m_interface = QStringLiteral("tcp://127.0.0.1:%1/can0").arg(freePort());
    QString error;
    m_bus.reset(QCanBus::instance()->createDevice(QStringLiteral("virtualcan"), m_interface, &error));
    if (!m_bus || !m_bus->connectDevice())
        return cannot(tr("the virtual CAN bus cannot be opened: %1").arg(error));
    connect(m_bus.get(), &QCanBusDevice::framesReceived, this, &Server::readFrames);
    return {};
}

/// The sheet and the job are read again when they change on disk; a file that cannot be used is said and left.
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
        electrics::FaultSheet faults;
        if (!m_faultsFile.empty()) {
            auto read = electrics::readFaultsFile(m_faultsFile, job);
            if (!read)
                return tl::make_unexpected(read.error());
            faults = std::move(*read);
        }
        return m_car->rewire(job, std::move(faults));
    });
    if (!fresh)
        QTextStream(stderr) << QString::fromStdString(fresh.error().text()) << Qt::endl;
}

QByteArray Server::announcement() const
{
    return QJsonDocument(QJsonObject{{QStringLiteral("can"), m_interface},
                                     {QStringLiteral("meter"), m_meter.serverPort()},
                                     {QStringLiteral("control"), m_control.serverPort()}})
        .toJson(QJsonDocument::Compact);
}

void Server::sendSamples()
{
    if (m_bus->state() != QCanBusDevice::ConnectedState)
        return;
    for (const link::EcuSample& sample : m_car->samples())
        m_bus->writeFrame(link::frameOf(sample));
    for (const link::EcuPulses& pulses : m_car->pulses())
        m_bus->writeFrame(link::frameOf(pulses));
}

void Server::readFrames()
{
    for (const QCanBusFrame& frame : m_bus->readAllFrames()) {
        const auto outcome = m_tables.take(frame, static_cast<int>(job::inputs(m_car->job()).size()));
        if (!outcome)
            continue;
        if (m_car->samples().empty())
            continue; // without power it does not answer
        if (outcome->answer == link::TableAnswer::Accepted)
            m_car->accept(outcome->table);
        m_bus->writeFrame(link::frameOf(outcome->input, outcome->answer));
    }
}

} // namespace vicegrip::bench
