#include "bench/scpi.h"

#include "link/scpi_meter.h"

#include <QtEndian>

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
        {"MEASURE", "MEAS"},  {"VOLTAGE", "VOLT"},  {"RESISTANCE", "RES"}, {"SYSTEM", "SYST"},
        {"ERROR", "ERR"},     {"FORMAT", "FORM"},   {"BORDER", "BORD"},    {"NORMAL", "NORM"},
        {"SENSE", "SENS"},    {"SWEEP", "SWE"},     {"TINTERVAL", "TINT"}, {"POINTS", "POIN"},
        {"INITIATE", "INIT"}, {"IMMEDIATE", "IMM"}, {"FETCH", "FETC"},     {"ARRAY", "ARR"}};
    for (const auto& [longForm, shortForm] : kForms)
        command.replace(longForm, shortForm);
    if (command.startsWith(':'))
        command.remove(0, 1);
    return command;
}

QByteArray textOf(int code)
{
    switch (code) {
    case 0:
        return "0,\"No error\"";
    case -221:
        return "-221,\"Settings conflict\"";
    case -222:
        return "-222,\"Data out of range\"";
    default:
        return "-113,\"Undefined header\"";
    }
}

/// 32-bit reals, the first byte first (SCPI-99, FORMat:BORDer NORMal).
QByteArray realsOf(const std::vector<float>& values)
{
    QByteArray out(static_cast<qsizetype>(values.size() * sizeof(float)), Qt::Uninitialized);
    qToBigEndian<float>(values.data(), static_cast<qsizetype>(values.size()), out.data());
    return out;
}

} // namespace

QList<Answer> ScpiInstrument::execute(const QByteArray& line)
{
    QList<Answer> answers;
    for (const QByteArray& part : line.split(';')) {
        const QByteArray command = shortened(part);
        if (command.isEmpty())
            continue;
        const Code code = takeCommon(command, answers);
        if (code != NoError && m_errors.size() < kLongestQueue)
            m_errors.push_back(code);
    }
    return answers;
}

ScpiInstrument::Code ScpiInstrument::takeCommon(const QByteArray& command, QList<Answer>& answers)
{
    if (command == "*IDN?") {
        answers << Answer{"Vicegrip," + name() + ",0,1"};
    } else if (command == "SYST:ERR?" || command == "SYST:ERR:NEXT?") {
        answers << Answer{textOf(m_errors.empty() ? NoError : m_errors.front())};
        if (!m_errors.empty())
            m_errors.pop_front();
    } else if (command == "*CLS") {
        m_errors.clear();
    } else if (command == "*OPC?") {
        answers << Answer{"1"};
    } else if (command != "*RST") {
        return take(command, answers);
    }
    return NoError;
}

ScpiInstrument::Code Multimeter::take(const QByteArray& command, QList<Answer>& answers)
{
    if (command == "MEAS:VOLT:DC?" || command == "MEAS:VOLT?")
        answers << Answer{answer(car().volts())};
    else if (command == "MEAS:RES?")
        answers << Answer{answer(car().ohms())};
    else
        return UndefinedHeader;
    return NoError;
}

ScpiInstrument::Code Scope::takeSweep(const QByteArray& command, QList<Answer>& answers)
{
    constexpr double kLeast_s = 1e-7, kMost_s = 1;
    constexpr int kMostPoints = 4'000'000;
    const qsizetype blank = command.indexOf(' ');
    const QByteArray what = blank < 0 ? command : command.left(blank);
    bool isNumber = false;
    const double value = blank < 0 ? 0 : command.mid(blank + 1).toDouble(&isNumber);
    if (what == "SWE:TINT?")
        answers << Answer{answer(m_step_s)};
    else if (what == "SWE:POIN?")
        answers << Answer{QByteArray::number(static_cast<qulonglong>(m_points))};
    else if (what == "SWE:TINT" && isNumber && value >= kLeast_s && value <= kMost_s)
        m_step_s = value;
    else if (what == "SWE:POIN" && isNumber && value >= 2 && value <= kMostPoints)
        m_points = static_cast<size_t>(value);
    else
        return what == "SWE:TINT" || what == "SWE:POIN" ? OutOfRange : UndefinedHeader;
    return NoError;
}

ScpiInstrument::Code Scope::take(const QByteArray& command, QList<Answer>& answers)
{
    static const QByteArray kFetch = "FETC:ARR:VOLT? (@";
    const QByteArray plain = command.startsWith("SENS:") ? command.mid(5) : command;
    if (plain.startsWith("SWE:"))
        return takeSweep(plain, answers);
    if (command == "FORM REAL,32" || command == "FORM:BORD NORM")
        return NoError; // it has no other
    if (command == "INIT" || command == "INIT:IMM") {
        auto seen = car().scope(m_step_s, m_points);
        m_seen = seen ? std::move(*seen) : std::vector<std::vector<float>>();
        return seen ? NoError : Conflict;
    }
    if (!command.startsWith(kFetch) || !command.endsWith(')'))
        return UndefinedHeader;
    bool isNumber = false;
    const int channel = command.mid(kFetch.size(), command.size() - kFetch.size() - 1).toInt(&isNumber);
    if (!isNumber || channel < 1 || static_cast<size_t>(channel) > m_seen.size())
        return OutOfRange;
    answers << Answer{realsOf(m_seen[static_cast<size_t>(channel) - 1]), true};
    return NoError;
}

} // namespace vicegrip::bench
