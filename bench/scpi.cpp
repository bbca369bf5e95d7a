#include "bench/scpi.h"

#include "link/scpi_meter.h"

#include <optional>

namespace vicegrip::bench {
namespace {

constexpr size_t kLongestQueue = 20;

QByteArray answer(std::optional<double> value)
{
    return QByteArray::number(value.value_or(link::kScpiOverload), 'E', 8);
}

/// Short forms of the mnemonics that are used, so that both spellings meet.
QByteArray shortened(QByteArray command)
{
    command = command.trimmed().toUpper();
    static constexpr std::pair<const char*, const char*> kForms[] = {
        {"MEASURE", "MEAS"}, {"VOLTAGE", "VOLT"}, {"RESISTANCE", "RES"}, {"SYSTEM", "SYST"}, {"ERROR", "ERR"}};
    for (const auto& [longForm, shortForm] : kForms)
        command.replace(longForm, shortForm);
    if (command.startsWith(':'))
        command.remove(0, 1);
    return command;
}

} // namespace

QByteArray ScpiInterpreter::nextError()
{
    if (m_errors.empty())
        return "0,\"No error\"";
    const Queued error = m_errors.front();
    m_errors.pop_front();
    return QByteArray::number(error.code) + ",\"" + error.text + "\"";
}

QByteArrayList ScpiInterpreter::execute(const QByteArray& line)
{
    QByteArrayList answers;
    for (const QByteArray& part : line.split(';')) {
        const QByteArray command = shortened(part);
        if (command.isEmpty())
            continue;
        if (command == "*IDN?")
            answers << "Vicegrip,Simulated multimeter,0,1";
        else if (command == "MEAS:VOLT:DC?" || command == "MEAS:VOLT?")
            answers << answer(m_car.volts());
        else if (command == "MEAS:RES?")
            answers << answer(m_car.ohms());
        else if (command == "SYST:ERR?" || command == "SYST:ERR:NEXT?")
            answers << nextError();
        else if (command == "*CLS")
            m_errors.clear();
        else if (command == "*OPC?")
            answers << "1";
        else if (command != "*RST" && m_errors.size() < kLongestQueue)
            m_errors.push_back({-113, "Undefined header"});
    }
    return answers;
}

} // namespace vicegrip::bench
