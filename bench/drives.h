#pragma once

#include "bench/car.h"

#include "core/log/logged.h"

#include <QByteArray>
#include <QString>

#include <atomic>
#include <memory>
#include <thread>

namespace vicegrip::bench {

/// What the ECU logs while its car is driven of an evening, twenty rows a second: what it has for each of its circuits,
/// and what it asks for, corrects and switches. Of a copy: the car itself stays where it is. `goesOn` is told how much
/// is driven, and may end it. An engine that stalls ends the log.
[[nodiscard]] log::Log driven(Car car, const std::function<bool(double share)>& goesOn);

/// Drives of the bench's car, one at a time, beside everything else it does.
class Drives
{
  public:
    Drives() = default;
    ~Drives();
    Drives(const Drives&) = delete;
    Drives& operator=(const Drives&) = delete;

    /// Drives a copy of it and writes its log, as CSV. Errors: one is driven already (Range); the engine does not run
    /// (Range).
    Result<void> begin(const Car& car, const QString& file);

    /// How far it is.
    struct Way
    {
        int percent = 0;
        bool done = false; ///< the file is there, or `trouble` says why not
        QString trouble;
    };
    [[nodiscard]] Way way() const;

  private:
    struct Shared
    {
        std::atomic<int> percent = 0;
        std::atomic<bool> done = false, wanted = true;
        QString trouble; ///< written before `done`
    };
    std::shared_ptr<Shared> m_shared;
    std::thread m_thread;
};

} // namespace vicegrip::bench
