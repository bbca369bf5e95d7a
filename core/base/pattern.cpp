#include "core/base/pattern.h"

#include "core/base/phrase.h"
#include "core/base/utf8.h"

#include <algorithm>
#include <array>
#include <map>
#include <re2/re2.h>
#include <utility>

namespace vicegrip::document {
namespace {

using Json = nlohmann::json;
using Mismatch = Patterns::Mismatch;

constexpr size_t kShown = 40; ///< letters of a text that are worth repeating

/// Patterns are written for programs; this is for people.
std::string wantedBy(const std::string& pattern)
{
    static constexpr std::array<std::pair<std::string_view, std::string_view>, 5> kWords = {
        {{"^[A-Za-z0-9+_-]+$", key("letters, digits, +, - and _ only")},
         {"^[A-Za-z0-9+._-]+$", key("letters, digits, +, -, . and _ only")},
         {"^[A-Za-z0-9+._-]*$", key("letters, digits, +, -, . and _ only")},
         {"^[A-Za-z0-9+_-]+(\\.[A-Za-z0-9+_-]+)?$", key("a place such as A.7 or BAT-")},
         {"^([A-Z]{2,4}(/[A-Z]{2})?)?$", key("a wire's colour such as BU or BU/WH")}}};
    for (const auto& [known, words] : kWords)
        if (pattern == known)
            return phrase(words);
    return phrase("a text of the form {}", pattern);
}

std::string escaped(const std::string& member)
{
    std::string out;
    for (char c : member)
        out += c == '~' ? "~0" : c == '/' ? "~1" : std::string(1, c);
    return out;
}

/// As much of a text as is worth repeating, cut between letters; what would break the line it is said in is not.
std::string shown(std::string text)
{
    std::ranges::replace_if(
        text, [](unsigned char c) { return c < 0x20 || c == 0x7F; }, '?');
    if (text.size() <= kShown)
        return text;
    return std::string(cutTo(text, kShown)) + "...";
}

} // namespace

struct Patterns::Work
{
    Json schema; ///< with its patterns
    std::map<std::string, std::unique_ptr<re2::RE2>> compiled;

    /// A schema's "pattern" is a text; a member that is named so is a schema, and stays.
    void take(Json& from)
    {
        if (from.is_object()) {
            const auto it = from.find("pattern");
            if (it != from.end() && it->is_string()) {
                const auto pattern = it->get<std::string>();
                compiled.try_emplace(pattern, std::make_unique<re2::RE2>(pattern));
                from.erase(it);
            }
        }
        if (from.is_structured())
            for (Json& each : from)
                take(each);
    }

    [[nodiscard]] const Json& resolved(const Json& node) const
    {
        const auto ref = node.find("$ref");
        return ref == node.end() ? node : schema.at(Json::json_pointer(ref->get<std::string>().substr(1)));
    }

    [[nodiscard]] std::optional<Mismatch> mismatch(const Json& wanted, const Json& value,
                                                   const std::string& pointer) const
    {
        const Json& node = resolved(wanted);
        if (!node.is_object())
            return std::nullopt;
        if (value.is_string())
            if (const auto it = node.find("pattern"); it != node.end() && it->is_string()) {
                const auto& text = value.get_ref<const std::string&>();
                if (!re2::RE2::PartialMatch(text, *compiled.at(it->get<std::string>())))
                    return Mismatch{pointer, phrase("\"{}\" is not {}", shown(text), wantedBy(it->get<std::string>()))};
            }
        if (auto inside = value.is_object()  ? inObject(node, value, pointer)
                          : value.is_array() ? inArray(node, value, pointer)
                                             : std::nullopt)
            return inside;
        return inChoices(node, value, pointer);
    }

    [[nodiscard]] std::optional<Mismatch> inObject(const Json& node, const Json& value,
                                                   const std::string& pointer) const
    {
        const auto named = node.find("properties"), others = node.find("additionalProperties");
        for (const auto& [member, inside] : value.items()) {
            const Json* wanted = nullptr;
            if (named != node.end() && named->contains(member))
                wanted = &(*named)[member];
            else if (others != node.end() && others->is_object())
                wanted = &*others;
            if (wanted != nullptr)
                if (auto found = mismatch(*wanted, inside, pointer + "/" + escaped(member)))
                    return found;
        }
        return std::nullopt;
    }

    [[nodiscard]] std::optional<Mismatch> inArray(const Json& node, const Json& value, const std::string& pointer) const
    {
        const auto items = node.find("items");
        for (size_t i = 0; items != node.end() && i < value.size(); ++i)
            if (auto found = mismatch(*items, value[i], pointer + "/" + std::to_string(i)))
                return found;
        return std::nullopt;
    }

    [[nodiscard]] std::optional<Mismatch> inChoices(const Json& node, const Json& value,
                                                    const std::string& pointer) const
    {
        std::optional<Mismatch> last;
        const auto choices = node.find("oneOf");
        for (size_t i = 0; choices != node.end() && i < choices->size(); ++i) {
            last = mismatch((*choices)[i], value, pointer);
            if (!last)
                return std::nullopt;
        }
        return last;
    }
};

Patterns::Patterns(Json& schema) : m_work(new Work{schema, {}})
{
    m_work->take(schema);
}

Patterns::~Patterns() = default;
Patterns::Patterns(Patterns&&) noexcept = default;
Patterns& Patterns::operator=(Patterns&&) noexcept = default;

std::optional<Mismatch> Patterns::mismatch(const Json& document) const
{
    return m_work->mismatch(m_work->schema, document, "");
}

} // namespace vicegrip::document
