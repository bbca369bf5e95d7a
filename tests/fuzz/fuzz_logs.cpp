#include "core/log/log.h"
#include "core/pulls/pulls.h"
#include "core/review/review.h"

#include <algorithm>
#include <cstdint>
#include <cstdlib>

using namespace vicegrip;

/// Any bytes as a log: what is taken from them is a table whose times never fall, and whatever the rules find in it
/// lies within its rows.
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, size_t size)
{
    static const analysis::Analysis kNone = analysis::analyse(std::make_shared<const job::Job>());
    const auto log = log::readLogText({reinterpret_cast<const char*>(data), size}); // NOLINT: bytes are characters here
    if (!log)
        return 0;
    if (!std::ranges::is_sorted(log->time_s))
        std::abort();
    for (const log::Column& c : log->columns)
        if (c.values.size() != log->rows())
            std::abort();
    const auto meanings = log_columns::meaningsOf(*log, kNone.job.get());
    (void)pulls::pullsOf(*log, meanings);
    const review::Review seen = review::review(*log, meanings, kNone);
    for (const review::Finding& f : seen.findings)
        for (const review::Stretch& s : f.stretches)
            if (s.first > s.last || s.last >= log->rows())
                std::abort();
    (void)log::readLogText(log::csvOf(*log, 0, log->rows()));
    return 0;
}
