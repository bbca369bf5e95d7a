#include "core/drawn/cairo_figure.h"

#include "core/drawn/print_ink.h"

#include <algorithm>

namespace vicegrip::drawn {
namespace {

/// Pango sizes fonts in whole units; laid out this much larger, a hundredth of a mm is many of them.
constexpr double kFine = 100;

void setRgb(cairo_t* page, std::uint32_t rgb)
{
    const auto part = [rgb](unsigned shift) { return ((rgb >> shift) & 0xffU) / 255.0; };
    cairo_set_source_rgb(page, part(16), part(8), part(0));
}

void trace(cairo_t* page, const Stroke& stroke)
{
    cairo_new_path(page);
    for (const At& p : stroke.points)
        cairo_line_to(page, p.x, p.y);
    if (stroke.closed)
        cairo_close_path(page);
}

void stroked(cairo_t* page, double width_mm, std::uint32_t rgb, std::initializer_list<double> dashes)
{
    setRgb(page, rgb);
    cairo_set_line_width(page, width_mm);
    cairo_set_dash(page, std::data(dashes), static_cast<int>(dashes.size()), 0);
    cairo_stroke_preserve(page);
}

struct Painting
{
    const Pen& pen;
    cairo_t* page = pen.page();

    void operator()(const Stroke& s) const
    {
        if (s.points.empty())
            return;
        trace(page, s);
        if (s.wire.empty()) {
            if (s.closed && s.fill) {
                setRgb(page, printed(*s.fill));
                cairo_fill_preserve(page);
            }
            if (s.dashed)
                stroked(page, s.width_mm, printed(s.ink), {1.2, 0.8});
            else
                stroked(page, s.width_mm, printed(s.ink), {});
        } else if (const WireInk ink = wireInk(s.wire); s.closed) {
            setRgb(page, ink.base);
            cairo_fill_preserve(page);
            stroked(page, s.width_mm, printed(Ink::Line), {});
        } else {
            stroked(page, s.width_mm + 0.3, printed(Ink::Line), {});
            stroked(page, s.width_mm, ink.base, {});
            if (ink.traced)
                stroked(page, s.width_mm * 0.4, ink.tracer, {2, 1});
        }
        cairo_new_path(page);
    }
    void operator()(const Disc& d) const
    {
        cairo_new_path(page);
        cairo_arc(page, d.centre.x, d.centre.y, d.radius_mm, 0, 6.283185307179586);
        setRgb(page, printed(d.ink));
        cairo_fill(page);
    }
    void operator()(const Words& w) const
    {
        const Laid laid = pen.lay(w.text, w.size_mm, w.bold, w.even, 0);
        int wide = 0, high = 0;
        pango_layout_get_size(laid.get(), &wide, &high);
        const double part = w.align == Align::Left ? 0 : w.align == Align::Middle ? 0.5 : 1;
        pen.show(laid, {w.at.x - part * wide / (PANGO_SCALE * kFine), w.at.y - baseOf(laid)}, w.ink);
    }
};

} // namespace

Pen::Pen(cairo_surface_t* surface, bool draws, LaidBefore* before)
    : m_page(cairo_create(surface)),
      m_context(pango_cairo_create_context(m_page.get())),
      m_draws(draws),
      m_before(before)
{
}

Laid Pen::lay(const std::string& text, double size_mm, bool bold, bool even, double width_mm) const
{
    std::string key;
    if (m_before != nullptr) {
        key = std::to_string(size_mm) + (bold ? 'b' : ' ') + (even ? 'e' : ' ') + std::to_string(width_mm) + '|' + text;
        if (PangoLayout* same = m_before->find(key))
            return Laid(static_cast<PangoLayout*>(g_object_ref(same)));
    }
    Laid laid(pango_layout_new(m_context.get()));
    const std::unique_ptr<PangoFontDescription, GivenBack> font(pango_font_description_new());
    pango_font_description_set_family(font.get(), even ? "JetBrains Mono, monospace" : "Inter, sans-serif");
    pango_font_description_set_weight(font.get(), bold ? PANGO_WEIGHT_SEMIBOLD : PANGO_WEIGHT_NORMAL);
    pango_font_description_set_absolute_size(font.get(), size_mm * kFine * PANGO_SCALE);
    pango_layout_set_font_description(laid.get(), font.get());
    // A text that is no UTF-8 is shown as far as it is; marks of C0 have no shape on paper.
    std::string clean = text;
    std::erase_if(clean, [](char c) { return static_cast<unsigned char>(c) < 0x20U && c != '\n'; });
    pango_layout_set_text(laid.get(), clean.c_str(), static_cast<int>(clean.size()));
    if (width_mm > 0) {
        pango_layout_set_width(laid.get(), static_cast<int>(width_mm * kFine * PANGO_SCALE));
        pango_layout_set_wrap(laid.get(), PANGO_WRAP_WORD_CHAR);
    }
    if (m_before != nullptr)
        m_before->keep(std::move(key), laid.get());
    return laid;
}

double heightOf(const Laid& laid)
{
    int wide = 0, high = 0;
    pango_layout_get_size(laid.get(), &wide, &high);
    return high / (PANGO_SCALE * kFine);
}

double baseOf(const Laid& laid)
{
    return pango_layout_get_baseline(laid.get()) / (PANGO_SCALE * kFine);
}

void Pen::show(const Laid& laid, At corner, Ink ink) const
{
    if (!m_draws)
        return;
    cairo_save(page());
    setRgb(page(), printed(ink));
    cairo_translate(page(), corner.x, corner.y);
    cairo_scale(page(), 1 / kFine, 1 / kFine);
    pango_cairo_show_layout(page(), laid.get());
    cairo_restore(page());
}

void Pen::show(const Figure& figure, At corner, double scale) const
{
    if (!m_draws)
        return;
    cairo_save(page());
    cairo_translate(page(), corner.x, corner.y);
    cairo_scale(page(), scale, scale);
    cairo_set_line_join(page(), CAIRO_LINE_JOIN_ROUND);
    for (const Shape& shape : figure.shapes)
        std::visit(Painting{*this}, shape.what);
    cairo_restore(page());
}

void Pen::showJpeg(const std::string& jpeg, int width, int height, At corner, double mm) const
{
    if (!m_draws)
        return;
    const Surface photo(cairo_image_surface_create(CAIRO_FORMAT_RGB24, width, height));
    auto kept = std::make_unique<std::string>(jpeg); // until the page is written
    const auto* bytes = reinterpret_cast<const unsigned char*>(kept->data());
    if (cairo_surface_set_mime_data(
            photo.get(), CAIRO_MIME_TYPE_JPEG, bytes, kept->size(),
            [](void* held) { delete static_cast<std::string*>(held); }, kept.get()) == CAIRO_STATUS_SUCCESS)
        static_cast<void>(kept.release());
    cairo_save(page());
    cairo_translate(page(), corner.x, corner.y);
    cairo_scale(page(), mm, mm);
    cairo_set_source_surface(page(), photo.get(), 0, 0);
    cairo_paint(page());
    cairo_restore(page());
}

} // namespace vicegrip::drawn
