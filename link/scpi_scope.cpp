#include "link/scpi_scope.h"

#include <QtEndian>

#include <algorithm>
#include <cmath>

namespace vicegrip::link {
namespace {

constexpr int kScopePatience_ms = 10000;

} // namespace

ScpiScope::ScpiScope(QObject* parent) : QObject(parent)
{
    m_line.takeBlocks(kLargestBlock);
    m_patience.setSingleShot(true);
    connect(&m_patience, &QTimer::timeout, this, [this] {
        giveUp(tr("The scope did not answer. One that does not speak SCPI-99 arrays keeps its capture in a file: open "
                  "that."));
    });
    connect(&m_line, &LineSocket::connected, this, [this] { ask(Asked::Name, "*IDN?"); });
    connect(&m_line, &LineSocket::received, this, &ScpiScope::takeLine);
    connect(&m_line, &LineSocket::receivedBlock, this, &ScpiScope::takeBlock);
    connect(&m_line, &LineSocket::closed, this,
            [this](const QString& why) { giveUp(tr("The scope is gone: %1").arg(why)); });
}

void ScpiScope::take(const Address& address, const Sweep& sweep)
{
    if (isBusy()) {
        emit failed(tr("The scope is still at the last sweep."));
        return;
    }
    m_sweep = sweep;
    m_swept = std::make_shared<Swept>();
    m_asked = Asked::Name;
    m_patience.start(kScopePatience_ms + static_cast<int>(1000 * sweep.step_s * sweep.points));
    m_line.connectTo(address);
}

void ScpiScope::ask(Asked what, const QByteArray& query)
{
    m_asked = what;
    m_line.writeLine(query);
}

void ScpiScope::takeLine(const QByteArray& line)
{
    bool isNumber = false;
    switch (m_asked) {
    case Asked::Name:
        m_line.writeLine("FORM REAL,32;FORM:BORD NORM");
        m_line.writeLine("SENS:SWE:TINT " + QByteArray::number(m_sweep.step_s, 'E', 9));
        m_line.writeLine("SENS:SWE:POIN " + QByteArray::number(m_sweep.points));
        ask(Asked::Step, "SENS:SWE:TINT?"); // it may take another
        break;
    case Asked::Step:
        m_swept->step_s = line.toDouble(&isNumber);
        if (!isNumber || !(m_swept->step_s > 0) || !std::isfinite(m_swept->step_s)) {
            giveUp(tr("The scope does not say how far apart its samples are."));
            break;
        }
        m_line.writeLine("INIT");
        ask(Asked::Done, "*OPC?");
        break;
    case Asked::Done:
        fetch();
        break;
    case Asked::Volts: // the end of a block's line, or no block
        if (!line.isEmpty())
            giveUp(tr("The scope sent no block of volts."));
        break;
    case Asked::Nothing:
        break;
    }
}

void ScpiScope::fetch()
{
    ask(Asked::Volts, "FETC:ARR:VOLT? (@" + QByteArray::number(static_cast<int>(m_swept->volts.size()) + 1) + ")");
}

void ScpiScope::takeBlock(const QByteArray& block)
{
    if (m_asked != Asked::Volts)
        return;
    std::vector<float> volts(static_cast<size_t>(block.size()) / sizeof(float));
    qFromBigEndian<float>(block.constData(), static_cast<qsizetype>(volts.size()), volts.data());
    const bool whole = !volts.empty() && block.size() % static_cast<qsizetype>(sizeof(float)) == 0 &&
                       (m_swept->volts.empty() || volts.size() == m_swept->volts.front().size());
    if (!whole || !std::ranges::all_of(volts, [](float v) { return std::isfinite(v); })) {
        giveUp(tr("The scope sent a block that is no row of volts."));
        return;
    }
    m_swept->volts.push_back(std::move(volts));
    if (static_cast<int>(m_swept->volts.size()) < m_sweep.channels) {
        fetch();
        return;
    }
    m_asked = Asked::Nothing;
    m_patience.stop();
    m_line.close();
    emit swept(std::exchange(m_swept, {}));
}

void ScpiScope::giveUp(const QString& sentence)
{
    if (!isBusy())
        return;
    m_asked = Asked::Nothing;
    m_patience.stop();
    m_line.close();
    emit failed(sentence);
}

} // namespace vicegrip::link
