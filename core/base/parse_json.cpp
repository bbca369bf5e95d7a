#include "core/base/document.h"
#include "core/base/old_names.h"
#include "core/base/phrase.h"

#include <algorithm>
#include <set>

namespace vicegrip::document {
namespace {

using Json = nlohmann::json;

constexpr size_t kMostValues =
    1'200'000; // in the largest file we can write; a file of nothing but {} takes 80 bytes each

Place placeOfByte(std::string_view text, size_t byte)
{
    const std::string_view before = text.substr(0, std::min(byte == 0 ? 0 : byte - 1, text.size()));
    const auto line = 1 + std::count(before.begin(), before.end(), '\n');
    const size_t start = before.rfind('\n');
    const size_t column = start == std::string_view::npos ? before.size() + 1 : before.size() - start;
    return {{}, {}, static_cast<int>(line), static_cast<int>(column)};
}

std::string megabytes(size_t bytes)
{
    return std::to_string(bytes >> 20U) + " MB";
}

/// Builds the document as it is read, and stops where it is no longer one of ours: RFC 8259 leaves open what a second
/// member of the same name means, so there is none here.
class Reader : public Json::json_sax_t
{
  public:
    explicit Reader(std::string_view text) : m_text(text) {}

    [[nodiscard]] Json& document() { return m_root; }
    [[nodiscard]] const std::optional<Error>& error() const { return m_error; }

    bool null() override { return add(nullptr); }
    bool boolean(bool value) override { return add(value); }
    bool number_integer(number_integer_t value) override { return add(value); }
    bool number_unsigned(number_unsigned_t value) override { return add(value); }
    bool number_float(number_float_t value, const string_t&) override { return add(value); }
    bool string(string_t& value) override { return add(std::move(value)); }
    bool binary(binary_t&) override { return false; } // no such thing in text
    bool start_object(size_t) override { return open(Json::object()); }
    bool start_array(size_t) override { return open(Json::array()); }
    bool end_object() override { return close(); }
    bool end_array() override { return close(); }

    bool key(string_t& name) override
    {
        Level& at = m_levels.back();
        if (at.value->contains(name)) {
            at.key = name;
            return refuse(ErrorCode::Malformed, phrase("the member stands here twice"), {{}, pointer(), 0, 0});
        }
        at.key = std::move(name);
        return true;
    }

    bool parse_error(size_t byte, const std::string&, const Json::exception& e) override
    {
        constexpr int kNumberOverflow = 406;
        const Place place = placeOfByte(m_text, byte);
        if (e.id == kNumberOverflow)
            return refuse(ErrorCode::Malformed, phrase("the number is too large to be one"), place);
        if (byte > m_text.size())
            return refuse(ErrorCode::Malformed,
                          m_text.empty() ? phrase("the file is empty")
                                         : phrase("the file ends too early: it was cut off"),
                          place);
        return refuse(ErrorCode::Malformed, phrase("this is not valid JSON here"), place);
    }

  private:
    struct Level
    {
        Json* value;
        std::string key; ///< of an object: the member that is being read
    };

    bool refuse(ErrorCode code, std::string sentence, Place place)
    {
        m_error = Error{code, std::move(sentence), std::move(place)};
        return false;
    }

    /// JSON pointer of what is being read (RFC 6901).
    [[nodiscard]] std::string pointer() const
    {
        nlohmann::json_pointer<std::string> out;
        for (const Level& level : m_levels)
            level.value->is_object() ? out.push_back(level.key)
                                     : out.push_back(std::to_string(level.value->size() - 1));
        return out.to_string();
    }

    Json* place(Json value)
    {
        if (++m_values > kMostValues) {
            refuse(ErrorCode::TooBig, phrase("the file holds more values than any job needs"), {});
            return nullptr;
        }
        if (m_levels.empty()) {
            m_root = std::move(value);
            return &m_root;
        }
        Level& at = m_levels.back();
        if (at.value->is_array()) {
            at.value->push_back(std::move(value));
            return &at.value->back();
        }
        return &(at.value->operator[](at.key) = std::move(value));
    }
    bool add(Json value) { return place(std::move(value)) != nullptr; }
    bool open(Json container)
    {
        if (m_levels.size() >= kDeepest)
            return refuse(ErrorCode::TooBig, phrase("the file nests deeper than {} levels", std::to_string(kDeepest)),
                          {});
        Json* const value = place(std::move(container));
        if (value != nullptr)
            m_levels.push_back({value, {}});
        return value != nullptr;
    }
    bool close()
    {
        m_levels.pop_back();
        return true;
    }

    std::string_view m_text;
    Json m_root;
    std::vector<Level> m_levels;
    size_t m_values = 0;
    std::optional<Error> m_error;
};

} // namespace

Error tooLarge(size_t most)
{
    return {ErrorCode::TooBig, phrase("the file is larger than {}, which no job needs", megabytes(most)), {}};
}

Result<Json> parse(std::string_view text)
{
    if (text.size() > kLargestBytes)
        return tl::make_unexpected(tooLarge(kLargestBytes));
    if (const size_t nul = text.find('\0'); nul != std::string_view::npos) // the parser takes it for the end
        return fail(ErrorCode::Malformed, phrase("the file holds a zero byte: it is damaged, or no text"),
                    placeOfByte(text, nul + 1));
    Reader reader(text);
    try {
        if (Json::sax_parse(text, &reader)) {
            old_names::renew(reader.document());
            return std::move(reader.document());
        }
    } catch (const std::exception&) {
        return fail(ErrorCode::TooBig, phrase("the file needs more memory than there is"));
    }
    return tl::make_unexpected(
        reader.error().value_or(Error{ErrorCode::Malformed, phrase("this is not valid JSON"), {}}));
}

} // namespace vicegrip::document
