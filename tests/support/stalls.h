#pragma once

#include <QTimer>

#include <algorithm>
#include <ctime>
#include <vector>

namespace vicegrip::test {

/// The longest the window's thread was at work without coming round, beside the time that sorting a hundred thousand
/// numbers takes here at that moment: what shares the processor slows both. CPU only: what else the machine does is not
/// its fault.
class Stalls
{
  public:
    Stalls()
    {
        m_round.setInterval(0);
        QObject::connect(&m_round, &QTimer::timeout, [this] {
            const double now = cpu_ms();
            if (const double took = now - m_before; took > m_longest_ms) {
                m_longest_ms = took;
                m_longest = took / std::max({sorting_ms(), sorting_ms(), sorting_ms()}); // speed comes and goes in ms
            }
            m_before = cpu_ms();
        });
        m_before = cpu_ms();
        m_round.start();
    }
    [[nodiscard]] double longest_ms() const { return m_longest_ms; }
    /// In sortings.
    [[nodiscard]] double longest() const { return m_longest; }

  private:
    static double cpu_ms()
    {
        timespec t{};
        clock_gettime(CLOCK_THREAD_CPUTIME_ID, &t);
        return static_cast<double>(t.tv_sec) * 1e3 + static_cast<double>(t.tv_nsec) / 1e6;
    }

    static double sorting_ms()
    {
        std::vector<unsigned> numbers(100000);
        unsigned last = 1;
        for (unsigned& n : numbers)
            n = last = last * 1664525U + 1013904223U;
        const double before = cpu_ms();
        std::ranges::sort(numbers);
        return cpu_ms() - before;
    }

    QTimer m_round;
    double m_before = 0, m_longest_ms = 0, m_longest = 0;
};

/// About 50 ms on the machines this was written on.
inline constexpr double kStall = 5;

} // namespace vicegrip::test
