#include "core/electrics/faults.h"

#include "core/base/document.h"
#include "core/base/phrase.h"
#include "core/base/schema_text.h"
#include "core/units/document_range.h"

#include <algorithm>
#include <functional>

namespace vicegrip::electrics {
namespace {

using nlohmann::json;

Fault faultOf(const json& j)
{
    const auto kind = j["kind"].get<std::string>();
    if (kind == "open")
        return OpenWire{{j["wire"].get<std::string>()}};
    if (kind == "resistance")
        return AddedResistance{{j["wire"].get<std::string>()}, j["ohm"].get<double>()};
    if (kind == "swap")
        return SwappedCavities{j["connector"].get<std::string>(),
                               {j["cavities"][0].get<std::string>(), j["cavities"][1].get<std::string>()}};
    if (kind == "held-table") {
        HeldTable held{{j["input"].get<std::string>()}, {}};
        for (const json& p : j["points"])
            held.points.push_back({p[0].get<double>(), p[1].get<double>()});
        return held;
    }
    return Short{job::PointRef::fromText(j["point"].get<std::string>()),
                 job::PointRef::fromText(j["to"].get<std::string>()), j.value("ohm", 0.1)};
}

bool holds(const job::Job& job, const job::WireId& wire)
{
    return std::ranges::any_of(job.wires, [&](const job::Wire& w) { return w.id == wire; });
}

bool holds(const job::Job& job, const job::PointRef& point)
{
    const job::Connector* c = job::findConnector(job, point.owner);
    if (c != nullptr)
        return std::ranges::find(c->cavities, point.cavity) != c->cavities.end();
    return point.cavity.empty() && job::findJoint(job, point.owner) != nullptr;
}

/// What the list names that the job does not have; empty when all is there.
struct Missing
{
    const job::Job& job;

    std::string operator()(const OpenWire& f) const
    {
        return holds(job, f.wire) ? "" : phrase("wire \"{}\"", f.wire.value);
    }
    std::string operator()(const AddedResistance& f) const
    {
        return holds(job, f.wire) ? "" : phrase("wire \"{}\"", f.wire.value);
    }
    std::string operator()(const SwappedCavities& f) const
    {
        for (const std::string& cavity : f.cavities)
            if (!holds(job, job::PointRef{f.connector, cavity}))
                return phrase("cavity \"{}.{}\"", f.connector, cavity);
        return {};
    }
    std::string operator()(const HeldTable& f) const
    {
        return job::findInput(job, f.input) != nullptr ? "" : phrase("input \"{}\"", f.input.value);
    }
    std::string operator()(const Short& f) const
    {
        for (const job::PointRef& point : {f.point, f.to})
            if (!holds(job, point))
                return phrase("place \"{}\"", point.text());
        return {};
    }
};

} // namespace

Result<FaultList> readFaults(std::string_view text, const job::Job& job)
{
    const auto parsed = document::parse(text);
    if (!parsed)
        return tl::make_unexpected(parsed.error());
    if (auto valid = units::validate(*parsed, kFaultsSchema); !valid)
        return tl::make_unexpected(valid.error());
    FaultList list;
    for (const json& j : (*parsed)["faults"]) {
        list.push_back(faultOf(j));
        if (const auto* held = std::get_if<HeldTable>(&list.back()))
            if (std::ranges::adjacent_find(held->points, std::greater_equal{}, &HeldTable::Point::volts) !=
                held->points.end())
                return fail(ErrorCode::Range, phrase("the table's volts do not rise"),
                            {{}, "/faults/" + std::to_string(list.size() - 1) + "/points", 0, 0});
        if (const std::string missing = std::visit(Missing{job}, list.back()); !missing.empty())
            return fail(ErrorCode::Reference, phrase("the job has no {}", missing),
                        {{}, "/faults/" + std::to_string(list.size() - 1), 0, 0});
    }
    return list;
}

Result<FaultList> readFaultsFile(const std::filesystem::path& file, const job::Job& job)
{
    return document::inFile(
        document::readFile(file).and_then([&](const std::string& text) { return readFaults(text, job); }), file);
}

job::Job asWired(job::Job job, const FaultList& faults)
{
    for (const Fault& fault : faults) {
        if (const auto* open = std::get_if<OpenWire>(&fault)) {
            std::erase_if(job.wires, [&](const job::Wire& w) { return w.id == open->wire; });
        } else if (const auto* swap = std::get_if<SwappedCavities>(&fault)) {
            const auto exchange = [&](job::PointRef& end) {
                if (end.owner != swap->connector)
                    return;
                if (end.cavity == swap->cavities[0])
                    end.cavity = swap->cavities[1];
                else if (end.cavity == swap->cavities[1])
                    end.cavity = swap->cavities[0];
            };
            for (job::Wire& w : job.wires) {
                exchange(w.from);
                exchange(w.to);
            }
        }
    }
    return job;
}

} // namespace vicegrip::electrics
