#pragma once

#include "core/drawn/figure.h"

#include <cairo.h>
#include <memory>
#include <pango/pangocairo.h>
#include <string>
#include <unordered_map>

/// Figures and words on a page, by Cairo and Pango. The page's unit is the mm.
namespace vicegrip::drawn {

/// What these libraries hand out, given back when nobody holds it.
struct GivenBack
{
    void operator()(cairo_t* c) const { cairo_destroy(c); }
    void operator()(cairo_surface_t* s) const { cairo_surface_destroy(s); }
    void operator()(PangoLayout* l) const { g_object_unref(l); }
    void operator()(PangoContext* c) const { g_object_unref(c); }
    void operator()(PangoFontDescription* f) const { pango_font_description_free(f); }
};
using Canvas = std::unique_ptr<cairo_t, GivenBack>;
using Surface = std::unique_ptr<cairo_surface_t, GivenBack>;
using Laid = std::unique_ptr<PangoLayout, GivenBack>;

inline constexpr double kPointsPerMm = 72 / 25.4;

[[nodiscard]] double heightOf(const Laid& laid);
/// How far its first base line lies under its top, mm.
[[nodiscard]] double baseOf(const Laid& laid);

/// Words that were laid out before, for pens on surfaces of one kind: to shape them costs more than all the rest of a
/// book, and the same words come again and again. It holds so many of them, and no more.
class LaidBefore
{
  public:
    [[nodiscard]] PangoLayout* find(const std::string& key) const
    {
        const auto it = m_of.find(key);
        return it == m_of.end() ? nullptr : it->second.get();
    }
    void keep(std::string key, PangoLayout* laid)
    {
        constexpr size_t kMost = 30000;
        if (m_of.size() < kMost)
            m_of.emplace(std::move(key), Laid(static_cast<PangoLayout*>(g_object_ref(laid))));
    }

  private:
    std::unordered_map<std::string, Laid> m_of;
};

/// What writes on the pages of a surface. It keeps what is known of the typefaces, which costs more than the words.
class Pen
{
  public:
    /// One that does not draw lays words out all the same: to learn where they come to stand. `before` must outlive it;
    /// null: each word is laid out for itself.
    Pen(cairo_surface_t* surface, bool draws, LaidBefore* before = nullptr);

    /// Words laid out, not to be changed: `width_mm` is where they are wrapped, not above 0: nowhere.
    [[nodiscard]] Laid lay(const std::string& text, double size_mm, bool bold, bool even, double width_mm) const;
    /// Words with their upper left corner there.
    void show(const Laid& laid, At corner, Ink ink = Ink::Line) const;
    /// A figure with its corner there, so much smaller.
    void show(const Figure& figure, At corner, double scale = 1) const;

    /// A photo with its corner there, so many mm to a pixel, as the JPEG that it is.
    void showJpeg(const std::string& jpeg, int width, int height, At corner, double mm) const;

    [[nodiscard]] cairo_t* page() const { return m_page.get(); }

  private:
    Canvas m_page;
    std::unique_ptr<PangoContext, GivenBack> m_context;
    bool m_draws;
    LaidBefore* m_before;
};

} // namespace vicegrip::drawn
