#pragma once

#include "app/live/latest.h"
#include "app/live/recorder.h"
#include "core/electrics/readings.h"
#include "core/proof/place.h"
#include "core/scaling/table.h"
#include "link/bench_link.h"
#include "link/can_ecu.h"
#include "link/scpi_meter.h"
#include "link/scpi_scope.h"

#include <QObject>
#include <QTimer>

#include <functional>
#include <optional>

/// What the instruments say now. Samples reach views at a rate eyes can follow and never pass through the job: only a
/// recorded reading becomes an edit.
namespace vicegrip::app {

/// An ECU's own stream: where its bus is reached, and what describes its frames.
struct StreamLink
{
    QString name; ///< as the user calls it
    link::CanPlace place;
    std::shared_ptr<const dbc::Database> database;
    bool overObd = false; ///< nobody sends by himself: he is asked
};

/// A recording that is played in an ECU's place.
struct Replay
{
    QString file;
    double speed = 1; ///< so many times as fast as it was
    std::shared_ptr<const dbc::Database> database; ///< of a log of frames; null: they are the bench's
};

class Live : public QObject
{
    Q_OBJECT

  public:
    /// A link as its chip shows it.
    enum class Chip { Off, Waiting, Good, Bad };

    explicit Live(QObject* parent = nullptr);

    void startBench(const QString& program, const QString& jobFile, const QString& faultsFile);
    /// The same with faults that are in no file.
    void startPractice(const QString& program, const QString& jobFile, const QByteArray& faults);
    void stopBench();
    /// After trouble: opens the links anew, and starts the bench again when it is gone.
    void connectAgain();
    [[nodiscard]] link::BenchLink& bench() { return m_bench; }

    /// Listens to an ECU, and sends it nothing but questions, where it is heard over OBD. A car is real or simulated:
    /// the bench is stopped.
    void openStream(const StreamLink& stream);
    void closeStream();
    [[nodiscard]] const std::optional<StreamLink>& stream() const { return m_stream; }
    /// Plays a recording to every live view; the bench is stopped.
    void play(const Replay& replay);
    void endReplay();
    [[nodiscard]] const std::optional<Replay>& replay() const { return m_replay; }

    /// Keeps everything that is heard from now on in a file of columns, and the frames of a bus in one beside it.
    void record(const QString& file);
    void stopRecording();
    /// A mark in the recording at this moment; its number, 0 while nothing is recorded.
    int mark() { return m_recorder.mark(now_s()); }
    [[nodiscard]] const Recorder& recorder() const { return m_recorder; }

    /// Signals that the job listens for and the stream's database has not.
    [[nodiscard]] QStringList missingSignals() const;
    /// A multimeter on the network; the bench is stopped.
    void openMeter(const link::Address& address);
    void closeMeter();
    [[nodiscard]] bool hasMeter() const { return m_meterAddress.has_value(); }
    [[nodiscard]] const link::CanEcu& ecu() const { return m_ecu; }
    /// Asks the units on the bus over OBD, or stops; `unitsSaid` follows.
    void askUnits(bool ask) { m_ecu.askUnits(ask); }
    void readCodes() { m_ecu.readCodes(); }
    void clearCodes() { m_ecu.clearCodes(); }
    [[nodiscard]] const link::ScpiMeter& meter() const { return m_meter; }

    /// Of the clock of everything that is heard.
    [[nodiscard]] static double now_s();
    /// What an input is told to be now, by its index in the ECU's list; none while nothing is.
    [[nodiscard]] std::optional<InputNow> sample(int input) const;
    /// What the ECU says at such a station was told, and is no more; for how long, s.
    [[nodiscard]] std::optional<double> staleFor_s(int input, proof::StationKind kind) const;

    /// Why a number is not there.
    enum class Missing {
        Silent, ///< nothing comes of its input
        Stale, ///< it came, and comes no more
        NotTold, ///< the ECU's stream, or what is played, does not tell it
        NoTable ///< the bench's ECU has no table for it
    };
    [[nodiscard]] Missing whyMissing(const job::Job& job, const job::Circuit& circuit, proof::StationKind kind) const;
    /// The same in a word, in its place; `silent` where nothing comes.
    [[nodiscard]] QString missing(const job::Job& job, const job::Circuit& circuit, proof::StationKind kind,
                                  const QString& silent) const;
    /// Why what is heard is nothing to keep; empty: it is of now.
    [[nodiscard]] QString notOfNow() const;

    /// What the input of a circuit reads now: volts, or Hz where its pulses stand for a value.
    [[nodiscard]] std::optional<double> reading(const job::Job& job, const job::Circuit& circuit) const;

    /// What it reads as volts, whatever they stand for; worked out where the ECU tells its counts alone.
    [[nodiscard]] std::optional<double> volts(const job::Job& job, const job::Circuit& circuit) const;

    /// What the ECU reports at one of its stations, as it is counted there; none where nothing comes, or no
    /// value while it has no table.
    [[nodiscard]] std::optional<job::Reading> now(const job::Job& job, const job::Circuit& circuit,
                                                  const proof::Place& place) const;

    /// Whether the bench's hands leave a circuit's sensor as the engine at rest has it: promises count on that.
    [[nodiscard]] bool untouched(const job::Job& job, const job::Circuit& circuit) const;

    [[nodiscard]] bool meterReady() const { return m_meter.state() == link::ScpiMeter::State::Ready; }
    [[nodiscard]] bool ecuLive() const { return m_ecu.state() == link::CanEcu::State::Live; }
    [[nodiscard]] Chip ecuChip() const;
    [[nodiscard]] Chip meterChip() const;
    [[nodiscard]] const QString& trouble() const { return m_trouble; } ///< why a chip is bad

    /// Takes a reading: on the bench the probes are put there first. The answer is a reading or a sentence.
    using Taken = std::function<void(const std::optional<job::Reading>& reading, const QString& sentence)>;
    void takeReading(const QString& red, const QString& black, job::Condition condition, Taken taken);

    /// What a scope sees: the bench's, its tips put to these places and its engine turned so meanwhile, or a real one.
    /// The answer is null with a sentence.
    using Swept = std::function<void(std::shared_ptr<const link::Swept> swept, const QString& sentence)>;
    void sweepBench(const std::vector<electrics::Leads>& leads, job::Condition condition, const link::Sweep& sweep,
                    const Swept& swept);
    void sweepScope(const link::Address& scope, const link::Sweep& sweep, const Swept& swept);

    /// Hands a table over, value axis in the sensor's unit. The answer is empty when the ECU took it.
    using Sent = std::function<void(const QString& trouble)>;
    void sendTable(int input, const scaling::Table& table, units::Dimension measures, Sent sent);

    /// The job that is open, and where it lies: what is mended in it since the bench took its car from that file is
    /// mended there, and a mend that is undone is broken again.
    void follow(const std::shared_ptr<const job::Job>& job, const QString& file);

    /// Where hands are, and what they move; empty: off.
    void hold(const std::vector<std::string>& held);

    /// The bench's crank, by hand; the answer is empty when it has turned.
    void turn(double crank_deg, const std::function<void(const QString& trouble)>& turned);
    /// Whether there is a bench, whose engine hands turn from here.
    [[nodiscard]] bool canTurn() const { return m_bench.isReady(); }

    /// Whether something is connected that switches single outputs on.
    [[nodiscard]] bool canClick() const { return m_bench.isReady(); }
    /// Switches a circuit's output on by itself. The answer is what was heard, or a sentence.
    using Heard = std::function<void(const std::vector<job::CircuitId>& answered, const QString& sentence)>;
    void click(const job::Circuit& circuit, const Heard& heard);

    void setCondition(job::Condition condition);

  signals:
    void sampled(); ///< at most ten times a second
    void heard(const QList<vicegrip::stream::Heard>& all); ///< every one of it, as it comes
    void linksChanged();
    void unitsSaid(); ///< over OBD
    void chosenOtherwise(); ///< a bench or a recording, whatever was on its way to be opened
    void healthChanged(); ///< of the bus, about once a second; of a recording that is played, four times
    void troubled(const QString& sentence);
    void benchSaid(const QString& sentence); ///< the links are as they were

  private:
    void tell(const QString& sentence);
    void settle(const job::Reading& reading);
    void finishReading(const std::optional<job::Reading>& reading, const QString& sentence);
    void finishTable(const QString& trouble);

    void openLinks();
    void listen();
    void readBenchFrames();
    void leaveBench();
    void finishSweep(std::shared_ptr<const link::Swept> swept, const QString& sentence);
    void tellMends();

    link::BenchLink m_bench;
    link::BenchDoor m_door;
    QStringList m_benchCall; ///< program, job file, fault list
    QByteArray m_hidden; ///< faults of a round of practice; empty: none is played
    std::vector<job::Mend> m_mends, m_mendsBefore; ///< of the job; those that the bench's car was made with
    QString m_file; ///< of the job
    bool m_begins = false; ///< the bench was started before its job was open here
    qsizetype m_told = 0; ///< mends that the bench knows of
    link::CanEcu m_ecu;
    link::ScpiMeter m_meter;
    link::ScpiScope m_scope;
    Swept m_swept;
    Latest m_latest;
    std::optional<StreamLink> m_stream; ///< none: the bench's
    std::optional<Replay> m_replay;
    Recorder m_recorder;
    std::vector<recording::Column> m_columns; ///< of what is recorded
    std::shared_ptr<const dbc::Database> m_benchFrames; ///< what describes the bench's
    std::vector<stream::Ear> m_ears;
    std::shared_ptr<const stream::Listener> m_listener;
    std::optional<link::Address> m_meterAddress; ///< none: the bench's, or none
    std::shared_ptr<const job::Job> m_job = std::make_shared<const job::Job>(); ///< that is listened for
    QTimer m_refresh, m_progress;
    Taken m_taken;
    std::vector<job::Reading> m_readings; ///< of the place that is being read, until they stand still
    Sent m_sent;
    QString m_trouble;
    job::Condition m_condition = job::Condition::KeyOn;
};

} // namespace vicegrip::app
