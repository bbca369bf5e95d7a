#pragma once

#include <memory>
#include <nlohmann/json.hpp>
#include <optional>
#include <string>

/// The patterns of a JSON Schema, checked apart from the rest of it: the schema library's matcher goes a call deeper
/// with each letter, and one long text ends the program. RE2 takes as much time as the text is long, and no stack.
namespace vicegrip::document {

class Patterns
{
  public:
    /// Takes every "pattern" out of the schema, which must be valid, and keeps it.
    explicit Patterns(nlohmann::json& schema);
    ~Patterns();
    Patterns(Patterns&&) noexcept;
    Patterns& operator=(Patterns&&) noexcept;

    struct Mismatch
    {
        std::string pointer; ///< JSON pointer of the text
        std::string sentence; ///< what it is, and what is wanted there
    };
    /// The first text of the document that is not as its pattern wants it. Of several schemas it may follow (oneOf) one
    /// has to be content.
    [[nodiscard]] std::optional<Mismatch> mismatch(const nlohmann::json& document) const;

  private:
    struct Work;
    std::unique_ptr<Work> m_work;
};

} // namespace vicegrip::document
