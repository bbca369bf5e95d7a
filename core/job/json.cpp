#include "core/job/json.h"

#include "core/base/document.h"
#include "core/base/phrase.h"
#include "core/base/schema_text.h"
#include "core/job/check.h"
#include "core/job/listing.h"
#include "core/units/document_range.h"

namespace vicegrip::job {
namespace {

/// Values that carry their circuit's own unit in the file ("low": 0 in kPa) become SI, or the other way.
template <class Convert> void convertCircuit(Job& job, Circuit& circuit, Convert convert, Convert difference)
{
    const parts::Part* sensor = sensorOf(job, circuit);
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
        return fail(ErrorCode::Schema, phrase("this is not a Vicegrip job: it has no \"vicegrip\" version"),
                    {{}, "/", 0, 0});
    const auto& version = json["vicegrip"];
    if (!version.is_number_integer() || version.get<double>() < 1)
        return fail(ErrorCode::Schema, phrase("the version must be a whole number from 1"), {{}, "/vicegrip", 0, 0});
    return {};
}

/// What a document says, whether or not it names only things it holds.
Result<Job> asSaid(const nlohmann::json& json)
{
    if (auto valid = units::validate(json, kJobSchema); !valid)
        return tl::make_unexpected(valid.error());
    try {
        auto job = fields::fromJson<Job>(json);
        for (Circuit& circuit : job.circuits)
            convertCircuit(job, circuit, units::fromUnit, units::differenceFromUnit);
        understandOldProofs(job, json);
        return job;
    } catch (const nlohmann::json::exception& e) {
        return fail(ErrorCode::Schema, std::string(phrase("the job cannot be understood: ")) + e.what());
    }
}

Result<Job> understood(const nlohmann::json& json)
{
    return asSaid(json).and_then([](Job&& job) { return check(job).map([&] { return std::move(job); }); });
}

Result<Job> fromDocument(const nlohmann::json& json)
{
    if (auto version = checkVersion(json); !version)
        return tl::make_unexpected(version.error());
    auto job = understood(json);
    if (job || json["vicegrip"] <= kVersion)
        return job;
    return fail(ErrorCode::Version,
                phrase("the job was written by a newer Vicegrip (version {}, this one reads {}) and cannot be "
                       "understood: update before opening it",
                       json["vicegrip"].dump(), std::to_string(kVersion)),
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

namespace {

/// What differs between a job and a sound one: of each list what lies between the same at its start and the same at its
/// end.
class Changed
{
  public:
    Changed(const Job& after, const Job& sound)
    {
        job.version = after.version;
        job.name = after.name;
        job.title = after.title;
        job.surroundings = after.surroundings;
        job.battery = after.battery;
        job.meter = after.meter;
        job.stream = after.stream;
        job.instrument = after.instrument;
        job.brief = after.brief;
        job.workSteps = after.workSteps;
        job.tank = after.tank;
        job.extra = after.extra;
        job.ecu.name = after.ecu.name; // there is always one
        if (!(after.ecu == sound.ecu))
            job.ecu = after.ecu;
        take("expanders", &Job::expanders, after, sound);
        take("connectors", &Job::connectors, after, sound);
        take("joints", &Job::joints, after, sound);
        take("wires", &Job::wires, after, sound);
        take("switches", &Job::switches, after, sound);
        take("resistors", &Job::resistors, after, sound);
        take("loads", &Job::loads, after, sound);
        take("branches", &Job::branches, after, sound);
        take("leads", &Job::leads, after, sound);
        take("proofs", &Job::proofs, after, sound);
        take("clicks", &Job::clicks, after, sound);
        take("wiggles", &Job::wiggles, after, sound);
        take("hand_turns", &Job::handTurns, after, sound);
        take("decoded", &Job::decoded, after, sound);
        take("passed", &Job::passed, after, sound);
        take("mends", &Job::mends, after, sound);
        take("log_columns", &Job::logColumns, after, sound);
        take("log_marks", &Job::logMarks, after, sound);
        take("log_reviews", &Job::logReviews, after, sound);
        take("photos", &Job::photos, after, sound);
        take("pinned", &Job::pinned, after, sound);
        take("old_plugs", &Job::oldPlugs, after, sound);
        take("log", &Job::log, after, sound);
        // Circuits are written in the units of their sensors: with one of them goes all of both.
        const Job none;
        const bool same = after.parts == sound.parts && after.devices == sound.devices;
        take("circuits", &Job::circuits, after, same ? sound : none);
        const Job& other = job.circuits.empty() ? sound : none;
        take("parts", &Job::parts, after, other);
        take("devices", &Job::devices, after, other);
    }

    Job job;

    /// A place in it as a place in the whole: "/wires/0/length_m" is "/wires/17/length_m".
    [[nodiscard]] std::string placed(const std::string& pointer) const
    {
        const size_t list = pointer.find('/', 1), end = pointer.find('/', list + 1);
        const auto first = list == std::string::npos ? m_first.end() : m_first.find(pointer.substr(1, list - 1));
        if (first == m_first.end())
            return pointer;
        const size_t index = std::stoul(pointer.substr(list + 1, end - list - 1)) + first->second;
        return pointer.substr(0, list + 1) + std::to_string(index) +
               (end == std::string::npos ? "" : pointer.substr(end));
    }

  private:
    template <class T> void take(const char* name, std::vector<T> Job::*list, const Job& after, const Job& sound)
    {
        const auto &mine = after.*list, &theirs = sound.*list;
        const auto [from, same] = std::ranges::mismatch(mine, theirs);
        auto to = mine.end();
        auto other = theirs.end();
        while (to != from && other != same && *(to - 1) == *(other - 1)) {
            --to;
            --other;
        }
        m_first[name] = static_cast<size_t>(from - mine.begin());
        (job.*list).assign(from, to);
    }

    std::map<std::string, size_t> m_first;
};

/// Holds the lengths of the job's own lists to the schema's.
class Lengths
{
  public:
    template <class T> void operator()(const char*, T&) {}
    template <class T> void operator()(const char* name, std::vector<T>& list)
    {
        const auto most = mosts().find(name);
        if (most != mosts().end() && list.size() > most->second)
            tooLong = std::string("/") + name;
    }
    void scaled(const char*, double&, double, double = 0) {}
    void rest(nlohmann::json&) {}

    std::string tooLong;

  private:
    static const std::map<std::string, size_t, std::less<>>& mosts()
    {
        static const auto kMosts = [] {
            std::map<std::string, size_t, std::less<>> out;
            const auto schema = nlohmann::json::parse(kJobSchema);
            for (const auto& [name, member] : schema["properties"].items())
                if (member.contains("maxItems"))
                    out[name] = member["maxItems"].template get<size_t>();
            return out;
        }();
        return kMosts;
    }
};

Result<void> comesBack(const Result<Job>& back, const std::string& text)
{
    if (!back)
        return tl::make_unexpected(back.error());
    if (write(*back) == text) // the last bit of a number may go, a member may not
        return {};
    return fail(ErrorCode::Schema, phrase("a value of the job does not come back from its file as it is"),
                {{}, "/", 0, 0});
}

} // namespace

Result<void> checkWritten(const Job& job, const Job& sound)
{
    Lengths lengths;
    listFields(lengths, const_cast<Job&>(job)); // NOLINT: it looks only
    if (!lengths.tooLong.empty())
        return fail(ErrorCode::Schema, phrase("the list is longer than a file may hold"), {{}, lengths.tooLong, 0, 0});
    const Changed changed(job, sound);
    const std::string text = write(changed.job);
    return comesBack(document::parse(text).and_then(asSaid), text).map_error([&](Error e) {
        e.place.pointer = changed.placed(e.place.pointer);
        return e;
    });
}

Result<void> checkWritten(const Job& job)
{
    const std::string text = write(job);
    return comesBack(read(text), text);
}

} // namespace vicegrip::job
