#include "app/shell/destinations.h"

#include "app/desk/part_library.h"
#include "app/widgets/text.h"
#include "core/base/shipped.h"
#include "core/help/help.h"

#include <QCoreApplication>

namespace vicegrip::app {
namespace {

using lookup::Kind;

QString whereOf(Kind kind)
{
    const auto tr = [](const char* words) { return QCoreApplication::translate("Destinations", words); };
    switch (kind) {
    case Kind::Action:
    case Kind::Spot:
        return {};
    case Kind::Circuit:
        return tr("Circuit");
    case Kind::Cavity:
        return tr("Pins, plug");
    case Kind::Wire:
        return tr("Pins, wires");
    case Kind::Place:
        return tr("Meter");
    case Kind::Part:
        return tr("Inputs");
    case Kind::Library:
        return tr("Your own part, from this");
    case Kind::Term:
        return tr("Glossary");
    case Kind::Finding:
        return tr("Findings");
    case Kind::Log:
        return tr("Logbook");
    }
    return {};
}

} // namespace

std::vector<CommandFinder::Offer> offers(const QList<QAction*>& actions,
                                         const std::vector<std::pair<analysis::Stage, StagePage*>>& pages,
                                         const analysis::Analysis* analysis)
{
    std::vector<CommandFinder::Offer> out;
    for (const QAction* a : actions)
        if (a->isEnabled() && !a->text().isEmpty()) {
            const std::string name = a->text().toStdString();
            out.push_back({{Kind::Action, name, name, {}, {}}, {}, a->shortcut().toString(QKeySequence::NativeText)});
        }
    for (const auto& [stage, page] : pages)
        for (const StagePage::Spot& spot : page->spots()) {
            const std::string name(analysis::stageName(stage));
            out.push_back({{Kind::Spot, name + "/" + spot.key.toStdString(), spot.name.toStdString(), {}, name},
                           said(analysis::stageName(stage)),
                           {}});
        }
    for (const help::Term& t : help::readGlossary(shippedFolder() / "help").value_or(std::vector<help::Term>()))
        out.push_back({{Kind::Term, t.term, t.term, t.meaning, {}}, whereOf(Kind::Term), {}});
    if (analysis == nullptr)
        return out;
    for (auto& entries : {lookup::entriesOf(*analysis), lookup::entriesOf(library(), *analysis->job)})
        for (const lookup::Entry& e : entries)
            out.push_back({e, whereOf(e.kind), {}});
    return out;
}

std::optional<ReadAt> readAt(const analysis::Analysis& analysis, const std::string& place)
{
    for (const proof::CircuitView& view : analysis.circuits)
        for (const auto& [condition, stations] : view.stations)
            for (const proof::Standing& s : stations)
                if (s.place.station.kind == proof::StationKind::Probe && s.place.station.point.text() == place)
                    return ReadAt{view.id, s.place.station.key};
    return std::nullopt;
}

} // namespace vicegrip::app
