#include "core/book/pdf.h"

#include "core/base/phrase.h"
#include "core/book/chapters.h"
#include "core/book/paged.h"

namespace vicegrip::book {
namespace {

cairo_status_t keep(void* to, const unsigned char* bytes, unsigned count)
{
    static_cast<std::string*>(to)->append(reinterpret_cast<const char*>(bytes), count);
    return CAIRO_STATUS_SUCCESS;
}

/// Cairo stamps the hour into what it is not told the date of.
void stamp(cairo_surface_t* surface, const Book& book)
{
    const std::string when = book.asOf.empty() ? "2000-01-01T00:00:00Z" : book.asOf;
    cairo_pdf_surface_set_metadata(surface, CAIRO_PDF_METADATA_TITLE, phrase("Build book: {}", book.title).c_str());
    cairo_pdf_surface_set_metadata(surface, CAIRO_PDF_METADATA_CREATE_DATE, when.c_str());
    cairo_pdf_surface_set_metadata(surface, CAIRO_PDF_METADATA_MOD_DATE, when.c_str());
}

/// All pages; which page each chapter begins on. `listed` are those of the run before, for the contents.
std::vector<Listed> print(cairo_surface_t* surface, const Book& book, std::vector<Listed> listed, bool draws)
{
    const std::string foot =
        book.asOf.empty() ? book.title : phrase("{}, as of {} UTC", book.title, timeText(book.asOf));
    Paged pages(surface, foot, draws);
    pages.title(book.title);
    for (const Block& block : book.cover)
        pages.block(block);
    pages.contents(listed);
    for (size_t i = 0; i < book.chapters.size(); ++i) {
        listed[i].page = pages.chapter(book.chapters[i].title);
        for (const Block& block : book.chapters[i].blocks)
            pages.block(block);
    }
    pages.end();
    return listed;
}

} // namespace

Result<std::string> pdfOf(const Book& book)
{
    std::vector<Listed> listed;
    for (const Section& chapter : book.chapters)
        listed.push_back({chapter.title, 0});
    {
        const drawn::Surface counted(cairo_pdf_surface_create_for_stream(nullptr, nullptr, 595, 842));
        listed = print(counted.get(), book, listed, false);
        cairo_surface_finish(counted.get());
    }
    std::string out;
    const drawn::Surface surface(cairo_pdf_surface_create_for_stream(keep, &out, 595, 842));
    stamp(surface.get(), book);
    print(surface.get(), book, listed, true);
    cairo_surface_finish(surface.get());
    if (const cairo_status_t status = cairo_surface_status(surface.get()); status != CAIRO_STATUS_SUCCESS)
        return fail(ErrorCode::Io, phrase("the book cannot be printed: {}", cairo_status_to_string(status)));
    return out;
}

} // namespace vicegrip::book
