#pragma once

#include "bench/car.h"
#include "link/ecu_frames.h"

#include <QFileSystemWatcher>
#include <QObject>
#include <QTcpServer>
#include <QTimer>

#include <filesystem>
#include <memory>

class QCanBusDevice;

/// The bench on its wires: CAN for the ECU, SCPI for the meter, lines of JSON for the hands. Loopback only, free ports.
namespace vicegrip::bench {

class Server : public QObject
{
    Q_OBJECT

  public:
    Server(std::filesystem::path jobFile, std::filesystem::path faultsFile, QObject* parent = nullptr);
    ~Server() override;

    /// Reads the files and starts to listen. The error is a sentence for the terminal.
    Result<void> start();

    /// One line of JSON that says where everything listens.
    [[nodiscard]] QByteArray announcement() const;

  private:
    Result<Car> readCar() const;
    Result<void> listen();
    Result<void> openBus();
    void reload();
    void watch();
    void sendSamples();
    void readFrames();

    std::filesystem::path m_jobFile, m_faultsFile;
    std::unique_ptr<Car> m_car;
    QTcpServer m_meter, m_control;
    QFileSystemWatcher m_watcher;
    QTimer m_tick, m_settle;
    std::unique_ptr<QCanBusDevice> m_bus;
    QString m_interface;
    link::TableReceiver m_tables;
};

} // namespace vicegrip::bench
