#include "core/book/pdf.h"

#include "core/base/phrase.h"
#include "core/book/chapters.h"
#include "core/book/paged.h"
#include "core/drawn/pdf_file.h"

namespace vicegrip::book {
namespace {

/// All pages; which page each chapter begins on. `listed` are those of the run before, for the contents.
std::vector<Listed> print(Paged pages, const Book& book, std::vector<Listed> listed, const std::stop_token& stop)
{
    pages.title(book.title);
    for (const Block& block : book.cover)
        pages.block(block);
    pages.contents(listed);
    for (size_t i = 0; i < book.chapters.size() && !stop.stop_requested(); ++i) {
        listed[i].page = pages.chapter(book.chapters[i].title);
        for (const Block& block : book.chapters[i].blocks)
            if (!stop.stop_requested())
                pages.block(block);
    }
    pages.end();
    return listed;
}

} // namespace

Result<std::string> pdfOf(const Book& book, const std::stop_token& stop)
{
    const std::string foot =
        book.asOf.empty() ? book.title : phrase("{}, as of {} UTC", book.title, timeText(book.asOf));
    std::vector<Listed> listed;
    for (const Section& chapter : book.chapters)
        listed.push_back({chapter.title, 0});
    drawn::LaidBefore laid;
    {
        const drawn::Surface counted = drawn::countingSurface();
        listed = print(Paged(counted.get(), foot, false, laid), book, listed, stop);
        cairo_surface_finish(counted.get());
    }
    drawn::PdfFile file(phrase("Build book: {}", book.title), book.asOf);
    print(Paged(file.surface(), foot, true, laid), book, listed, stop);
    auto bytes = file.finish();
    if (stop.stop_requested())
        return fail(ErrorCode::Stopped, phrase("stopped: nothing was written"));
    return bytes;
}

} // namespace vicegrip::book
