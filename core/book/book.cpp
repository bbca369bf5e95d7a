#include "core/book/book.h"

#include "core/base/in_parallel.h"
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
    Blocks (*of)(const analysis::Analysis&, const Beside&);
};

/// A chapter that is made of the job alone.
template <Blocks (*Of)(const analysis::Analysis&)>
Blocks alone(const analysis::Analysis& analysis, const Beside& /*beside*/)
{
    return Of(analysis);
}
/// One that is worked out circuit after circuit, and may be stopped between them.
template <Blocks (*Of)(const analysis::Analysis&, const std::stop_token&)>
Blocks slowly(const analysis::Analysis& analysis, const Beside& beside)
{
    return Of(analysis, beside.stop);
}
Blocks cutWires(const analysis::Analysis& analysis, const Beside& beside)
{
    return wiresOf(analysis, beside.habits);
}
Blocks since(const analysis::Analysis& analysis, const Beside& beside)
{
    return sinceOf(analysis, beside.last);
}
Blocks withPhotos(const analysis::Analysis& analysis, const Beside& beside)
{
    return photosOf(analysis, beside.photos);
}

constexpr std::array<Known, 14> kChapters = {{
    {Chapter::Circuits, "circuits", key("Circuits"), slowly<circuitsOf>},
    {Chapter::Plugs, "plugs", key("Plugs"), alone<plugsOf>},
    {Chapter::Wires, "wires", key("Wires"), cutWires},
    {Chapter::Harness, "harness", key("Harness"), alone<harnessOf>},
    {Chapter::Diagrams, "diagrams", key("Wiring diagrams"), alone<diagramsOf>},
    {Chapter::Scaling, "scaling", key("Scaling and limits"), slowly<scalingOf>},
    {Chapter::Trigger, "trigger", key("Trigger"), alone<triggerOf>},
    {Chapter::RunSheet, "run-sheet", key("Run sheet"), alone<runSheetOf>},
    {Chapter::Logs, "logs", key("Captures and logs"), alone<logsOf>},
    {Chapter::Since, "since", key("Since the last book"), since},
    {Chapter::Findings, "findings", key("Open findings"), alone<findingsOf>},
    {Chapter::Again, "again", key("What to measure again"), alone<againOf>},
    {Chapter::Photos, "photos", key("Photos"), withPhotos},
    {Chapter::Logbook, "logbook", key("Logbook"), alone<logbookOf>},
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

Book bookOf(const analysis::Analysis& analysis, const std::set<Chapter>& chapters, const Beside& beside)
{
    Book out;
    out.title = analysis.job->title.empty() ? analysis.job->name : analysis.job->title;
    out.asOf = logbook::lastDate(*analysis.job);
    out.cover = coverOf(analysis);
    std::array<Blocks, kChapters.size()> made;
    inParallel(made.size(), [&](size_t i) { // scaling takes as long as all others together
        if (chapters.contains(kChapters[i].chapter) && !beside.stop.stop_requested())
            made[i] = kChapters[i].of(analysis, beside);
    });
    for (size_t i = 0; i < made.size(); ++i)
        if (!made[i].empty())
            out.chapters.push_back({phrase(kChapters[i].title), std::move(made[i])});
    return out;
}

Book bookOf(const analysis::Analysis& analysis)
{
    return bookOf(analysis, {allChapters().begin(), allChapters().end()});
}

} // namespace vicegrip::book
