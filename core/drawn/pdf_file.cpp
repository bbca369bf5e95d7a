#include "core/drawn/pdf_file.h"

#include "core/base/phrase.h"
#include "core/drawn/figure_pdf.h"

#include <cairo-pdf.h>

namespace vicegrip::drawn {
namespace {

cairo_status_t keep(void* to, const unsigned char* bytes, unsigned count)
{
    static_cast<std::string*>(to)->append(reinterpret_cast<const char*>(bytes), count);
    return CAIRO_STATUS_SUCCESS;
}

} // namespace

PdfFile::PdfFile(const std::string& title, const std::string& asOf)
    : m_surface(cairo_pdf_surface_create_for_stream(keep, &m_bytes, 595, 842))
{
    // Cairo stamps the hour into what it is not told the date of.
    const std::string when = asOf.empty() ? "2000-01-01T00:00:00Z" : asOf;
    cairo_pdf_surface_set_metadata(surface(), CAIRO_PDF_METADATA_TITLE, title.c_str());
    cairo_pdf_surface_set_metadata(surface(), CAIRO_PDF_METADATA_CREATE_DATE, when.c_str());
    cairo_pdf_surface_set_metadata(surface(), CAIRO_PDF_METADATA_MOD_DATE, when.c_str());
}

Result<std::string> PdfFile::finish()
{
    cairo_surface_finish(surface());
    if (const cairo_status_t status = cairo_surface_status(surface()); status != CAIRO_STATUS_SUCCESS)
        return fail(ErrorCode::Io, phrase("this cannot be printed: {}", cairo_status_to_string(status)));
    return std::move(m_bytes);
}

Surface countingSurface()
{
    return Surface(cairo_pdf_surface_create_for_stream(nullptr, nullptr, 595, 842));
}

void setPage(cairo_surface_t* surface, const Pen& pen, double width_mm, double height_mm)
{
    cairo_pdf_surface_set_size(surface, width_mm * kPointsPerMm, height_mm * kPointsPerMm);
    cairo_identity_matrix(pen.page());
    cairo_scale(pen.page(), kPointsPerMm, kPointsPerMm);
}

Result<std::string> pdfOf(const std::vector<Figure>& pages, const std::string& title, const std::string& asOf)
{
    PdfFile file(title, asOf);
    {
        const Pen pen(file.surface(), true);
        for (const Figure& page : pages) {
            setPage(file.surface(), pen, page.width_mm, page.height_mm);
            pen.show(page, {0, 0});
            cairo_show_page(pen.page());
        }
    }
    return file.finish();
}

} // namespace vicegrip::drawn
