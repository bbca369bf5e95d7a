#pragma once

#include "core/base/result.h"
#include "core/drawn/cairo_figure.h"

#include <string>

/// Inside: a PDF as it is written, and what its pages are. No hour and no name of the machine is in it.
namespace vicegrip::drawn {

class PdfFile
{
  public:
    /// As of that time, by ISO 8601; empty: of none.
    PdfFile(const std::string& title, const std::string& asOf);
    PdfFile(const PdfFile&) = delete;
    PdfFile& operator=(const PdfFile&) = delete;

    [[nodiscard]] cairo_surface_t* surface() const { return m_surface.get(); }
    /// Ends it; what it is. Error (Io): the library that writes it gave up.
    [[nodiscard]] Result<std::string> finish();

  private:
    std::string m_bytes;
    Surface m_surface;
};

/// A surface that takes pages and keeps none: to learn where words come to stand.
[[nodiscard]] Surface countingSurface();

/// The page that follows is of this size.
void setPage(cairo_surface_t* surface, const Pen& pen, double width_mm, double height_mm);

} // namespace vicegrip::drawn
