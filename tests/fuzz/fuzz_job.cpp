#include "core/analysis/analysis.h"
#include "core/job/json.h"

#include <cstdint>
#include <cstdlib>

/// Any bytes as a job file: refused with a sentence, or a job that can be analysed and written back as it was.
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, size_t size)
{
    using namespace vicegrip;
    const auto job = job::read({reinterpret_cast<const char*>(data), size}); // NOLINT: bytes are characters here
    if (!job) {
        if (job.error().sentence.empty())
            std::abort();
        return 0;
    }
    (void)analysis::analyse(std::make_shared<const job::Job>(*job));
    const auto again = job::read(job::write(*job));
    if (!again)
        std::abort();
    return 0;
}
