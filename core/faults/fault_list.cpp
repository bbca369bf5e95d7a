#include "core/faults/fault_list.h"

#include "core/base/document.h"
#include "core/base/phrase.h"
#include "core/base/schema_text.h"
#include "core/units/document_range.h"

#include <algorithm>
#include <optional>

namespace vicegrip::faults {
namespace {

using nlohmann::json;

/// Tries the kinds one after the other.
template <size_t I = 0> std::optional<Fault> faultOf(const json& j, std::string_view kind)
{
    if constexpr (I < std::variant_size_v<Fault>) {
        using Kind = std::variant_alternative_t<I, Fault>;
        return kind == Kind::kName ? std::optional<Fault>(fields::fromJson<Kind>(j)) : faultOf<I + 1>(j, kind);
    } else {
        return std::nullopt;
    }
}

/// A fault whose part, where it has one, is sound.
Result<Fault> readOne(const json& j)
{
    const auto kind = j["kind"].get<std::string>();
    if (kind == OtherPart::kName)
        if (auto part = parts::readPart(j["part"]); !part) {
            Error error = part.error();
            error.place.pointer = "/part" + error.place.pointer;
            return tl::make_unexpected(error);
        }
    if (auto fault = faultOf(j, kind))
        return std::move(*fault);
    return fail(ErrorCode::Range, phrase("there is no such kind of fault"), {{}, "/kind", 0, 0}); // the schema knows it
}

/// What no schema can say of one, with the place in it.
Result<void> checkOne(const Fault& fault, const job::Job& job)
{
    if (const auto* held = std::get_if<HeldTable>(&fault))
        if (auto rises = held->check(); !rises)
            return rises;
    if (const auto* other = std::get_if<OtherPart>(&fault)) {
        const job::Device* device = job::find(job, other->device);
        const parts::Part* planned = device == nullptr ? nullptr : job::findPart(job, device->part);
        if (planned != nullptr && planned->pins != other->part.pins)
            return fail(ErrorCode::Reference, phrase("{} has other pins than {}", other->part.name, planned->name),
                        {{}, "/part/pins", 0, 0});
    }
    const std::string missing = std::visit([&](const auto& f) { return f.missing(job); }, fault);
    return missing.empty() ? Result<void>{} : fail(ErrorCode::Reference, phrase("the job has no {}", missing));
}

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
        auto fault = readOne(j);
        auto sound = fault ? checkOne(*fault, job) : tl::make_unexpected(fault.error());
        if (!sound) {
            Error error = sound.error();
            error.place.pointer = "/faults/" + std::to_string(list.size()) + error.place.pointer;
            return tl::make_unexpected(error);
        }
        list.push_back(std::move(*fault));
    }
    return list;
}

Result<FaultList> readFaultsFile(const std::filesystem::path& file, const job::Job& job)
{
    return document::inFile(
        document::readFile(file).and_then([&](const std::string& text) { return readFaults(text, job); }), file);
}

std::string writeFaults(const FaultList& faults)
{
    fields::OrderedJson list = fields::OrderedJson::array();
    for (const Fault& fault : faults)
        std::visit(
            [&](const auto& f) {
                fields::OrderedJson one = {{"kind", f.kName}};
                one.update(fields::toJson(f));
                list.push_back(std::move(one));
            },
            fault);
    return fields::OrderedJson{{"faults", list}}.dump(2) + "\n";
}

job::Job asWired(job::Job job, const FaultList& faults)
{
    for (const bool ends : {true, false}) // an end is moved from where it is drawn, whatever else is exchanged
        for (const Fault& fault : faults)
            std::visit(
                [&](const auto& f) {
                    if constexpr (requires { f.rewire(job); })
                        if (std::holds_alternative<MovedEnd>(fault) == ends)
                            f.rewire(job);
                },
                fault);
    return job;
}

bool rewires(const FaultList& faults)
{
    return std::ranges::any_of(faults, [](const Fault& fault) {
        return std::visit(
            [](const auto& f) {
                return requires(job::Job & job)
                {
                    f.rewire(job);
                };
            },
            fault);
    });
}

bool isThere(const Fault& fault, const job::Job& job)
{
    return checkOne(fault, job).has_value();
}

Subjects subjectsOf(const Fault& fault, const job::Job& job)
{
    return std::visit([&](const auto& f) { return f.subjects(job); }, fault);
}

NetworkEdits editsOf(const FaultList& faults)
{
    NetworkEdits out;
    for (const Fault& fault : faults)
        std::visit(
            [&](const auto& f) {
                if constexpr (requires { f.change(out); })
                    f.change(out);
            },
            fault);
    return out;
}

} // namespace vicegrip::faults
