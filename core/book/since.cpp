#include "core/book/since.h"

#include "core/base/document.h"
#include "core/base/phrase.h"
#include "core/base/write_file.h"
#include "core/book/chapters.h"
#include "core/compare/compare.h"
#include "core/job/json.h"

namespace vicegrip::book {
namespace {

struct Kept
{
    std::optional<job::Job> now, before; ///< of the last book, and of the last one that was of another state
};

Kept keptOf(const std::filesystem::path& jobFile)
{
    const auto document = document::readFile(keptFile(jobFile)).and_then(&document::parse);
    const auto member = [&](const char* name) -> std::optional<job::Job> {
        if (!document || !document->is_object() || !document->contains(name))
            return std::nullopt;
        auto job = job::read((*document)[name].dump());
        return job ? std::optional(std::move(*job)) : std::nullopt;
    };
    return {member("now"), member("before")};
}

} // namespace

std::filesystem::path keptFile(const std::filesystem::path& jobFile)
{
    return jobFile.parent_path() / (jobFile.stem().string() + "-book.kept");
}

std::optional<job::Job> lastBookOf(const job::Job& job, const std::filesystem::path& jobFile)
{
    Kept kept = keptOf(jobFile);
    return kept.now == job ? std::move(kept.before) : std::move(kept.now);
}

Result<void> keepForNextBook(const job::Job& job, const std::filesystem::path& jobFile)
{
    const auto before = lastBookOf(job, jobFile);
    std::string text = "{\"now\": " + job::write(job);
    if (before)
        text += ", \"before\": " + job::write(*before);
    return writeFile(keptFile(jobFile), text + "}\n");
}

Result<void> carryKept(const std::filesystem::path& from, const std::filesystem::path& to)
{
    namespace fs = std::filesystem;
    std::error_code trouble;
    const fs::path kept = keptFile(from), there = keptFile(to);
    if (kept == there)
        return {};
    if (fs::exists(kept, trouble))
        fs::copy_file(kept, there, fs::copy_options::overwrite_existing, trouble);
    else
        fs::remove(there, trouble);
    if (trouble)
        return fail(ErrorCode::Io, phrase("not copied: {}", trouble.message()), {there.string(), {}, 0, 0});
    return {};
}

Blocks sinceOf(const analysis::Analysis& analysis, const std::optional<job::Job>& last)
{
    if (!last)
        return {};
    const auto before = analysis::analyse(std::make_shared<const job::Job>(*last));
    Table table{{{phrase("About"), 0.8},
                 {phrase("What"), 2.5},
                 {phrase("In the last book"), 2, true},
                 {phrase("In this one"), 2, true}},
                {}};
    for (const compare::Difference& d : compare::differences(before, analysis))
        table.rows.push_back({phrase(compare::aboutName(d.about)), d.what, d.before.empty() ? "–" : d.before,
                              d.after.empty() ? "–" : d.after});
    if (table.rows.empty())
        return {Paragraph{phrase("Nothing that this book says was otherwise in the last one.")}};
    return {std::move(table)};
}

} // namespace vicegrip::book
