#include "core/book/book.h"

#include "core/base/phrase.h"
#include "core/book/chapters.h"
#include "core/logbook/logbook.h"

#include <array>

namespace vicegrip::book {
namespace {

struct Known
{
    Chapter chapter;
    std::string_view name, title;
    Blocks (*of)(const analysis::Analysis&, const materials::Habits&);
};

/// A chapter in which nothing is cut.
template <Blocks (*Of)(const analysis::Analysis&)>
Blocks uncut(const analysis::Analysis& analysis, const materials::Habits& /*habits*/)
{
    return Of(analysis);
}

constexpr std::array<Known, 12> kChapters = {{
    {Chapter::Circuits, "circuits", key("Circuits"), uncut<circuitsOf>},
    {Chapter::Plugs, "plugs", key("Plugs"), uncut<plugsOf>},
    {Chapter::Wires, "wires", key("Wires"), wiresOf},
    {Chapter::Harness, "harness", key("Harness"), uncut<harnessOf>},
    {Chapter::Diagrams, "diagrams", key("Wiring diagrams"), uncut<diagramsOf>},
    {Chapter::Scaling, "scaling", key("Scaling and limits"), uncut<scalingOf>},
    {Chapter::Trigger, "trigger", key("Trigger"), uncut<triggerOf>},
    {Chapter::RunSheet, "run-sheet", key("Run sheet"), uncut<runSheetOf>},
    {Chapter::Logs, "logs", key("Captures and logs"), uncut<logsOf>},
    {Chapter::Findings, "findings", key("Open findings"), uncut<findingsOf>},
    {Chapter::Again, "again", key("What to measure again"), uncut<againOf>},
    {Chapter::Logbook, "logbook", key("Logbook"), uncut<logbookOf>},
}};

const Known& knownOf(Chapter chapter)
{
    for (const Known& k : kChapters)
        if (k.chapter == chapter)
            return k;
    return kChapters.front();
}

} // namespace

const std::vector<Chapter>& allChapters()
{
    static const std::vector<Chapter> kAll = [] {
        std::vector<Chapter> all;
        for (const Known& k : kChapters)
            all.push_back(k.chapter);
        return all;
    }();
    return kAll;
}

std::string_view chapterName(Chapter chapter)
{
    return knownOf(chapter).name;
}

std::string_view chapterTitle(Chapter chapter)
{
    return knownOf(chapter).title;
}

Book bookOf(const analysis::Analysis& analysis, const std::set<Chapter>& chapters, const materials::Habits& habits)
{
    Book out;
    out.title = analysis.job->title.empty() ? analysis.job->name : analysis.job->title;
    out.asOf = logbook::lastDate(*analysis.job);
    out.cover = coverOf(analysis);
    for (const Known& k : kChapters)
        if (chapters.contains(k.chapter))
            if (Blocks blocks = k.of(analysis, habits); !blocks.empty())
                out.chapters.push_back({phrase(k.title), std::move(blocks)});
    return out;
}

Book bookOf(const analysis::Analysis& analysis)
{
    return bookOf(analysis, {allChapters().begin(), allChapters().end()});
}

} // namespace vicegrip::book
