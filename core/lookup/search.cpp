#include "core/lookup/search.h"

#include <algorithm>
#include <optional>

namespace vicegrip::lookup {
namespace {

constexpr int kWord = 100, kBeginning = 70, kPart = 35, kLetters = 25; ///< what one word typed is worth
constexpr int kLonger = 3, kMostLonger = 30; ///< off a beginning, for each letter the word has more

/// Small letters and digits, words between single blanks; points and hyphens join what they stand in.
std::string folded(std::string_view text)
{
    std::string out;
    for (const char c : text) {
        if (c >= 'A' && c <= 'Z')
            out += static_cast<char>(c - 'A' + 'a');
        else if ((c >= 'a' && c <= 'z') || (c >= '0' && c <= '9') || static_cast<unsigned char>(c) >= 0x80)
            out += c;
        else if (c != '.' && c != '-' && !out.empty() && out.back() != ' ')
            out += ' ';
    }
    if (!out.empty() && out.back() == ' ')
        out.pop_back();
    return out;
}

std::vector<std::string> wordsOf(std::string_view typed)
{
    std::vector<std::string> out;
    const std::string all = folded(typed);
    for (size_t at = 0; at < all.size();) {
        const size_t end = std::min(all.find(' ', at), all.size());
        out.push_back(all.substr(at, end - at));
        at = end + 1;
    }
    return out;
}

/// Whether the letters are in the text in order, the first of them at the beginning of a word.
bool hasLetters(std::string_view text, std::string_view letters)
{
    for (size_t at = 0; at < text.size(); ++at) {
        if (text[at] != letters.front() || (at > 0 && text[at - 1] != ' '))
            continue;
        size_t next = 1;
        for (size_t i = at + 1; i < text.size() && next < letters.size(); ++i)
            next += text[i] == letters[next] ? 1 : 0;
        if (next == letters.size())
            return true;
    }
    return false;
}

/// What a word is worth in a text; 0: it is not there. `loosely`: letters in order will do.
int worth(std::string_view text, std::string_view word, bool loosely)
{
    int best = 0;
    for (size_t at = text.find(word); at != std::string_view::npos; at = text.find(word, at + 1)) {
        const size_t end = std::min(text.find(' ', at), text.size());
        const auto longer = static_cast<int>(end - at - word.size());
        const bool begins = at == 0 || text[at - 1] == ' ';
        best = std::max(best, !begins       ? kPart
                              : longer == 0 ? kWord
                                            : kBeginning - std::min(kMostLonger, kLonger * longer));
        if (best == kWord)
            break;
    }
    constexpr size_t kFewest = 3; // two letters are in everything
    if (best == 0 && loosely && word.size() >= kFewest && hasLetters(text, word))
        best = kLetters;
    return best;
}

} // namespace

Search::Search(std::vector<Entry> entries) : m_entries(std::move(entries))
{
    for (const Entry& e : m_entries)
        m_ready.push_back({folded(e.text), folded(e.detail), folded(e.also)});
}

std::vector<size_t> Search::find(std::string_view typed, size_t most,
                                 const std::function<int(const Entry&)>& favour) const
{
    struct Hit
    {
        int score;
        size_t entry;
    };
    const std::vector<std::string> words = wordsOf(typed);
    const std::string whole = folded(typed);
    std::vector<Hit> hits;
    for (size_t i = 0; i < m_entries.size(); ++i) {
        const Ready& r = m_ready[i];
        int score = favour ? favour(m_entries[i]) : 0;
        if (words.empty() && score == 0 && m_entries[i].kind > Kind::Spot)
            continue; // a job has thousands: what somebody means of them has a name
        bool all = true;
        for (const std::string& word : words) {
            // What else is said of it weighs half of what it is called.
            const int best =
                std::max({worth(r.text, word, true), worth(r.also, word, false), worth(r.detail, word, false) / 2});
            all = all && best > 0;
            score += best;
        }
        if (!all)
            continue;
        if (!whole.empty() && (r.text == whole || r.also == whole))
            score += kWord;
        hits.push_back({score, i});
    }
    const auto before = [&](const Hit& a, const Hit& b) {
        if (a.score != b.score)
            return a.score > b.score;
        const Entry &x = m_entries[a.entry], &y = m_entries[b.entry];
        if (x.kind != y.kind)
            return x.kind < y.kind;
        if (!words.empty() && x.text.size() != y.text.size())
            return x.text.size() < y.text.size();
        return a.entry < b.entry;
    };
    const size_t kept = std::min(most, hits.size());
    std::ranges::partial_sort(hits, hits.begin() + static_cast<std::ptrdiff_t>(kept), before);
    std::vector<size_t> out;
    for (size_t i = 0; i < kept; ++i)
        out.push_back(hits[i].entry);
    return out;
}

} // namespace vicegrip::lookup
