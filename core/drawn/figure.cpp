#include "core/drawn/figure.h"

#include "core/base/utf8.h"

namespace vicegrip::drawn {
void Figure::line(std::vector<At> points, Ink ink, double stroke_mm)
{
    shapes.push_back({Stroke{std::move(points), ink, stroke_mm}});
}

void Figure::box(At at, double wide, double high, std::optional<Ink> fill, Ink ink, double stroke_mm)
{
    line({at, {at.x + wide, at.y}, {at.x + wide, at.y + high}, {at.x, at.y + high}}, ink, stroke_mm);
    auto& stroke = std::get<Stroke>(shapes.back().what);
    stroke.closed = true;
    stroke.fill = fill;
}

Words& Figure::words(At at, std::string text, double size_mm)
{
    shapes.push_back({Words{at, std::move(text), size_mm}});
    return std::get<Words>(shapes.back().what);
}

void Figure::place(const Figure& other, At at, double scale)
{
    const auto moved = [&](At p) { return At{at.x + p.x * scale, at.y + p.y * scale}; };
    for (Shape shape : other.shapes) {
        if (auto* stroke = std::get_if<Stroke>(&shape.what)) {
            for (At& p : stroke->points)
                p = moved(p);
            stroke->width_mm *= scale;
        } else if (auto* disc = std::get_if<Disc>(&shape.what)) {
            disc->centre = moved(disc->centre);
            disc->radius_mm *= scale;
        } else if (auto* words = std::get_if<Words>(&shape.what)) {
            words->at = moved(words->at);
            words->size_mm *= scale;
        }
        shapes.push_back(std::move(shape));
    }
}

double evenWidth(std::string_view text, double size_mm)
{
    return static_cast<double>(lettersOf(text)) * 0.6 * size_mm;
}

double wordsWidth(std::string_view text, double size_mm)
{
    return static_cast<double>(lettersOf(text)) * 0.56 * size_mm;
}

std::string shortened(std::string_view text, size_t most)
{
    if (lettersOf(text) <= most)
        return std::string(text);
    std::string out;
    size_t taken = 0;
    for (const char c : text) {
        if (begins(c) && taken++ + 1 >= most)
            break;
        out += c;
    }
    return out + "…";
}

} // namespace vicegrip::drawn
