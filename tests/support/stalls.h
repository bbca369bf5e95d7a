#pragma once

#include <QTimer>

#include <algorithm>
#include <ctime>

namespace vicegrip::test {

/// The longest the window's thread was at work without coming round, CPU only: what else the machine does is not its
/// fault.
class Stalls
{
  public:
    Stalls()
    {
        m_round.setInterval(0);
        QObject::connect(&m_round, &QTimer::timeout, [this] {
            const double now = cpu_ms();
            m_longest = std::max(m_longest, now - m_before);
            m_before = now;
        });
        m_before = cpu_ms();
        m_round.start();
    }
    [[nodiscard]] double longest_ms() const { return m_longest; }

  private:
    static double cpu_ms()
    {
        timespec t{};
        clock_gettime(CLOCK_THREAD_CPUTIME_ID, &t);
        return static_cast<double>(t.tv_sec) * 1e3 + static_cast<double>(t.tv_nsec) / 1e6;
    }

    QTimer m_round;
    double m_before = 0, m_longest = 0;
};

inline constexpr double kStall_ms = 50;

} // namespace vicegrip::test
