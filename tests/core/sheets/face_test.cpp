#include "core/drawn/svg.h"
#include "core/sheets/face.h"
#include "tests/support/petrel.h"

#include <cmath>
#include <gtest/gtest.h>

namespace vicegrip {
namespace {

/// Where the middle of each cavity's square is, by its place.
std::map<std::string, drawn::At> middles(const drawn::Figure& f)
{
    std::map<std::string, drawn::At> out;
    for (const drawn::Shape& s : f.shapes)
        if (const auto* stroke = std::get_if<drawn::Stroke>(&s.what);
            stroke != nullptr && s.about.starts_with("place "))
            out[s.about.substr(6)] = {(stroke->points[0].x + stroke->points[2].x) / 2,
                                      (stroke->points[0].y + stroke->points[2].y) / 2};
    return out;
}

/// At their own size: neighbours stand a pitch apart, and the mating face is the mirror.
TEST(FaceSheet, IsOneToOneAndMirrored)
{
    const job::Job job = test::petrel();
    const job::Connector& plug = *job::findConnector(job, "A");
    const parts::Layout layout = job::faceOf(plug);
    const auto wire = middles(sheets::faceFigure(job, plug, parts::Face::Wire));
    const auto mating = middles(sheets::faceFigure(job, plug, parts::Face::Mating));
    ASSERT_EQ(wire.size(), plug.cavities.size());
    const auto cavities = parts::cavities(layout);
    for (const parts::Cavity& a : cavities)
        for (const parts::Cavity& b : cavities) {
            const auto &wa = wire.at("A." + a.name), &wb = wire.at("A." + b.name);
            const auto &ma = mating.at("A." + a.name), &mb = mating.at("A." + b.name);
            EXPECT_NEAR(wb.x - wa.x, (b.x_m - a.x_m) * 1e3, 1e-9);
            EXPECT_NEAR(wb.y - wa.y, (b.y_m - a.y_m) * 1e3, 1e-9);
            EXPECT_NEAR(mb.x - ma.x, -(b.x_m - a.x_m) * 1e3, 1e-9);
        }
}

} // namespace
} // namespace vicegrip
