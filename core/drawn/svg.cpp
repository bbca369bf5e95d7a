#include "core/drawn/svg.h"

#include "core/drawn/print_ink.h"

#include <array>
#include <cmath>
#include <cstdio>

namespace vicegrip::drawn {
namespace {

std::string number(double mm)
{
    std::array<char, 32> text{};
    const double rounded = std::round(mm * 1000) / 1000;
    std::snprintf(text.data(), text.size(), "%g", rounded == 0 ? 0 : rounded);
    return text.data();
}

std::string colour(std::uint32_t rgb)
{
    std::array<char, 8> text{};
    std::snprintf(text.data(), text.size(), "#%06x", static_cast<unsigned>(rgb));
    return text.data();
}

std::string about(const Shape& shape)
{
    return shape.about.empty() ? std::string() : " data-about=\"" + escaped(shape.about) + "\"";
}

std::string pathOf(const Stroke& stroke)
{
    std::string d;
    for (const At& p : stroke.points)
        d += (d.empty() ? "M" : "L") + number(p.x) + " " + number(p.y);
    return stroke.closed ? d + "Z" : d;
}

std::string path(const Stroke& stroke, const std::string& stroked, double width, const std::string& filled,
                 const std::string& more)
{
    return "<path d=\"" + pathOf(stroke) + "\" fill=\"" + filled + "\" stroke=\"" + stroked + "\" stroke-width=\"" +
           number(width) + "\"" + more + "/>\n";
}

/// A wire is edged, so that a white one shows on paper and a black one on black.
std::string wirePath(const Stroke& stroke, const std::string& what)
{
    const WireInk ink = wireInk(stroke.wire);
    if (stroke.closed)
        return path(stroke, colour(printed(Ink::Line)), stroke.width_mm, colour(ink.base), what);
    std::string out = path(stroke, colour(printed(Ink::Line)), stroke.width_mm + 0.3, "none", what);
    out += path(stroke, colour(ink.base), stroke.width_mm, "none", "");
    if (ink.traced)
        out += path(stroke, colour(ink.tracer), stroke.width_mm * 0.4, "none", " stroke-dasharray=\"2 1\"");
    return out;
}

struct Drawing
{
    const Shape& shape;

    std::string operator()(const Stroke& s) const
    {
        if (!s.wire.empty())
            return wirePath(s, about(shape));
        return path(s, colour(printed(s.ink)), s.width_mm, s.closed && s.fill ? colour(printed(*s.fill)) : "none",
                    (s.dashed ? " stroke-dasharray=\"1.2 0.8\"" : "") + about(shape));
    }
    std::string operator()(const Disc& d) const
    {
        return "<circle cx=\"" + number(d.centre.x) + "\" cy=\"" + number(d.centre.y) + "\" r=\"" +
               number(d.radius_mm) + "\" fill=\"" + colour(printed(d.ink)) + "\"" + about(shape) + "/>\n";
    }
    std::string operator()(const Words& w) const
    {
        const char* anchor = w.align == Align::Left ? "start" : w.align == Align::Middle ? "middle" : "end";
        return "<text x=\"" + number(w.at.x) + "\" y=\"" + number(w.at.y) + "\" font-size=\"" + number(w.size_mm) +
               "\" font-family=\"" + (w.even ? "'JetBrains Mono', monospace" : "Inter, sans-serif") +
               "\" text-anchor=\"" + anchor + "\" fill=\"" + colour(printed(w.ink)) + "\"" +
               (w.bold ? " font-weight=\"600\"" : "") + about(shape) + ">" + escaped(w.text) + "</text>\n";
    }
};

/// HTML knows no mm in the attributes of an svg, and SVG 1.1 has no other place for them.
std::string element(const Figure& figure, bool withinHtml)
{
    const std::string wide = number(figure.width_mm), high = number(figure.height_mm);
    const std::string size =
        withinHtml ? "style=\"width:" + wide + "mm\"" : "width=\"" + wide + "mm\" height=\"" + high + "mm\"";
    std::string out = "<svg xmlns=\"http://www.w3.org/2000/svg\" " + size + " viewBox=\"0 0 " + wide + " " + high +
                      "\" role=\"img\">\n";
    if (!figure.title.empty())
        out += "<title>" + escaped(figure.title) + "</title>\n";
    if (!figure.spoken.empty())
        out += "<desc>" + escaped(figure.spoken) + "</desc>\n";
    out += "<g stroke-linejoin=\"round\">\n";
    for (const Shape& shape : figure.shapes)
        out += std::visit(Drawing{shape}, shape.what);
    return out + "</g>\n</svg>\n";
}

} // namespace

std::string escaped(std::string_view text)
{
    std::string out;
    for (const char c : text) {
        if (c == '&')
            out += "&amp;";
        else if (c == '<')
            out += "&lt;";
        else if (c == '>')
            out += "&gt;";
        else if (c == '"')
            out += "&quot;";
        else if (static_cast<unsigned char>(c) >= 0x20U || c == '\t' || c == '\n')
            out += c;
    }
    return out;
}

std::string svgElement(const Figure& figure)
{
    return element(figure, true);
}

std::string svgOf(const Figure& figure)
{
    return "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n" + element(figure, false);
}

} // namespace vicegrip::drawn
