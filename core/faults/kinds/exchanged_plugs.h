#pragma once

#include "core/base/phrase.h"
#include "core/faults/network_edits.h"

#include <algorithm>
#include <array>

namespace vicegrip::faults {

/// Two plugs that fit each other's part sit on it: two injectors, two thermistors.
struct ExchangedPlugs
{
    std::array<std::string, 2> connectors;

    static constexpr std::string_view kName = "plugs";
    [[nodiscard]] std::string missing(const job::Job& job) const
    {
        const job::Connector *one = job::findConnector(job, connectors[0]),
                             *other = job::findConnector(job, connectors[1]);
        for (const auto& [plug, id] : {std::pair(one, connectors[0]), std::pair(other, connectors[1])})
            if (plug == nullptr || !isOfAPart(*plug))
                return phrase("plug \"{}\" of a part", id);
        return one != other && fit(*one, *other)
                   ? ""
                   : phrase("plug \"{}\" that fits where \"{}\" sits", connectors[0], connectors[1]);
    }
    [[nodiscard]] static bool isOfAPart(const job::Connector& plug)
    {
        return plug.kind == job::ConnectorKind::Sensor || plug.kind == job::ConnectorKind::Load;
    }
    /// Whether each goes where the other sits.
    [[nodiscard]] static bool fit(const job::Connector& one, const job::Connector& other)
    {
        return one.kind == other.kind && one.cavities.size() == other.cavities.size() &&
               (!one.layout || !other.layout || one.layout->id == other.layout->id);
    }
    /// What a mend of it touches, as facts name it.
    [[nodiscard]] Subjects subjects(const job::Job& job) const
    {
        std::vector<job::PointRef> all;
        for (const std::string& id : connectors)
            if (const job::Connector* plug = job::findConnector(job, id))
                for (const std::string& cavity : plug->cavities)
                    all.push_back({id, cavity});
        return wiresAt(job, all);
    }
    /// Wires end at the other's part, cavity by cavity as they stand in their lists.
    void rewire(job::Job& job) const
    {
        const job::Connector *one = job::findConnector(job, connectors[0]),
                             *other = job::findConnector(job, connectors[1]);
        if (one == nullptr || other == nullptr || one->cavities.size() != other->cavities.size())
            return;
        const auto moved = [](job::PointRef& end, const job::Connector& from, const job::Connector& to) {
            const auto at = std::ranges::find(from.cavities, end.cavity);
            if (end.owner != from.id || at == from.cavities.end())
                return false;
            end = {to.id, to.cavities[static_cast<size_t>(at - from.cavities.begin())]};
            return true;
        };
        for (job::Wire& w : job.wires)
            for (job::PointRef* end : {&w.from, &w.to})
                if (!moved(*end, *one, *other))
                    (void)moved(*end, *other, *one);
    }
};

template <class A> void listFields(A& a, ExchangedPlugs& f)
{
    std::vector<std::string> both(f.connectors.begin(), f.connectors.end());
    a("connectors", both);
    if (both.size() == 2)
        f.connectors = {both[0], both[1]};
}

} // namespace vicegrip::faults
