#pragma once

#include "bench/car.h"

#include <QByteArray>
#include <QList>

#include <deque>

/// The simulated instruments' tongue: IEEE 488.2 and SCPI-99, long and short forms, any case. What an instrument does
/// not know goes to its error queue, as the standard has it.
namespace vicegrip::bench {

struct Answer
{
    QByteArray bytes;
    bool isBlock = false; ///< bytes of a definite-length block (IEEE 488.2, 8.7.9); else a line
};

class ScpiInstrument
{
  public:
    explicit ScpiInstrument(Car& car) : m_car(car) {}
    virtual ~ScpiInstrument() = default;
    ScpiInstrument(const ScpiInstrument&) = delete;
    ScpiInstrument& operator=(const ScpiInstrument&) = delete;

    /// Executes one line (commands separated by semicolons) and returns the answers, one a query.
    [[nodiscard]] QList<Answer> execute(const QByteArray& line);

  protected:
    enum Code { NoError = 0, UndefinedHeader = -113, Conflict = -221, OutOfRange = -222 };

    /// One command in its short form; a code that is no NoError goes to the queue.
    virtual Code take(const QByteArray& command, QList<Answer>& answers) = 0;
    [[nodiscard]] virtual QByteArray name() const = 0;
    [[nodiscard]] Car& car() { return m_car; }

  private:
    Code takeCommon(const QByteArray& command, QList<Answer>& answers);

    Car& m_car;
    std::deque<Code> m_errors;
};

/// What a hand-held meter needs of it.
class Multimeter : public ScpiInstrument
{
  public:
    using ScpiInstrument::ScpiInstrument;

  protected:
    Code take(const QByteArray& command, QList<Answer>& answers) override;
    [[nodiscard]] QByteArray name() const override { return "Simulated multimeter"; }
};

/// What a scope needs of it: so many samples so far apart (SENSe:SWEep), taken at once of all channels (INITiate), and
/// fetched channel by channel as 32-bit reals in a block (FETCh:ARRay:VOLTage? (@1)).
class Scope : public ScpiInstrument
{
  public:
    using ScpiInstrument::ScpiInstrument;

  protected:
    Code take(const QByteArray& command, QList<Answer>& answers) override;
    [[nodiscard]] QByteArray name() const override { return "Simulated scope"; }

  private:
    Code takeSweep(const QByteArray& command, QList<Answer>& answers);

    double m_step_s = 1e-5;
    size_t m_points = 100000;
    std::vector<std::vector<float>> m_seen;
};

} // namespace vicegrip::bench
