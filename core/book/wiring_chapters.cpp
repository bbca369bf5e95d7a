#include "core/base/phrase.h"
#include "core/book/chapters.h"
#include "core/book/harness_figure.h"
#include "core/branches/tree.h"
#include "core/diagram/diagram.h"
#include "core/materials/materials.h"
#include "core/parts/conductor.h"
#include "core/pinning/pin_use.h"
#include "core/sheets/face.h"
#include "core/wires/colour.h"

#include <algorithm>
#include <map>
#include <set>

/// Plugs with their cavities, wires, how the harness lies, and the diagrams.
namespace vicegrip::book {
namespace {

std::string metres(double m)
{
    return units::format(m, units::Dimension::Length, "m", 2);
}

/// Both faces beside one another where they fit, else below; twice their size where there is room.
Picture facesOf(const job::Job& job, const job::Connector& c)
{
    constexpr double kRoom_mm = 176, kBetween_mm = 8;
    const drawn::Figure wire = sheets::faceFigure(job, c, parts::Face::Wire);
    const drawn::Figure mating = sheets::faceFigure(job, c, parts::Face::Mating);
    const double both = wire.width_mm + mating.width_mm + kBetween_mm;
    const bool beside = both <= kRoom_mm;
    const double larger = std::min(2.0, kRoom_mm / (beside ? both : std::max(wire.width_mm, mating.width_mm)));
    drawn::Figure out{(beside ? both : std::max(wire.width_mm, mating.width_mm)) * larger,
                      (beside ? wire.height_mm : wire.height_mm + mating.height_mm) * larger, wire.title, wire.spoken};
    out.place(wire, {0, 0}, larger);
    out.place(mating,
              beside ? drawn::At{(wire.width_mm + kBetween_mm) * larger, 0} : drawn::At{0, wire.height_mm * larger},
              larger);
    return {out};
}

} // namespace

Blocks plugsOf(const analysis::Analysis& analysis)
{
    const job::Job& job = *analysis.job;
    const auto uses = pinning::pinUses(job);
    std::map<job::WireId, const job::Wire*> wires;
    for (const job::Wire& w : job.wires)
        wires[w.id] = &w;
    Blocks out;
    for (const job::Connector& c : job.connectors) {
        const auto pins = analysis.pins.find(c.id);
        if (pins == analysis.pins.end())
            continue;
        out.push_back(Heading{c.label.empty() ? job::spoken(job, {c.id, {}})
                                              : phrase("{}: {}", job::spoken(job, {c.id, {}}), c.label)});
        if (c.faceProposed)
            out.push_back(Paragraph{phrase("Its face is proposed by the number of cavities: nobody has looked at the "
                                           "part yet."),
                                    true});
        if (c.layout)
            out.push_back(facesOf(job, c));
        Table table{{{phrase("Cavity"), 0.7, true},
                     {phrase("What it is for"), 2.6},
                     {phrase("Wire"), 1.2, true},
                     {phrase("Colour"), 1.8},
                     {phrase("Area"), 0.9, true},
                     {phrase("Goes to"), 2},
                     {phrase("State"), 1.3}},
                    {}};
        size_t unused = 0;
        for (const pinning::Pin& pin : pins->second) {
            if (pin.wires.empty() && pin.state == pinning::PinState::Open) {
                ++unused;
                continue;
            }
            const auto use = uses.find(pin.at);
            std::string names, colours, areas;
            for (const job::WireId& id : pin.wires) {
                const job::Wire& w = *wires.at(id);
                const char* more = names.empty() ? "" : ", ";
                names += more + id.value;
                colours += more + w.colour + " " + wires::colourName(w.colour);
                areas += more + parts::areaText(w.area_m2);
            }
            table.rows.push_back({pin.at.cavity, use == uses.end() ? "" : use->second.purpose, names, colours, areas,
                                  pinning::otherEnds(job, pin), phrase(pinning::stateName(pin.state))});
        }
        if (!table.rows.empty())
            out.push_back(std::move(table));
        if (unused > 0)
            out.push_back(Paragraph{unused == 1 ? phrase("One cavity is empty.")
                                                : phrase("{} cavities are empty.", std::to_string(unused))});
    }
    return out;
}

Blocks wiresOf(const analysis::Analysis& analysis, const materials::Habits& habits)
{
    Table table{{{phrase("Wire"), 0.8, true},
                 {phrase("Colour"), 0.9, true},
                 {phrase("Area"), 1, true},
                 {phrase("From"), 1.8},
                 {phrase("To"), 1.8},
                 {phrase("Drawn"), 0.9, true},
                 {phrase("Cut"), 0.9, true},
                 {phrase("Strip, mm"), 1.2, true},
                 {phrase("Besides"), 1.8}},
                {}};
    for (const materials::Cut& cut : materials::cutList(*analysis.job, habits))
        table.rows.push_back(
            {cut.wire.value, cut.colour, parts::areaText(cut.area_m2), cut.from, cut.to, metres(cut.drawn_m),
             metres(cut.cut_m),
             units::formatNumber(cut.stripFrom_m * 1e3, 1) + " / " + units::formatNumber(cut.stripTo_m * 1e3, 1),
             materials::noteShown(cut)});
    if (table.rows.empty())
        return {};
    Blocks out{std::move(table)};
    Table bought{{{phrase("What"), 4}, {phrase("Needed"), 1, true}, {phrase("Spare"), 1, true}}, {}};
    for (const materials::Item& item : materials::shoppingList(*analysis.job, habits))
        bought.rows.push_back(
            {item.shown, materials::amountText(item, item.needed), materials::amountText(item, item.spare)});
    out.push_back(Heading{phrase("Materials")});
    out.push_back(std::move(bought));
    return out;
}

Blocks harnessOf(const analysis::Analysis& analysis)
{
    const job::Job& job = *analysis.job;
    if (job.branches.empty())
        return {};
    const auto stretches = branches::stretches(job);
    const auto mm = [](double m) {
        return m > 0 ? units::format(m, units::Dimension::Length, "mm", 1) : std::string();
    };
    Table table{{{phrase("From"), 1.3},
                 {phrase("To"), 1.3},
                 {phrase("Length"), 1, true},
                 {phrase("Wires"), 0.7, true},
                 {phrase("Bundle"), 1, true},
                 {phrase("Sleeve"), 1, true},
                 {phrase("Through a wall"), 2}},
                {}};
    for (size_t i = 0; i < job.branches.size(); ++i) {
        const job::Branch& b = job.branches[i];
        const branches::Dressing& d = stretches[i].dressing;
        table.rows.push_back({b.from, b.to, metres(b.length_m), std::to_string(stretches[i].wires.size()),
                              mm(d.bundle_m), mm(d.sleeve_m),
                              b.wall ? phrase("grommet {} in a hole of {}", mm(d.hole_m), mm(d.wall_m)) : ""});
    }
    return {Paragraph{phrase("Lengths run along the harness from place to place; bundles are as they were packed, with "
                             "{} % for how wires lie.",
                             units::formatNumber((branches::kLooseness - 1) * 100, 0))},
            Picture{harnessFigure(job, stretches)}, std::move(table)};
}

Blocks diagramsOf(const analysis::Analysis& analysis)
{
    Blocks out;
    for (drawn::Figure& figure : diagram::drawnOf(*analysis.job, diagram::sheetsOf(*analysis.job)))
        out.push_back(Picture{std::move(figure), true});
    return out;
}

} // namespace vicegrip::book
