#include "cli/beside.h"

#include "core/job/json.h"

namespace vicegrip::cli {

Result<book::Beside> besideOf(const job::Job& job, const std::string& file, const std::string& since)
{
    book::Beside out{{}, photos::albumOf(job, file), {}};
    if (since.empty())
        return out;
    return job::readFile(since).map([&](job::Job last) {
        out.last = std::move(last);
        return out;
    });
}

} // namespace vicegrip::cli
