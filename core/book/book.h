#pragma once

#include "core/analysis/analysis.h"
#include "core/book/content.h"
#include "core/materials/habits.h"

#include <optional>
#include <set>
#include <stop_token>
#include <string>
#include <string_view>
#include <vector>

/// What was built, as a book that stands on its own: everything that was fitted, proved, scaled and is still open, from
/// the job and its photos alone. The same job, cut by the same habits, makes the same book, to the last byte: what it
/// says of time is said of the last entry of its logbook.
///
///     std::string html = book::htmlOf(book::bookOf(analysis));
///
/// In this room too: content.h (what a book consists of), chapters.h (inside: a function for each chapter), html.h and
/// pdf.h (the book as a file), since.h (what the last book was made of), paged.h (inside: blocks on pages),
/// harness_figure.h (inside).
namespace vicegrip::book {

enum class Chapter {
    Circuits, ///< each with what it is, where it sits, and what was read where
    Plugs, ///< faces, and what is in each cavity
    Wires, ///< as they are drawn and cut
    Harness, ///< how it lies, and what goes over it
    Diagrams,
    Scaling, ///< tables, their errors, limits
    Trigger,
    RunSheet,
    Logs, ///< what captures and logs said, and marks
    Since, ///< what is different from the last book
    Findings,
    Again, ///< what must be read again after which change
    Photos,
    Logbook
};
[[nodiscard]] const std::vector<Chapter>& allChapters();
/// Its name for files and the command line: "run-sheet"; and its title, a key: `phrase` says it.
[[nodiscard]] std::string_view chapterName(Chapter chapter);
[[nodiscard]] std::string_view chapterTitle(Chapter chapter);

/// What stands in it, in a few words: "23 circuits, 15 readings"; empty: nothing, and it is left out.
[[nodiscard]] std::string chapterHolds(const analysis::Analysis& analysis, Chapter chapter);

/// What a book is made of besides the job.
struct Beside
{
    materials::Habits habits; ///< as this workshop cuts
    photos::Album photos; ///< of the job; one that is not among them is said to be gone
    std::optional<job::Job> last; ///< as it was in the last book (since.h); none: the book does not say what changed
    std::stop_token stop = {}; ///< asked between circuits: what is made after that is not whole, and is to be dropped
};

/// The book of a job, with these chapters: those that have nothing to say of this job are left out.
[[nodiscard]] Book bookOf(const analysis::Analysis& analysis, const std::set<Chapter>& chapters,
                          const Beside& beside = {});
[[nodiscard]] Book bookOf(const analysis::Analysis& analysis);

} // namespace vicegrip::book
