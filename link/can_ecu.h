#pragma once

#include "link/can_reader.h"

#include <QThread>

/// The ECU on a CAN bus, simulated or real: what it tells of its inputs.
namespace vicegrip::link {

class CanEcu : public QObject
{
    Q_OBJECT

  public:
    enum class State {
        Off, ///< not asked to connect
        Connecting, ///< the bus is being opened, or nothing has come yet
        Live, ///< its frames come
        Silent, ///< they stopped, or those that come are another's
        Failed ///< the bus cannot be opened, or broke
    };

    explicit CanEcu(QObject* parent = nullptr);
    ~CanEcu() override;

    /// Opens the bus. `bitRate` (bit/s; 0: not known here) is what its load is a share of.
    void open(const OpensBus& opens, int bitRate = 0);
    /// Plays a recording in its place, so many times as fast; `playing` or a failure follows.
    void play(const QString& file, const std::shared_ptr<const job::Job>& job, double speed);
    /// Keeps every frame that comes in a file; empty: no more.
    void log(const QString& file);
    void close();
    /// What is made of its frames from now on.
    void listen(const std::shared_ptr<const stream::Listener>& listener);

    /// Hands over a table, to the bench's ECU; `tableAnswered` or, after two seconds of nothing, `tableFailed` follows.
    void sendTable(const EcuTable& table);

    /// Asks the units on the bus over OBD, or stops; `unitsSaid` follows some four times a second. Until then nothing
    /// is sent on a bus but tables to the bench.
    void askUnits(bool ask);
    void readCodes();
    /// Codes of all units that allow it.
    void clearCodes();
    [[nodiscard]] bool isAsking() const { return m_asking; }
    /// What they said; null: nobody was asked.
    [[nodiscard]] const std::shared_ptr<const obd::Session>& units() const { return m_units; }

    [[nodiscard]] State state() const { return m_state; }
    [[nodiscard]] const QString& sentence() const { return m_sentence; } ///< why it is so; empty: nothing to say
    [[nodiscard]] const CanHealth& health() const { return m_health; }
    /// A recording that is played.
    struct Played
    {
        double seconds = 0, now_s = 0;
        int mark = 0; ///< the last one that was passed; 0: none
        bool over = false;
        QStringList left; ///< columns that the job has not
    };
    [[nodiscard]] const std::optional<Played>& played() const { return m_played; }

  signals:
    void stateChanged(vicegrip::link::CanEcu::State state, const QString& sentence);
    void told(const QList<vicegrip::stream::Heard>& heard);
    void healthChanged(); ///< about once a second
    void unitsSaid();
    void playedOn(); ///< a recording has come further, or has ended
    void complained(const QString& sentence); ///< about a line of a recording, a log that cannot be written
    void tableAnswered(int input, vicegrip::link::TableAnswer answer);
    void tableFailed(int input, const QString& sentence);

  private:
    void setState(State state, const QString& sentence = {});
    void take(const CanBatch& batch);
    void miss();

    QThread* m_thread;
    CanReader* m_reader; ///< in that thread
    int m_run = 0; ///< what a bus says that was closed since is not heard
    int m_listening = 0; ///< nor what the listener before this one heard
    CanHealth m_health;
    std::shared_ptr<const obd::Session> m_units;
    bool m_asking = false;
    std::optional<Played> m_played;
    State m_state = State::Off;
    QString m_sentence;
    QTimer m_silence; ///< no frame of it for this long: silent
    QTimer m_awaiting; ///< a table waits for its answer
    int m_awaitedInput = -1;
};

} // namespace vicegrip::link
