#pragma once

#include "core/lookup/entries.h"

#include <functional>
#include <string>
#include <string_view>
#include <vector>

namespace vicegrip::lookup {

/// Entries, made ready to be searched as somebody types. Every word that is typed must be in an entry, in any order: as
/// a word of it, the beginning of one, a part, or a word's first letter with more of its letters in order ("clt" is in
/// "Coolant temp"). Upper and lower case are one, and a point within a word is nothing: "a.7" is "A7".
///
///     Search search(entriesOf(analysis));
///     for (size_t i : search.find("a7", 12))   // "Cavity A7" before "Cavity A17"
///         show(search.entries()[i]);
class Search
{
  public:
    explicit Search(std::vector<Entry> entries);

    [[nodiscard]] const std::vector<Entry>& entries() const { return m_entries; }

    /// The best `most`, best first, as indices. `favour` adds to an entry's score for how often it was taken: a word
    /// met exactly is worth 100. Without a word typed those that are favoured come first, then actions and spots.
    [[nodiscard]] std::vector<size_t> find(std::string_view typed, size_t most,
                                           const std::function<int(const Entry&)>& favour = {}) const;

  private:
    struct Ready
    {
        std::string text, detail, also; ///< folded, words between single blanks
    };

    std::vector<Entry> m_entries;
    std::vector<Ready> m_ready;
};

} // namespace vicegrip::lookup
