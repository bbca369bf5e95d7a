#include "link/bench_link.h"

#include <QCoreApplication>
#include <QJsonArray>
#include <QJsonDocument>

namespace vicegrip::link {
namespace {

constexpr int kAnnouncementPatience_ms = 15000; // it reads the job and solves its network first
constexpr int kReplyPatience_ms = 2000;
constexpr int kBetweenSentences_ms = 200;
constexpr int kFarewell_ms = 1000;
constexpr qsizetype kLongestSentence = 400;

} // namespace

BenchLink::BenchLink(QObject* parent) : QObject(parent)
{
    m_patience.setSingleShot(true);
    connect(&m_patience, &QTimer::timeout, this, [this] {
        fail(m_ready ? tr("The bench does not answer.") : tr("The bench does not say where it listens."));
    });
    m_say.setSingleShot(true);
    m_say.setInterval(kBetweenSentences_ms);
    connect(&m_say, &QTimer::timeout, this, [this] {
        emit said(m_trouble.isEmpty() ? tr("The bench has taken up what was changed.")
                                      : tr("The bench goes on with what it had: %1").arg(m_trouble));
    });
    connect(&m_control, &LineSocket::connected, this, [this] {
        m_patience.stop();
        m_ready = true;
        m_measurands.clear(); // a new car
        emit ready(m_door);
    });
    connect(&m_control, &LineSocket::received, this, &BenchLink::takeReply);
    connect(&m_control, &LineSocket::closed, this,
            [this](const QString& why) { fail(tr("The bench is gone: %1").arg(why)); });
}

BenchLink::~BenchLink()
{
    if (!m_process)
        return;
    m_process->disconnect(this);
    m_process->closeWriteChannel();
    if (!m_process->waitForFinished(kFarewell_ms))
        m_process->kill();
    m_process->waitForFinished(kFarewell_ms);
}

/// Its standard error is for whoever starts it by hand: libraries talk there, as much and as they like.
void BenchLink::start(const QString& program, const QString& jobFile, const QString& faultsFile)
{
    stop();
    QStringList arguments{jobFile};
    if (!faultsFile.isEmpty())
        arguments << QStringLiteral("--faults") << faultsFile;
    m_heard.clear();
    m_nonsense = 0;
    m_trouble.clear();
    m_process = std::make_unique<QProcess>();
    m_process->setStandardErrorFile(QProcess::nullDevice());
    connect(m_process.get(), &QProcess::readyReadStandardOutput, this, &BenchLink::hear);
    connect(m_process.get(), &QProcess::errorOccurred, this, [this](QProcess::ProcessError error) {
        if (error == QProcess::FailedToStart)
            fail(tr("The bench cannot be started: %1").arg(m_process->errorString()));
    });
    connect(m_process.get(), &QProcess::finished, this, [this] {
        hear();
        if (m_process) // what it said was not the end of it
            fail(m_trouble.isEmpty() ? tr("The bench has stopped.") : tr("The bench has stopped: %1").arg(m_trouble));
    });
    m_patience.start(kAnnouncementPatience_ms);
    m_process->start(program, arguments);
}

void BenchLink::stop()
{
    end(tr("The bench was stopped."));
}

/// Nothing more comes; who waits is told why.
void BenchLink::end(const QString& sentence)
{
    m_ready = false;
    m_patience.stop();
    m_say.stop();
    m_control.close();
    letGo();
    for (const Answered& answered : std::exchange(m_waiting, {}))
        answered({}, sentence);
}

/// The bench ends by itself when its standard input closes, so that it never outlives us, whatever ends us; one that
/// does not is killed. Nobody waits for it.
void BenchLink::letGo()
{
    if (!m_process)
        return;
    QProcess* const gone = m_process.release();
    gone->disconnect(this);
    if (gone->state() == QProcess::NotRunning) {
        gone->deleteLater(); // it may be the sender of what called us
        return;
    }
    gone->setParent(QCoreApplication::instance());
    gone->closeReadChannel(QProcess::StandardOutput);
    gone->closeWriteChannel();
    connect(gone, &QProcess::finished, gone, &QObject::deleteLater);
    QTimer::singleShot(kFarewell_ms, gone, &QProcess::kill);
}

/// A line of JSON each: where it listens, then what it cannot use of its files.
void BenchLink::hear()
{
    m_heard += m_process->readAllStandardOutput();
    qsizetype begin = 0;
    for (qsizetype end = 0; m_process && (end = m_heard.indexOf('\n', begin)) >= 0; begin = end + 1)
        takeSaid(m_heard.mid(begin, end - begin));
    m_heard.remove(0, begin);
    if (m_process && m_heard.size() > kLongestLine)
        understoodNothing(m_heard.size());
}

void BenchLink::takeSaid(const QByteArray& line)
{
    const QJsonObject said = QJsonDocument::fromJson(line).object();
    if (const QJsonValue trouble = said.value(QStringLiteral("trouble")); trouble.isString()) {
        const QString sentence = trouble.toString().left(kLongestSentence);
        if (sentence == m_trouble)
            return;
        m_trouble = sentence;
        if (m_ready && !m_say.isActive())
            m_say.start();
        return;
    }
    const QString socket = said.value(QStringLiteral("socket")).toString();
    const QByteArray nonce = said.value(QStringLiteral("nonce")).toString().toLatin1();
    if (m_ready || socket.isEmpty() || nonce.isEmpty()) {
        understoodNothing(line.size() + 1);
        return;
    }
    m_door = {socket, nonce};
    m_control.connectTo(m_door.channel("control"));
}

/// What begins with nonsense is not a bench; what lapses into it for long is no longer one.
void BenchLink::understoodNothing(qsizetype bytes)
{
    m_nonsense += bytes;
    if (!m_ready)
        fail(tr("The bench does not say where it listens."));
    else if (m_nonsense > kLongestLine)
        fail(tr("The bench says what nobody understands."));
}

void BenchLink::setCondition(job::Condition condition, const Done& done)
{
    const std::string_view name = fields::enumName(condition);
    ask({{QStringLiteral("condition"), QString::fromUtf8(name.data(), static_cast<qsizetype>(name.size()))}}, done);
}

void BenchLink::mend(const QList<QStringList>& mends, const Done& done)
{
    QJsonArray all;
    for (const QStringList& subjects : mends)
        all.append(QJsonArray::fromStringList(subjects));
    ask({{QStringLiteral("mended"), all}}, done);
}

void BenchLink::practise(const QByteArray& faults, const Done& done)
{
    ask({{QStringLiteral("practice"), QJsonDocument::fromJson(faults).object()}}, done);
}

void BenchLink::hold(const QStringList& held, const Done& done)
{
    ask({{QStringLiteral("hands"), QJsonArray::fromStringList(held)}}, done);
}

void BenchLink::turn(double crank_deg, const Done& done)
{
    ask({{QStringLiteral("turned_deg"), crank_deg}}, done);
}

void BenchLink::putProbes(const QString& red, const QString& black, const Done& done)
{
    ask({{QStringLiteral("red"), red}, {QStringLiteral("black"), black}}, done);
}

void BenchLink::putTips(const QList<QPair<QString, QString>>& channels, const Done& done)
{
    QJsonArray tips;
    for (const auto& [tip, clip] : channels)
        tips.append(QJsonArray{tip, clip});
    ask({{QStringLiteral("tips"), tips}}, done);
}

void BenchLink::setMeasurand(const QString& circuit, double value, const Done& done)
{
    if (m_ready)
        m_measurands.insert(circuit, value);
    ask({{QStringLiteral("measurand"), QJsonObject{{circuit, value}}}}, done);
}

std::optional<double> BenchLink::measurand(const QString& circuit) const
{
    const auto it = m_measurands.find(circuit);
    return it == m_measurands.end() ? std::nullopt : std::optional(*it);
}

void BenchLink::click(const QString& output, const Heard& heard)
{
    askFor({{QStringLiteral("click"), output}}, [heard](const QJsonObject& reply, const QString& error) {
        QStringList circuits;
        for (const QJsonValue& id : reply.value(QStringLiteral("heard")).toArray())
            circuits << id.toString();
        heard(circuits, error);
    });
}

void BenchLink::drive(const QString& file, const Done& done)
{
    ask({{QStringLiteral("drive"), file}}, done);
}

void BenchLink::askDriven(const OnTheWay& onTheWay)
{
    askFor({{QStringLiteral("driven"), true}}, [onTheWay](const QJsonObject& reply, const QString& error) {
        onTheWay(reply.value(QStringLiteral("percent")).toInt(),
                 !error.isEmpty() || reply.value(QStringLiteral("done")).toBool(), error);
    });
}

void BenchLink::pour(double onto_m3, double volume_m3, double ethanol, const Done& done)
{
    ask({{QStringLiteral("pour"), QJsonObject{{QStringLiteral("onto_m3"), onto_m3},
                                              {QStringLiteral("volume_m3"), volume_m3},
                                              {QStringLiteral("ethanol"), ethanol}}}},
        done);
}

void BenchLink::askProgram(const Told& told)
{
    askFor({{QStringLiteral("program"), true}}, [told](const QJsonObject& reply, const QString& error) {
        told({reply.value(QStringLiteral("idle_air")).toDouble(), reply.value(QStringLiteral("correction")).toDouble()},
             error);
    });
}

void BenchLink::ask(const QJsonObject& request, const Done& done)
{
    askFor(request, [done](const QJsonObject&, const QString& error) {
        if (done)
            done(error);
    });
}

void BenchLink::askFor(const QJsonObject& request, Answered answered)
{
    if (!m_ready) {
        answered({}, tr("There is no bench."));
        return;
    }
    if (m_waiting.isEmpty())
        m_patience.start(kReplyPatience_ms);
    m_waiting.enqueue(std::move(answered));
    m_control.writeLine(QJsonDocument(request).toJson(QJsonDocument::Compact));
}

void BenchLink::takeReply(const QByteArray& line)
{
    if (m_waiting.isEmpty()) {
        understoodNothing(line.size() + 1);
        return;
    }
    const Answered answered = m_waiting.dequeue();
    m_waiting.isEmpty() ? m_patience.stop() : m_patience.start(kReplyPatience_ms);
    const QJsonObject reply = QJsonDocument::fromJson(line).object();
    if (reply.value(QStringLiteral("ok")).toBool())
        answered(reply, {});
    else
        answered(
            reply,
            reply.value(QStringLiteral("error")).toString(tr("The bench answered nonsense.")).left(kLongestSentence));
}

void BenchLink::fail(const QString& sentence)
{
    end(sentence);
    emit failed(sentence);
}

} // namespace vicegrip::link
