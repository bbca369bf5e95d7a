#pragma once

#include "bench/diagnostics.h"
#include "bench/door.h"
#include "bench/drives.h"
#include "link/ecu_frames.h"

#include <QFileSystemWatcher>
#include <QObject>
#include <QTimer>

#include <filesystem>
#include <memory>

/// The bench on its wires: CAN for the ECU, SCPI for the meter, lines of JSON for the hands.
namespace vicegrip::bench {

class Server : public QObject
{
    Q_OBJECT

  public:
    Server(std::filesystem::path jobFile, std::filesystem::path faultsFile, QObject* parent = nullptr);
    ~Server() override;

    /// Reads the files and starts to listen.
    Result<void> start();

    /// One line of JSON that says where it listens and what lets in.
    [[nodiscard]] QByteArray announcement() const { return m_door.announcement(); }

  signals:
    /// A file that changed cannot be used, and what was there goes on; or (empty) all is well again.
    void troubled(const QString& sentence);

  private:
    Result<Car> readCar() const;
    void welcome(link::LineSocket* line, const QByteArray& channel);
    void reload();
    void watch();
    void sendSamples();
    void takeFrame(const QByteArray& text);
    void send(const QCanBusFrame& frame);

    std::filesystem::path m_jobFile, m_faultsFile;
    std::unique_ptr<Car> m_car;
    Door m_door;
    QFileSystemWatcher m_watcher;
    QTimer m_tick, m_settle;
    QList<link::LineSocket*> m_bus; ///< who listens to the ECU
    link::TableReceiver m_tables;
    Diagnostics m_diagnostics;
    Drives m_drives;
    bool m_isTroubled = false;
};

} // namespace vicegrip::bench
