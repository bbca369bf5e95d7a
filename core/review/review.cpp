#include "core/review/review.h"

#include "core/base/in_parallel.h"
#include "core/review/rules.h"

#include <algorithm>
#include <array>

namespace vicegrip::review {

std::string_view ruleName(Rule rule)
{
    constexpr std::array kNames = {
        "end",        "beyond",        "frozen",      "drop-out", "spikes",          "shared-ground",     "sag",
        "intake-air", "throttle-ends", "tracks-part", "trend",    "ethanol-settles", "correction-follows"};
    return kNames[static_cast<std::size_t>(rule)];
}

Review review(const log::Log& log, const std::vector<log_columns::Meaning>& meanings,
              const analysis::Analysis& analysis)
{
    Review out;
    const Rows rows(log, meanings, analysis);
    using OfLog = void (*)(const Rows&, Findings&);
    using OfColumn = void (*)(const Rows&, std::size_t, Findings&);
    constexpr std::array<OfColumn, 3> kOfColumn = {endsOf, frozenOf, lettingGoOf};
    constexpr std::array<OfLog, 8> kOfLog = {commonSteps, sags,   intakeAir, throttleEnds,
                                             tracks,      trends, ethanol,   correction};
    const std::size_t columns = log.columns.size(), jobs = columns + kOfLog.size();
    std::vector<Findings> found(jobs);
    inParallel(jobs, [&](std::size_t i) {
        if (i < kOfLog.size())
            kOfLog[i](rows, found[i]);
        else
            for (const OfColumn rule : kOfColumn)
                rule(rows, i - kOfLog.size(), found[i]);
    });
    for (Findings& f : found)
        std::ranges::move(f, std::back_inserter(out.findings));
    std::ranges::stable_sort(out.findings, {}, [](const Finding& f) { return std::pair(f.weight, f.rule); });
    for (std::size_t c = 0; c < columns; ++c)
        out.ends.push_back(endsAt(rows, c));
    return out;
}

} // namespace vicegrip::review
