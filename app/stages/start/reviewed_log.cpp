#include "app/stages/start/reviewed_log.h"

#include "app/widgets/text.h"
#include "core/base/write_file.h"

#include <QFileInfo>

#include <algorithm>
#include <cmath>

namespace vicegrip::app {
namespace {

/// Rows without a value take the one before; those above the first take the first.
std::vector<float> heldOf(const std::vector<float>& values)
{
    std::vector<float> out;
    const auto first = std::ranges::find_if(values, [](float v) { return !std::isnan(v); });
    if (first == values.end() || std::ranges::none_of(values, [](float v) { return std::isnan(v); }))
        return out;
    out = values;
    float last = *first;
    for (float& v : out) {
        last = std::isnan(v) ? last : v;
        v = last;
    }
    return out;
}

/// What a change did since the older log.
void compareForView(ReviewedLog& of, const ChangeAsked& asked)
{
    const analysis::Analysis& analysis = *of.of;
    const log::Log &before = of.before->log, &after = of.read->log;
    const auto meanings = log_columns::meaningsOf(before, analysis.job.get());
    const review::Review then = review::review(before, meanings, analysis);
    const review::Side old{before, meanings, then}, now{after, of.meanings, of.review};
    if (!asked.purpose) {
        of.compared = review::compareAll(old, now);
    } else if (const auto column = std::ranges::find(after.columns, asked.column.toStdString(), &log::Column::name);
               column != after.columns.end()) {
        if (auto one = review::compare(old, now, static_cast<size_t>(column - after.columns.begin()), *asked.purpose))
            of.compared.push_back(std::move(*one));
        else
            of.notCompared = text(one.error().sentence);
    }
    review::addChanges(of.toKeep, of.before->name.toStdString(), of.compared);
}

} // namespace

size_t ReviewedLog::rowAt(double time_s) const
{
    const auto& time = read->log.time_s;
    const auto after = std::ranges::upper_bound(time, time_s);
    return after == time.begin() ? 0 : static_cast<size_t>(after - time.begin()) - 1;
}

std::shared_ptr<const ReadLog> readLogForView(const QString& file, const std::shared_ptr<Reading>& reading)
{
    auto out = std::make_shared<ReadLog>();
    out->file = file;
    out->name = QFileInfo(file).fileName();
    auto log = log::readLog(file.toStdString(), [&](double share) {
        reading->percent = static_cast<int>(100 * share);
        return reading->wanted.load();
    });
    if (!log) {
        out->trouble = text(log.error().text());
        return out;
    }
    out->log = std::move(*log);
    for (const log::Column& c : out->log.columns)
        out->held.push_back(heldOf(c.values));
    for (size_t c = 0; c < out->log.columns.size(); ++c)
        out->overviews.emplace_back(out->values(c));
    return out;
}

std::shared_ptr<const ReviewedLog> reviewForView(const std::shared_ptr<const ReadLog>& log,
                                                 const std::shared_ptr<const ReadLog>& before,
                                                 const AnalysisPtr& analysis, const ChangeAsked& asked)
{
    auto out = std::make_shared<ReviewedLog>();
    out->read = log;
    out->before = before;
    out->of = analysis;
    if (!log->trouble.isEmpty())
        return out;
    out->meanings = log_columns::meaningsOf(log->log, analysis->job.get());
    out->review = review::review(log->log, out->meanings, *analysis);
    out->marks = log_columns::marksOf(*analysis->job, log->name.toStdString());
    if (auto pulls = pulls::pullsOf(log->log, out->meanings))
        out->pulls = std::move(*pulls);
    else
        out->pulls.verdict = pulls.error().sentence;
    out->toKeep = review::record(*analysis, {log->log, out->meanings, out->review}, log->name.toStdString(), {});
    if (before && before->trouble.isEmpty())
        compareForView(*out, asked);
    return out;
}

Result<int> writePulls(const ReviewedLog& of)
{
    const QFileInfo file(of.read->file);
    int written = 0;
    for (const pulls::Pull& p : of.pulls.all) {
        if (!p.chosen)
            continue;
        const QString name =
            QStringLiteral("%1/%2-pull-%3.csv").arg(file.path(), file.completeBaseName()).arg(written + 1);
        if (auto done = writeFile(name.toStdString(), log::csvOf(of.read->log, p.first, p.last + 1)); !done)
            return tl::make_unexpected(done.error());
        ++written;
    }
    return written;
}

} // namespace vicegrip::app
