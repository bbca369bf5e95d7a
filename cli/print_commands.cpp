#include "cli/printing.h"
#include "core/base/phrase.h"
#include "core/base/write_file.h"
#include "core/drawn/figure_pdf.h"
#include "core/drawn/svg.h"
#include "core/job/json.h"
#include "core/logbook/logbook.h"
#include "core/sheets/print.h"

#include <algorithm>
#include <filesystem>
#include <iostream>

/// What is printed at its own size.
namespace vicegrip::cli {
namespace {

Result<sheets::LabelStock> stockOf(const LabelOptions& options)
{
    sheets::LabelStock out;
    out.form = options.wrap ? sheets::LabelForm::Wrap : sheets::LabelForm::Flag;
    out.used = options.used;
    sheets::Size margin;
    struct Typed
    {
        const std::string& text;
        sheets::Size& size;
        double least_mm, most_mm;
    };
    for (const Typed& t : {Typed{options.paper, out.paper, sheets::kLeastPaper_mm, sheets::kMostPaper_mm},
                           Typed{options.label, out.label, sheets::kLeastLabel_mm, sheets::kMostLabel_mm},
                           Typed{options.gap, out.gap, 0, sheets::kMostLabel_mm},
                           Typed{options.margin, margin, 0, sheets::kMostLabel_mm}}) {
        if (t.text.empty())
            continue;
        const auto read = sheets::sizeTyped(t.text, t.least_mm, t.most_mm);
        if (!read)
            return tl::unexpected(read.error());
        t.size = *read;
    }
    if (!options.margin.empty())
        out.margin = margin;
    return out;
}

} // namespace

int printLabels(const LabelOptions& options)
{
    const auto job = job::readFile(options.job);
    if (!job)
        return refuse(job.error(), kUnreadable);
    const auto stock = stockOf(options);
    if (!stock)
        return refuse(stock.error(), kUsage);
    std::set<sheets::Kind> kinds;
    std::string names;
    for (const sheets::Kind kind : sheets::allKinds()) {
        names += (names.empty() ? "" : ", ") + std::string(sheets::kindName(kind));
        if (std::ranges::count(options.kinds, sheets::kindName(kind)) > 0)
            kinds.insert(kind);
    }
    if (options.kinds.empty())
        kinds = {sheets::Kind::Rule, sheets::Kind::Labels};
    else if (kinds.size() != options.kinds.size())
        return refuse("what can be printed: " + names, kUsage);
    const auto print = sheets::printOf(*job, kinds, *stock, {});
    if (!print)
        return refuse(print.error(), kNoAnswer);
    for (const std::string& sentence : print->refused)
        std::cerr << sentence << '\n';
    if (print->pages.empty())
        return refuse("nothing of this is in the job, or none of it fits on the paper", kNoAnswer);
    if (!options.svg.empty()) {
        std::error_code trouble;
        std::filesystem::create_directories(options.svg, trouble);
        if (trouble)
            return refuse(Error{ErrorCode::Io, "cannot be made: " + trouble.message(), {options.svg, {}, 0, 0}},
                          kNoAnswer);
        for (size_t i = 0; i < print->pages.size(); ++i) {
            const auto file = std::filesystem::path(options.svg) / ("page-" + std::to_string(i + 1) + ".svg");
            if (const auto written = writeFile(file, drawn::svgOf(print->pages[i])); !written)
                return refuse(written.error(), kNoAnswer);
        }
        return kFine;
    }
    const auto pdf =
        drawn::pdfOf(print->pages, phrase("{}: sheets at their own size", job->name), logbook::lastDate(*job));
    if (!pdf)
        return refuse(pdf.error(), kNoAnswer);
    if (const auto written = writeFile(options.pdf, *pdf); !written)
        return refuse(written.error(), kNoAnswer);
    return kFine;
}

} // namespace vicegrip::cli
