#pragma once

#include <algorithm>
#include <atomic>
#include <future>
#include <thread>
#include <vector>

namespace vicegrip {

/// `work(i)` for each i below `count`, on as many threads as there are processors. They must not touch one another's.
template <class Work> void inParallel(size_t count, const Work& work)
{
    const size_t threads = std::max(1U, std::thread::hardware_concurrency());
    std::atomic<size_t> next = 0; // whoever is done takes another: one may be as much as ten
    std::vector<std::future<void>> working;
    for (size_t t = 0; t < std::min(threads, count); ++t)
        working.push_back(std::async(std::launch::async, [&] {
            for (size_t i = next++; i < count; i = next++)
                work(i);
        }));
    for (auto& w : working)
        w.get();
}

} // namespace vicegrip
