#include "link/bench_link.h"

#include <QJsonDocument>
#include <QTcpSocket>

namespace vicegrip::link {

BenchLink::BenchLink(QObject* parent) : QObject(parent), m_control(new QTcpSocket)
{
    connect(&m_process, &QProcess::readyReadStandardOutput, this, &BenchLink::readAnnouncement);
    connect(&m_process, &QProcess::errorOccurred, this, [this](QProcess::ProcessError error) {
        if (error == QProcess::FailedToStart)
            fail(tr("The bench cannot be started: %1").arg(m_process.errorString()));
    });
    connect(&m_process, &QProcess::finished, this, [this] {
        const QString said = QString::fromUtf8(m_process.readAllStandardError()).trimmed();
        fail(said.isEmpty() ? tr("The bench has stopped.") : tr("The bench has stopped: %1").arg(said));
    });
    connect(&m_control, &LineSocket::connected, this, [this] {
        m_ready = true;
        m_felt.clear(); // a new car
        emit ready(m_ports);
    });
    connect(&m_control, &LineSocket::received, this, &BenchLink::takeReply);
    connect(&m_control, &LineSocket::closed, this,
            [this](const QString& why) { fail(tr("The bench is gone: %1").arg(why)); });
}

BenchLink::~BenchLink()
{
    stop();
}

void BenchLink::start(const QString& program, const QString& jobFile, const QString& faultsFile)
{
    QStringList arguments{jobFile};
    if (!faultsFile.isEmpty())
        arguments << QStringLiteral("--faults") << faultsFile;
    m_process.start(program, arguments);
}

/// The bench ends by itself when its standard input closes, so that it never outlives us, whatever ends us.
void BenchLink::stop()
{
    if (m_process.state() == QProcess::NotRunning)
        return;
    m_stopping = true; // what now ends, ends because we want it to
    m_ready = false;
    m_control.close();
    m_process.closeWriteChannel();
    if (!m_process.waitForFinished(1000))
        m_process.kill();
    m_process.waitForFinished(1000);
    m_stopping = false;
}

void BenchLink::readAnnouncement()
{
    m_heard += m_process.readAllStandardOutput();
    if (m_ready || !m_heard.contains('\n')) {
        if (m_heard.size() > kLongestLine)
            fail(tr("The bench does not say where it listens."));
        return;
    }
    const QJsonObject said = QJsonDocument::fromJson(m_heard.left(m_heard.indexOf('\n'))).object();
    m_ports.canInterface = said.value(QStringLiteral("can")).toString();
    m_ports.meterHost = QStringLiteral("127.0.0.1");
    m_ports.meterPort = static_cast<quint16>(said.value(QStringLiteral("meter")).toInt());
    m_ports.controlPort = static_cast<quint16>(said.value(QStringLiteral("control")).toInt());
    m_heard.clear();
    if (m_ports.canInterface.isEmpty() || m_ports.meterPort == 0 || m_ports.controlPort == 0) {
        fail(tr("The bench does not say where it listens."));
        return;
    }
    m_control.connectTo(m_ports.meterHost, m_ports.controlPort);
}

void BenchLink::setCondition(const QString& condition, const Done& done)
{
    ask({{QStringLiteral("condition"), condition}}, done);
}

void BenchLink::putProbes(const QString& red, const QString& black, const Done& done)
{
    ask({{QStringLiteral("red"), red}, {QStringLiteral("black"), black}}, done);
}

void BenchLink::setFelt(const QString& circuit, double value, const Done& done)
{
    if (m_ready)
        m_felt.insert(circuit, value);
    ask({{QStringLiteral("feel"), QJsonObject{{circuit, value}}}}, done);
}

std::optional<double> BenchLink::felt(const QString& circuit) const
{
    const auto it = m_felt.find(circuit);
    return it == m_felt.end() ? std::nullopt : std::optional(*it);
}

void BenchLink::ask(const QJsonObject& request, const Done& done)
{
    if (!m_ready) {
        if (done)
            done(tr("There is no bench."));
        return;
    }
    m_waiting.enqueue(done);
    m_control.writeLine(QJsonDocument(request).toJson(QJsonDocument::Compact));
}

void BenchLink::takeReply(const QByteArray& line)
{
    if (m_waiting.isEmpty())
        return;
    const Done done = m_waiting.dequeue();
    if (!done)
        return;
    const QJsonDocument reply = QJsonDocument::fromJson(line);
    done(reply.isObject() ? reply.object().value(QStringLiteral("error")).toString()
                          : tr("The bench answered nonsense."));
}

void BenchLink::fail(const QString& sentence)
{
    if (m_stopping)
        return;
    m_ready = false;
    const QQueue<Done> abandoned = std::exchange(m_waiting, {});
    for (const Done& done : abandoned)
        if (done)
            done(sentence);
    emit failed(sentence);
}

} // namespace vicegrip::link
