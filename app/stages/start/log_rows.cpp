#include "app/stages/start/log_rows.h"

#include "app/stages/start/log_view.h"
#include "app/widgets/text.h"
#include "core/units/units.h"

namespace vicegrip::app {

using proof::State;
using review::Weight;

namespace {

State stateOf(Weight weight)
{
    return weight == Weight::Wrong ? State::Failing : weight == Weight::Doubtful ? State::Stale : State::Done;
}

} // namespace

QString tenthsText(double seconds)
{
    return text(units::formatNumber(seconds, 1)) + QStringLiteral(" s");
}

std::vector<LogRow> rowsOf(const ReviewedLog& log)
{
    std::vector<LogRow> out;
    const auto heading = [&](const QString& words) { out.push_back({LogRow::Heading, 0, words, {}, {}}); };
    const auto add = [&](LogRow::Kind kind, size_t at, const QString& words, const QString& times,
                         std::optional<State> state) {
        out.push_back({kind, at, words, times, state});
    };
    const review::Review& review = log.review;
    const pulls::Pulls& pulls = log.pulls;
    heading(LogView::tr("Sensors and wiring"));
    for (size_t i = 0; i < review.findings.size(); ++i)
        add(LogRow::Finding, i, text(review.findings[i].what), QString::number(review.findings[i].times),
            stateOf(review.findings[i].weight));
    if (review.findings.empty())
        add(LogRow::Heading, 0, LogView::tr("Nothing is found."), {}, {});
    if (log.before)
        heading(LogView::tr("Before and after"));
    for (size_t i = 0; i < log.compared.size(); ++i)
        add(LogRow::Change, i, text(log.compared[i].verdict), {}, log.compared[i].did ? State::Done : State::Stale);
    heading(LogView::tr("Pulls: %1").arg(text(pulls.verdict)));
    for (size_t i = 0; i < pulls.all.size(); ++i) {
        const pulls::Pull& p = pulls.all[i];
        add(LogRow::Pull, i,
            LogView::tr("%1 to %2 rpm in %3%4: %5")
                .arg(text(units::formatNumber(p.from_rpm, 0)), text(units::formatNumber(p.to_rpm, 0)),
                     tenthsText(p.seconds), p.gear ? LogView::tr(", gear %1").arg(*p.gear) : QString(), text(p.why)),
            {}, p.chosen ? State::Done : State::Untouched);
    }
    if (!log.marks.empty())
        heading(LogView::tr("Marked"));
    for (size_t i = 0; i < log.marks.size(); ++i)
        add(LogRow::Mark, i, tenthsText(log.marks[i].at_s) + QStringLiteral(": ") + text(log.marks[i].words), {}, {});
    const auto& remarks = log.read->log.remarks;
    if (!remarks.empty())
        heading(LogView::tr("What was left out as it was read"));
    for (size_t i = 0; i < remarks.size(); ++i) {
        const log::Remark& r = remarks[i];
        add(LogRow::Remark, i,
            (r.line > 0 ? LogView::tr("Line %1: ").arg(r.line) : QString()) +
                (r.column.empty() ? QString() : text(r.column) + QStringLiteral(": ")) + text(r.sentence),
            {}, {});
    }
    return out;
}

} // namespace vicegrip::app
