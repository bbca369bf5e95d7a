#pragma once

#include "core/obd/obd.h"
#include "core/recording/recording.h"
#include "core/stream/stream.h"
#include "link/can_place.h"
#include "link/ecu_frames.h"

#include <QElapsedTimer>
#include <QObject>
#include <QTimer>

#include <atomic>
#include <memory>
#include <vector>

/// Reads a CAN bus in a thread of its own, so that a bus that floods, or an adapter that hangs, stops nobody.
namespace vicegrip::link {

/// How the bus is, over the last second.
struct CanHealth
{
    double framesPerSecond = 0;
    std::optional<double> load; ///< share of the bit rate, about; none: the rate is not known here
    qint64 known = 0, foreign = 0; ///< frames since it was opened: of the database, and others
    qint64 errors = 0; ///< error frames since it was opened
    qint64 lost = 0; ///< frames that came faster than they were taken, here or in the adapter
    /// As the adapter says it, or its error frames: it has left the bus, or is about to.
    enum class Bus { Good, Warning, Off };
    Bus bus = Bus::Good;
    QString outside; ///< the last signal that was outside its own range; empty: none
    QString tooShort; ///< the last message that was shorter than its database says
};

/// What has come since the last one was taken.
struct CanBatch
{
    double played_s = 0; ///< of a recording: how far it has come
    int mark = 0; ///< of a recording: the last one that was passed; 0: none
    bool over = false; ///< of a recording: it has ended
    int run = 0; ///< which opening of the bus it is from
    int listening = 0; ///< by which listener it was heard
    QList<stream::Heard> heard;
    QList<AnsweredTable> answers;
    CanHealth health;
};

class CanReader : public QObject
{
    Q_OBJECT

  public:
    CanReader();
    ~CanReader() override;

    // Each in the reader's own thread.
    void open(const OpensBus& opens, int bitRate, int run);
    /// Plays a recording in the place of a bus, so many times as fast.
    void play(const QString& file, std::shared_ptr<const job::Job> job, double speed, int run);
    /// Writes every frame of the bus that comes to a log (candump), until `file` is empty or the bus is closed.
    void log(const QString& file);
    void listen(std::shared_ptr<const stream::Listener> listener, int listening);
    void write(const QList<QCanBusFrame>& frames);
    /// Asks the units on the bus for what they say of themselves, or stops.
    void askUnits(bool ask);
    void readCodes();
    void clearCodes();
    void close();

    /// From any thread: the last batch was taken, the next may come.
    void taken() { m_waits = false; }

  signals:
    void came(const vicegrip::link::CanBatch& batch);
    void unitsSaid(int run, const std::shared_ptr<const vicegrip::obd::Session>& said); ///< some four times a second
    void broke(int run, const QString& sentence);
    void complained(const QString& sentence); ///< and goes on
    void playing(int run, double seconds, const QStringList& left); ///< how long it is, and what of it the job has not

  private:
    void read();
    void hear(const QCanBusFrame& frame);
    void hear(std::uint32_t id, bool extended, std::span<const std::uint8_t> data);
    [[nodiscard]] bool hearUnit(std::uint32_t id, bool extended, std::span<const std::uint8_t> data);
    [[nodiscard]] bool understand(std::uint32_t id, bool extended, std::span<const std::uint8_t> data);
    void playOn();
    void pollUnits();
    void send(const std::vector<obd::CanFrame>& frames);
    void hearError(const QCanBusFrame& frame);
    void log(const QCanBusFrame& frame);
    void askBus();
    void handOver();
    void count();
    void breakOff(const QString& sentence);

    std::unique_ptr<QCanBusDevice> m_bus;
    std::shared_ptr<const stream::Listener> m_listener = std::make_shared<stream::Listener>();
    std::vector<dbc::Value> m_values;
    std::vector<stream::Heard> m_heard;
    QList<AnsweredTable> m_answers;
    CanHealth m_health;
    std::optional<recording::Player> m_player;
    QElapsedTimer m_played; ///< since it began
    double m_speed = 1;
    QTimer m_play; ///< what is due of it is played so often
    std::optional<obd::Session> m_units; ///< of a recording that is played: what was answered then
    QTimer m_poll; ///< what is due to be asked
    int m_polls = 0;
    std::ofstream m_log;
    QTimer m_gather; ///< what comes is handed over so often and no oftener
    QTimer m_second;
    QElapsedTimer m_since;
    QString m_error; ///< what the adapter said last
    qint64 m_frames = 0, m_bits = 0; ///< since m_since
    int m_bitRate = 0, m_run = 0, m_listening = 0;
    std::atomic<bool> m_waits = false; ///< a batch is not taken yet
};

} // namespace vicegrip::link
