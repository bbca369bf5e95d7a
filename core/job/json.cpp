#include "core/job/json.h"

#include "core/base/document.h"
#include "core/base/schema_text.h"
#include "core/job/check.h"
#include "core/job/listing.h"
#include "core/units/document_range.h"

namespace vicegrip::job {
namespace {

/// Values that carry their circuit's own unit in the file ("low": 0 in kPa) become SI, or the other way.
template <class Convert> void convertCircuit(Job& job, Circuit& circuit, Convert convert, Convert difference)
{
    const parts::Sensor* sensor = sensorOf(job, circuit);
    if (sensor == nullptr)
        return; // check() names the missing part
    circuit.scaling.low = convert(circuit.scaling.low, sensor->measures, sensor->unit);
    circuit.scaling.high = convert(circuit.scaling.high, sensor->measures, sensor->unit);
    for (Captured& c : circuit.captured) {
        c.value = convert(c.value, sensor->measures, sensor->unit);
        c.within = difference(c.within, sensor->measures, sensor->unit);
    }
    if (circuit.rest.kind != RestKind::Value)
        return;
    circuit.rest.tolerance = difference(circuit.rest.tolerance, sensor->measures, sensor->unit);
    circuit.rest.value = convert(circuit.rest.value, sensor->measures, sensor->unit);
}

/// A conversion whose result is written with so many digits that it does not drift.
template <double (*Convert)(double, units::Dimension, std::string_view)>
double roundedBy(double si, units::Dimension dimension, std::string_view unit)
{
    return fields::rounded(Convert(si, dimension, unit));
}

/// The version comes before the schema.
Result<void> checkVersion(const nlohmann::json& json)
{
    if (!json.is_object() || !json.contains("vicegrip"))
        return fail(ErrorCode::Schema, "this is not a Vicegrip job: it has no \"vicegrip\" version", {{}, "/", 0, 0});
    const auto& version = json["vicegrip"];
    if (!version.is_number_integer() || version.get<double>() < 1)
        return fail(ErrorCode::Schema, "the version must be a whole number from 1", {{}, "/vicegrip", 0, 0});
    return {};
}

Result<Job> understood(const nlohmann::json& json)
{
    if (auto valid = units::validate(json, kJobSchema); !valid)
        return tl::make_unexpected(valid.error());
    try {
        auto job = fields::fromJson<Job>(json);
        for (Circuit& circuit : job.circuits)
            convertCircuit(job, circuit, units::fromUnit, units::differenceFromUnit);
        understandOldProofs(job, json);
        return check(job).map([&] { return std::move(job); });
    } catch (const nlohmann::json::exception& e) {
        return fail(ErrorCode::Schema, std::string("the job cannot be understood: ") + e.what());
    }
}

Result<Job> fromDocument(const nlohmann::json& json)
{
    if (auto version = checkVersion(json); !version)
        return tl::make_unexpected(version.error());
    auto job = understood(json);
    if (job || json["vicegrip"] <= kVersion)
        return job;
    return fail(ErrorCode::Version,
                "the job was written by a newer Vicegrip (version " + json["vicegrip"].dump() + ", this one reads " +
                    std::to_string(kVersion) + ") and cannot be understood: update before opening it",
                {{}, "/vicegrip", 0, 0});
}

} // namespace

Result<Job> read(std::string_view text)
{
    return document::parse(text).and_then(fromDocument);
}

Result<Job> readFile(const std::filesystem::path& file)
{
    return document::inFile(document::readFile(file).and_then([](const std::string& text) { return read(text); }),
                            file);
}

std::string write(const Job& job)
{
    Job copy = job;
    for (Circuit& circuit : copy.circuits)
        convertCircuit(copy, circuit, roundedBy<units::toUnit>, roundedBy<units::differenceToUnit>);
    return fields::toJson(copy).dump(2, ' ', false, nlohmann::json::error_handler_t::replace) + "\n";
}

Result<void> checkWritten(const Job& job)
{
    const std::string text = write(job);
    return read(text).and_then([&](const Job& back) -> Result<void> {
        if (write(back) == text) // the last bit of a number may go, a member may not
            return {};
        return fail(ErrorCode::Schema, "a value of the job does not come back from its file as it is", {{}, "/", 0, 0});
    });
}

} // namespace vicegrip::job
