#pragma once

#include "core/job/reading.h"
#include "link/line_socket.h"

#include <QHash>
#include <QJsonObject>
#include <QProcess>
#include <QQueue>
#include <QTimer>

#include <functional>
#include <memory>

/// The simulated bench: starts `vicegrip-bench`, learns where its instruments listen, and does what hands do on it.
namespace vicegrip::link {

/// The bench's one socket, and the nonce that lets in.
struct BenchDoor
{
    QString socket;
    QByteArray nonce;

    /// "can", "meter", "scope" or "control".
    [[nodiscard]] BenchAddress channel(const char* name) const { return {socket, nonce + ' ' + name}; }
};

class BenchLink : public QObject
{
    Q_OBJECT

  public:
    explicit BenchLink(QObject* parent = nullptr);
    ~BenchLink() override;

    /// Starts the program; `ready` or `failed` follows, within fifteen seconds.
    void start(const QString& program, const QString& jobFile, const QString& faultsFile);
    void stop();
    [[nodiscard]] bool isReady() const { return m_ready; }
    [[nodiscard]] qint64 processId() const { return m_process ? m_process->processId() : 0; }

    /// Every request is answered, within two seconds: a bench that says nothing is given up.
    using Done = std::function<void(const QString& error)>; ///< empty: it was done

    /// Hands: key and battery lead, the probes, and a measurand (SI; keyed by circuit).
    void setCondition(job::Condition condition, const Done& done = {});
    void putProbes(const QString& red, const QString& black, const Done& done = {});
    /// Of a scope, channel by channel: a tip and a clip.
    void putTips(const QList<QPair<QString, QString>>& channels, const Done& done = {});
    void setMeasurand(const QString& circuit, double value, const Done& done = {});
    /// Where hands have turned the crank to.
    void turn(double crank_deg, const Done& done = {});
    /// All that was put right so far, mend by mend, as facts.
    void mend(const QList<QStringList>& mends, const Done& done = {});
    /// Faults that are in no file: those of a round of practice, as a fault list.
    void practise(const QByteArray& faults, const Done& done = {});
    /// What hands hold and move; empty: they are off.
    void hold(const QStringList& held, const Done& done = {});
    /// The ECU switches an output on by itself; what answered, as circuits.
    using Heard = std::function<void(const QStringList& circuits, const QString& error)>;
    void click(const QString& output, const Heard& heard);
    /// Somebody drives the car for an evening, beside everything else it does, and its ECU's log goes into a file.
    void drive(const QString& file, const Done& done);
    /// How far that is.
    using OnTheWay = std::function<void(int percent, bool done, const QString& error)>;
    void askDriven(const OnTheWay& onTheWay);
    /// Fuel is poured onto so much that is in the tank, m³ and share by volume.
    void pour(double onto_m3, double volume_m3, double ethanol, const Done& done = {});
    /// What the program of its ECU does now, as the ECU's own screen would show it: shares.
    struct Program
    {
        double idleAir = 0; ///< the idle valve's opening
        double correction = 0; ///< of closed loop: a share that is added
    };
    using Told = std::function<void(const Program& program, const QString& error)>;
    void askProgram(const Told& told);
    /// What hands hold a circuit's sensor at (SI); none: it was left alone.
    [[nodiscard]] std::optional<double> measurand(const QString& circuit) const;

  signals:
    void ready(const vicegrip::link::BenchDoor& door);
    void failed(const QString& sentence);
    void said(const QString& sentence); ///< by the bench, which goes on

  private:
    using Answered = std::function<void(const QJsonObject& reply, const QString& error)>;
    void ask(const QJsonObject& request, const Done& done);
    void askFor(const QJsonObject& request, Answered answered);
    void hear();
    void takeSaid(const QByteArray& line);
    void takeReply(const QByteArray& line);
    void fail(const QString& sentence);
    void end(const QString& sentence);
    void letGo();
    void understoodNothing(qsizetype bytes);

    std::unique_ptr<QProcess> m_process;
    LineSocket m_control;
    QQueue<Answered> m_waiting;
    QHash<QString, double> m_measurands;
    QTimer m_patience; ///< for the announcement, then for each reply
    QByteArray m_heard;
    qsizetype m_nonsense = 0; ///< bytes on its standard output that mean nothing
    QTimer m_say; ///< what it says is passed on so often and no oftener
    QString m_trouble; ///< what it said last; empty: nothing, or that all is well again
    BenchDoor m_door;
    bool m_ready = false;
};

} // namespace vicegrip::link
