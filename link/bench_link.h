#pragma once

#include "link/line_socket.h"

#include <QHash>
#include <QJsonObject>
#include <QProcess>
#include <QQueue>

#include <functional>

/// The simulated bench: starts `vicegrip-bench`, learns where its instruments listen, and does what hands do on it.
namespace vicegrip::link {

struct BenchPorts
{
    QString canInterface; ///< for the "virtualcan" plugin
    QString meterHost;
    quint16 meterPort = 0;
    quint16 controlPort = 0;
};

class BenchLink : public QObject
{
    Q_OBJECT

  public:
    explicit BenchLink(QObject* parent = nullptr);
    ~BenchLink() override;

    /// Starts the program; `ready` or `failed` follows.
    void start(const QString& program, const QString& jobFile, const QString& faultsFile);
    void stop();
    [[nodiscard]] bool isReady() const { return m_ready; }
    [[nodiscard]] qint64 processId() const { return m_process.processId(); }

    using Done = std::function<void(const QString& error)>; ///< empty: it was done

    /// Hands: key and battery lead, the probes, and what a sensor feels (SI; keyed by circuit).
    void setCondition(const QString& condition, const Done& done = {});
    void putProbes(const QString& red, const QString& black, const Done& done = {});
    void setFelt(const QString& circuit, double value, const Done& done = {});
    /// What hands hold a circuit's sensor at (SI); none: it was left alone.
    [[nodiscard]] std::optional<double> felt(const QString& circuit) const;

  signals:
    void ready(const vicegrip::link::BenchPorts& ports);
    void failed(const QString& sentence);

  private:
    void ask(const QJsonObject& request, const Done& done);
    void readAnnouncement();
    void takeReply(const QByteArray& line);
    void fail(const QString& sentence);

    QProcess m_process;
    LineSocket m_control;
    QQueue<Done> m_waiting;
    QHash<QString, double> m_felt;
    QByteArray m_heard;
    BenchPorts m_ports;
    bool m_ready = false, m_stopping = false;
};

} // namespace vicegrip::link
