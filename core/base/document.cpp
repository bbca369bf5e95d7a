#include "core/base/document.h"

#include "core/base/fields.h"
#include "core/base/pattern.h"
#include "core/base/phrase.h"

#include <algorithm>
#include <array>
#include <cerrno>
#include <charconv>
#include <cstring>
#include <fstream>
#include <map>
#include <mutex>
#include <sstream>

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wconversion"
#pragma GCC diagnostic ignored "-Wshadow"
#include <valijson/adapters/nlohmann_json_adapter.hpp>
#include <valijson/schema.hpp>
#include <valijson/schema_parser.hpp>
#include <valijson/validator.hpp>
#pragma GCC diagnostic pop

namespace vicegrip {

double fields::rounded(double value)
{
    std::array<char, 32> buffer{};
    const auto [end, error] =
        std::to_chars(buffer.data(), buffer.data() + buffer.size(), value, std::chars_format::general, 12);
    double out = value;
    if (error == std::errc())
        std::from_chars(buffer.data(), end, out);
    return out;
}

namespace document {
namespace {

using Json = nlohmann::json;

/// valijson names a place as "<root>", "[circuits]", "[0]": RFC 6901 wants "/circuits/0".
std::string pointerOf(const std::vector<std::string>& context)
{
    std::string out;
    for (const std::string& part : context) {
        if (part.size() < 2 || part.front() != '[')
            continue;
        out += '/';
        for (char c : part.substr(1, part.size() - 2)) {
            if (c == '~')
                out += "~0";
            else if (c == '/')
                out += "~1";
            else
                out += c;
        }
    }
    return out.empty() ? "/" : out;
}

struct Bound
{
    std::string_view theirs;
    const char* ours;
};
constexpr std::array kBounds = {
    Bound{"Expected number greater than or equal to ", key("the number must not be below {}")},
    Bound{"Expected number less than or equal to ", key("the number must not be above {}")},
    Bound{"Expected number greater than ", key("the number must be above {}")},
    Bound{"Expected number less than ", key("the number must be below {}")},
    Bound{"String should be no fewer than ", key("the text must have at least {} letters")},
    Bound{"String should be no more than ", key("the text must have at most {} letters")},
    Bound{"Array should contain no fewer than ", key("the list must have at least {} entries")},
    Bound{"Array should contain no more than ", key("the list must have at most {} entries")},
    Bound{"Object should have no more than ", key("there must be at most {} members")},
};

/// The number a wording begins with, without the zeros it is padded with.
std::string boundIn(const std::string& text)
{
    std::string number = text.substr(0, text.find_first_not_of("+-.0123456789"));
    while (!number.empty() && number.back() == '.')
        number.pop_back(); // the sentence's own
    if (number.find('.') != std::string::npos)
        number.erase(number.find_last_not_of('0') + 1);
    while (!number.empty() && number.back() == '.')
        number.pop_back();
    return number;
}

/// The validator's wording, turned into a sentence about the document.
std::string sentenceOf(const std::string& description)
{
    static constexpr std::pair<std::string_view, const char*> kWordings[] = {
        {"Missing required property", key("a field is missing")},
        {"Value type not permitted", key("the value is of the wrong type")},
        {"Failed to match", key("the value is not one that is allowed here")},
    };
    for (const auto& [theirs, ours] : kWordings) {
        if (!description.starts_with(theirs))
            continue;
        const size_t quote = description.find('\'');
        const size_t end = quote == std::string::npos ? quote : description.find('\'', quote + 1);
        if (end == std::string::npos)
            return phrase(ours);
        return phrase("{}: \"{}\"", phrase(ours), description.substr(quote + 1, end - quote - 1));
    }
    for (const auto& [theirs, ours] : kBounds)
        if (description.starts_with(theirs))
            return phrase(ours, boundIn(description.substr(theirs.size())));
    std::string out = description.substr(0, 300);
    while (!out.empty() && (out.back() == '.' || out.back() == ' '))
        out.pop_back();
    return out;
}

struct Prepared
{
    explicit Prepared(Json parsed) : patterns(parsed)
    {
        valijson::SchemaParser parser;
        parser.populateSchema(valijson::adapters::NlohmannJsonAdapter(parsed), schema);
    }

    Patterns patterns;
    valijson::Schema schema; ///< without its patterns
};

/// Schemas are few and compiled in; each is prepared once.
const Prepared& prepared(std::string_view schema)
{
    static std::mutex mutex;
    static std::map<const char*, std::unique_ptr<Prepared>> known;
    const std::lock_guard lock(mutex);
    auto& entry = known[schema.data()];
    if (!entry)
        entry = std::make_unique<Prepared>(Json::parse(schema));
    return *entry;
}

} // namespace

Result<void> validate(const Json& document, std::string_view schema)
{
    try {
        valijson::Validator validator;
        valijson::ValidationResults results;
        const valijson::adapters::NlohmannJsonAdapter target(document);
        const Prepared& wanted = prepared(schema);
        if (validator.validate(wanted.schema, target, &results)) { // lengths before patterns
            const auto mismatch = wanted.patterns.mismatch(document);
            if (!mismatch)
                return {};
            return fail(ErrorCode::Schema, mismatch->sentence, Place{{}, mismatch->pointer, 0, 0});
        }
        // The validator walks inwards: the deepest place is the one to look at.
        Place place{{}, "/", 0, 0};
        std::string sentence = phrase("the document does not follow its schema");
        size_t deepest = 0;
        for (valijson::ValidationResults::Error error; results.popError(error);) {
            if (error.context.size() <= deepest)
                continue;
            deepest = error.context.size();
            place.pointer = pointerOf(error.context);
            sentence = sentenceOf(error.description);
        }
        return fail(ErrorCode::Schema, sentence, place);
    } catch (const std::exception& e) {
        return fail(ErrorCode::Schema, phrase("the document could not be checked: {}", e.what()));
    }
}

Result<std::string> readFile(const std::filesystem::path& file, size_t most)
{
    const Place place{file.string(), {}, 0, 0};
    std::error_code error;
    if (std::filesystem::is_directory(file, error))
        return fail(ErrorCode::Io, phrase("this is a folder, not a file"), place);
    std::ifstream in(file, std::ios::binary);
    if (!in)
        return fail(ErrorCode::Io, std::string(phrase("the file cannot be opened: ")) + std::strerror(errno),
                    place); // NOLINT(concurrency-mt-unsafe)
    std::string text;
    if (const auto bytes = std::filesystem::file_size(file, error); !error)
        text.reserve(std::min<size_t>(bytes, most));
    std::array<char, 65536> block{};
    while (in.read(block.data(), block.size()) || in.gcount() > 0) {
        text.append(block.data(), static_cast<size_t>(in.gcount()));
        if (text.size() > most) {
            Error large = tooLarge(most);
            large.place = place;
            return tl::make_unexpected(std::move(large));
        }
    }
    if (in.bad())
        return fail(ErrorCode::Io, phrase("the file cannot be read to its end"), place);
    return text;
}

} // namespace document
} // namespace vicegrip
