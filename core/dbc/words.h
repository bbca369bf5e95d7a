#pragma once

#include "core/base/result.h"

#include <cstdint>
#include <string>
#include <string_view>
#include <utility>

/// The words of a database file: names, numbers, texts in quotes, and single marks.
namespace vicegrip::dbc {

struct Word
{
    enum class Kind { Name, Number, Text, Mark, End };
    Kind kind = Kind::End;
    std::string_view text; ///< of a text what is between its quotes, as it stands there
    int line = 1, column = 1;
    bool leads = false; ///< the first of its line, at its very beginning

    [[nodiscard]] bool is(std::string_view what) const { return kind != Kind::Text && text == what; }
};

/// One word after the other. What is read must outlive it.
class Words
{
  public:
    explicit Words(std::string_view text) : m_text(text) { next(); }

    [[nodiscard]] const Word& now() const { return m_now; }
    /// To the next word; what it was before. A text without its end stops at the end of all.
    Word next();
    [[nodiscard]] bool isOpen() const { return m_open; } ///< a text had no end

    /// Takes what stands now, or says what is missing. `what`: as a sentence has it.
    [[nodiscard]] Result<Word> word(Word::Kind kind, const std::string& what);
    [[nodiscard]] Result<void> mark(std::string_view which);
    [[nodiscard]] Result<double> number(const std::string& what); ///< finite
    [[nodiscard]] Result<std::uint64_t> whole(const std::string& what, std::uint64_t most); ///< from 0; else Range
    /// Two numbers between brackets.
    [[nodiscard]] Result<std::pair<double, double>> two(std::string_view open, std::string_view between,
                                                        std::string_view close);

    /// An error at the word that stands now.
    [[nodiscard]] tl::unexpected<Error> wrong(std::string sentence) const
    {
        return wrongAt(m_now, std::move(sentence));
    }
    [[nodiscard]] static tl::unexpected<Error> wrongAt(const Word& word, std::string sentence);

  private:
    void pass(size_t count);
    [[nodiscard]] Word read();

    std::string_view m_text;
    size_t m_at = 0;
    int m_line = 1, m_column = 1;
    bool m_open = false;
    Word m_now;
};

/// A text's characters as UTF-8, without the marks that stand before its quotes. What is no UTF-8 is taken for Latin-1.
[[nodiscard]] std::string shownText(std::string_view text);

} // namespace vicegrip::dbc
