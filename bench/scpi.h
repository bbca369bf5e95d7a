#pragma once

#include "bench/car.h"

#include <QByteArray>
#include <QByteArrayList>

#include <deque>

/// The simulated multimeter's tongue: the commands of IEEE 488.2 and SCPI-99 that a hand-held needs, long and short
/// forms, any case. An unknown one goes to the error queue, as the standard has it.
namespace vicegrip::bench {

class ScpiInterpreter
{
  public:
    explicit ScpiInterpreter(Car& car) : m_car(car) {}

    /// Executes one line (commands separated by semicolons) and returns the answers, one a query.
    [[nodiscard]] QByteArrayList execute(const QByteArray& line);

  private:
    struct Queued
    {
        int code;
        const char* text;
    };
    QByteArray nextError();

    Car& m_car;
    std::deque<Queued> m_errors;
};

} // namespace vicegrip::bench
