#include "core/book/pdf.h"

#include "core/base/in_parallel.h"
#include "core/base/phrase.h"
#include "core/book/chapters.h"
#include "core/book/paged.h"
#include "core/drawn/pdf_file.h"

namespace vicegrip::book {
namespace {

/// What stands before the chapters.
void front(Paged& pages, const Book& book, const std::vector<Listed>& listed)
{
    pages.title(book.title);
    for (const Block& block : book.cover)
        pages.block(block);
    pages.contents(listed);
}

int chapter(Paged& pages, const Section& of)
{
    const int first = pages.chapter(of.title);
    for (const Block& block : of.blocks)
        pages.block(block);
    return first;
}

/// The chapters with the pages they begin on. Each begins on a page of its own: so they are counted side by side.
std::vector<Listed> contentsOf(const Book& book)
{
    std::vector<Listed> out;
    for (const Section& of : book.chapters)
        out.push_back({of.title, 0});
    std::vector<int> pages(out.size() + 1); // of what stands before them, and of each
    inParallel(pages.size(), [&](size_t i) {
        const drawn::Surface counted = drawn::countingSurface();
        Paged counting(counted.get(), {}, false);
        int first = 1;
        if (i == 0)
            front(counting, book, out);
        else
            first = chapter(counting, book.chapters[i - 1]);
        pages[i] = counting.end() - first + 1;
        cairo_surface_finish(counted.get());
    });
    int next = pages[0] + 1;
    for (size_t i = 0; i < out.size(); ++i) {
        out[i].page = next;
        next += pages[i + 1];
    }
    return out;
}

} // namespace

Result<std::string> pdfOf(const Book& book)
{
    drawn::PdfFile file(phrase("Build book: {}", book.title), book.asOf);
    const std::string foot =
        book.asOf.empty() ? book.title : phrase("{}, as of {} UTC", book.title, timeText(book.asOf));
    Paged pages(file.surface(), foot, true);
    front(pages, book, contentsOf(book));
    for (const Section& of : book.chapters)
        chapter(pages, of);
    pages.end();
    return file.finish();
}

} // namespace vicegrip::book
