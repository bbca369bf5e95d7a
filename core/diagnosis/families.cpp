#include "core/diagnosis/families.h"

#include "core/base/document.h"
#include "core/base/phrase.h"
#include "core/base/schema_text.h"

#include <array>

namespace vicegrip::diagnosis {
namespace {

/// Those that suspects() asks for.
constexpr std::array<std::string_view, 22> kAll = {
    "nothing",       "open-wire",    "not-home",     "bad-crimp",    "tap",
    "exchanged",     "miscounted",   "short-ground", "short-supply", "short-battery",
    "touching",      "ground-paint", "ground-other", "wrong-feed",   "load-on-sensor-ground",
    "setting",       "other-part",   "drift",        "table",        "plugs-exchanged",
    "dead-cranking", kTwoAtOnce};

} // namespace

Result<Families> readFamilies(std::string_view text)
{
    const auto parsed = document::parse(text);
    if (!parsed)
        return tl::make_unexpected(parsed.error());
    if (auto valid = document::validate(*parsed, kFamiliesSchema); !valid)
        return tl::make_unexpected(valid.error());
    Families out;
    size_t index = 0;
    for (const auto& f : (*parsed)["families"]) {
        const auto id = f["id"].get<std::string>();
        if (!out.try_emplace(id, Family{f["weight"].get<double>(), f["reason"].get<std::string>()}).second)
            return fail(ErrorCode::Reference, phrase("the family \"{}\" is there twice", id),
                        {{}, "/families/" + std::to_string(index) + "/id", 0, 0});
        ++index;
    }
    for (const std::string_view id : kAll)
        if (!out.contains(std::string(id)))
            return fail(ErrorCode::Reference, phrase("the family \"{}\" is missing", std::string(id)),
                        {{}, "/families", 0, 0});
    return out;
}

Result<Families> readFamiliesFile(const std::filesystem::path& file)
{
    return document::inFile(document::readFile(file).and_then([](const std::string& t) { return readFamilies(t); }),
                            file);
}

} // namespace vicegrip::diagnosis
