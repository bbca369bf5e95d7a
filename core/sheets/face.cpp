#include "core/sheets/face.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <map>

namespace vicegrip::sheets {
namespace {

using drawn::Align;
using drawn::At;
using drawn::Ink;
using parts::Face;
using parts::KeySide;

constexpr double kRim_mm = 3.5, kKey_mm = 1.6, kTitleTall_mm = 5;

KeySide keyOn(KeySide key, Face face)
{
    if (face == Face::Mating && key == KeySide::Left)
        return KeySide::Right;
    return face == Face::Mating && key == KeySide::Right ? KeySide::Left : key;
}

void housing(drawn::Figure& f, At at, double wide, double tall, KeySide key)
{
    f.box(at, wide, tall, Ink::Paper, Ink::Line, 0.4);
    const double across = std::min(wide * 0.3, 16.0), down = std::min(tall * 0.5, 8.0);
    switch (key) {
    case KeySide::Top:
        f.box({at.x + (wide - across) / 2, at.y - kKey_mm}, across, kKey_mm, Ink::Fill, Ink::Line, 0.4);
        break;
    case KeySide::Bottom:
        f.box({at.x + (wide - across) / 2, at.y + tall}, across, kKey_mm, Ink::Fill, Ink::Line, 0.4);
        break;
    case KeySide::Left:
        f.box({at.x - kKey_mm, at.y + (tall - down) / 2}, kKey_mm, down, Ink::Fill, Ink::Line, 0.4);
        break;
    case KeySide::Right:
        f.box({at.x + wide, at.y + (tall - down) / 2}, kKey_mm, down, Ink::Fill, Ink::Line, 0.4);
        break;
    case KeySide::None:
        break;
    }
}

} // namespace

drawn::Figure faceFigure(const job::Job& job, const job::Connector& connector, Face face)
{
    const parts::Layout layout = job::faceOf(connector);
    const parts::FaceSize size = parts::sizeOf(layout);
    std::map<std::string, std::string> colours;
    for (const job::Wire& w : job.wires)
        for (const job::PointRef& end : {w.from, w.to})
            if (end.owner == connector.id)
                colours.try_emplace(end.cavity, w.colour);

    drawn::Figure f;
    const bool wireSide = face == Face::Wire;
    f.title = job::spoken(job, {connector.id, {}});
    f.spoken = wireSide ? phrase("{}, wire side", f.title) : phrase("{}, mating face", f.title);
    const double wide = size.width_m * 1e3 + 2 * kRim_mm, tall = size.height_m * 1e3 + 2 * kRim_mm;
    const std::string title = wireSide ? phrase("Wire side") : phrase("Mating face");
    f.width_mm = std::max(wide + 2 * kKey_mm + 1, drawn::wordsWidth(title, 2.6) + 1);
    f.height_mm = tall + kTitleTall_mm + 2 * kKey_mm + 0.5;
    f.words({0.3, 3}, title, 2.6).ink = Ink::Soft;
    const At corner{kKey_mm + 0.5, kTitleTall_mm + kKey_mm};
    housing(f, corner, wide, tall, keyOn(layout.key, face));
    for (const parts::Cavity& c : parts::cavities(layout)) {
        const double side = c.size_m * 1e3;
        const At middle{corner.x + kRim_mm + parts::onFace(c.x_m, size, face) * 1e3, corner.y + kRim_mm + c.y_m * 1e3};
        const auto wire = colours.find(c.name);
        const bool filled = wire != colours.end();
        f.box({middle.x - side / 2, middle.y - side / 2}, side, side, Ink::Paper, filled ? Ink::Line : Ink::Faint,
              0.25);
        f.shapes.back().about = "place " + job::PointRef{connector.id, c.name}.text();
        const double type = std::min(2.4, side * 0.62);
        const double from = middle.y + type * 0.36;
        if (filled) { // its colour as a bar along the foot, the number above it
            drawn::Stroke bar{{{middle.x - side / 2 + 0.3, middle.y + side / 2 - side * 0.18},
                               {middle.x + side / 2 - 0.3, middle.y + side / 2 - side * 0.18}}};
            bar.width_mm = side * 0.2;
            bar.wire = wire->second;
            f.shapes.push_back({std::move(bar)});
        }
        drawn::Words& number = f.words({middle.x, from - (filled ? side * 0.14 : 0)}, c.name, type);
        number.even = true;
        number.bold = filled;
        number.align = Align::Middle;
        number.ink = filled ? Ink::Line : Ink::Soft;
    }
    return f;
}

} // namespace vicegrip::sheets
