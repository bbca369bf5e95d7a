#pragma once

#include "link/ecu_frames.h"

#include <QObject>
#include <QTimer>

#include <memory>

class QCanBusDevice;

/// The ECU on a CAN bus. Simulated or real is only the plugin's and the interface's name.
namespace vicegrip::link {

class CanEcu : public QObject
{
    Q_OBJECT

  public:
    enum class State {
        Off, ///< not asked to connect
        Connecting, ///< the bus is open, nothing has come yet
        Live, ///< samples come
        Silent, ///< samples stopped
        Failed ///< the bus cannot be opened, or broke
    };

    explicit CanEcu(QObject* parent = nullptr);
    ~CanEcu() override;

    /// Opens the bus.
    void open(std::unique_ptr<QCanBusDevice> bus);
    /// One of Qt's plugins, such as "socketcan" and "can0".
    void open(const QString& plugin, const QString& interface);
    void close();

    /// Hands over a table; `tableAnswered` or, after two seconds of nothing, `tableFailed` follows.
    void sendTable(const EcuTable& table);

    [[nodiscard]] State state() const { return m_state; }

  signals:
    void stateChanged(vicegrip::link::CanEcu::State state, const QString& sentence);
    void sampled(const QList<vicegrip::link::EcuSample>& samples);
    void counted(const QList<vicegrip::link::EcuPulses>& pulses);
    void tableAnswered(int input, vicegrip::link::TableAnswer answer);
    void tableFailed(int input, const QString& sentence);

  private:
    void setState(State state, const QString& sentence = {});
    void readFrames();

    std::unique_ptr<QCanBusDevice> m_bus;
    State m_state = State::Off;
    QTimer m_silence; ///< no sample for this long: silent
    QTimer m_awaiting; ///< a table waits for its answer
    int m_awaitedInput = -1;
};

} // namespace vicegrip::link
