#include "core/dbc/read.h"

#include "core/base/document.h"
#include "core/base/phrase.h"
#include "core/dbc/overlaps.h"
#include "core/dbc/words.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <tuple>

namespace vicegrip::dbc {
namespace {

using Kind = Word::Kind;

constexpr std::uint32_t kExtended = 0x80000000, kMostExtended = 0x1FFFFFFF, kMostStandard = 0x7FF;
/// Signals that belong to no message stand under this one.
constexpr std::uint32_t kOfNoMessage = 0xC0000000;

class Reader
{
  public:
    explicit Reader(std::string_view text) : m_words(text) {}

    Result<ReadDatabase> all()
    {
        while (now().kind != Kind::End)
            if (auto done = statement(); !done)
                return tl::make_unexpected(done.error());
        if (m_words.isOpen())
            return m_words.wrong(phrase("a text has no end"));
        std::vector<Message> messages;
        for (Listed& m : m_messages) {
            if (auto done = settle(m); !done)
                return tl::make_unexpected(done.error());
            for (const auto& [one, other] : overlaps(m.message))
                remark(m.said[one].name, phrase("{} and {} lie in the same bits of {}", m.message.carries[one].name,
                                                m.message.carries[other].name, m.message.name));
            messages.push_back(std::move(m.message));
        }
        return ReadDatabase{Database(std::move(messages)), std::move(m_remarks)};
    }

  private:
    /// A signal's place in the text, and by which value of the one that chooses it is there.
    struct Said
    {
        Word name;
        std::optional<std::uint64_t> chosenBy;
    };
    struct Listed
    {
        Message message;
        std::vector<Said> said; ///< by signal
    };

    [[nodiscard]] const Word& now() const { return m_words.now(); }

    Result<void> statement()
    {
        if (now().is("BO_"))
            return message();
        if (now().is("SG_"))
            return signal();
        if (now().is("VAL_"))
            return valueNames();
        if (now().is("SIG_VALTYPE_"))
            return coding();
        if (now().is("SG_MUL_VAL_"))
            return ranges();
        if (now().is("NS_")) { // the words it lists begin other statements
            m_words.next();
            while (now().kind != Kind::End && !now().is("BS_") && !now().is("BU_") && !now().is("BO_"))
                m_words.next();
            return {};
        }
        skip();
        return {};
    }

    /// To the end of a statement that is none of ours, or to what begins a line.
    void skip()
    {
        m_words.next();
        while (now().kind != Kind::End && !now().is(";") && !(now().leads && now().kind == Kind::Name))
            m_words.next();
        if (now().is(";"))
            m_words.next();
    }

    Result<void> message()
    {
        m_words.next();
        m_current = nullptr;
        const Word at = now();
        const auto id = m_words.whole(phrase("an identifier"), 0xFFFFFFFF);
        if (!id)
            return tl::make_unexpected(id.error());
        Listed listed;
        const auto name = m_words.word(Kind::Name, phrase("the message's name"));
        if (!name)
            return tl::make_unexpected(name.error());
        if (auto colon = m_words.mark(":"); !colon)
            return colon;
        const auto bytes = m_words.whole(phrase("a message's length in bytes"), kMostBytes);
        if (!bytes)
            return tl::make_unexpected(bytes.error());
        if (now().kind == Kind::Name && now().line == name->line) // who sends it
            m_words.next();
        if (*id == kOfNoMessage)
            return {};
        Message& m = listed.message;
        m.extended = (*id & kExtended) != 0;
        m.id = static_cast<std::uint32_t>(*id) & ~kExtended;
        m.name = name->text;
        m.bytes = static_cast<int>(*bytes);
        if (m.id > (m.extended ? kMostExtended : kMostStandard))
            return fail(ErrorCode::Range, phrase("an identifier has 11 bits, or 29 and the flag of those"),
                        {{}, {}, at.line, at.column});
        if (!m_seen.try_emplace(static_cast<std::uint32_t>(*id), m_messages.size()).second)
            return Words::wrongAt(at, phrase("two messages have the identifier {}", std::string(at.text)));
        if (m_messages.size() == kMostMessages)
            return fail(ErrorCode::TooBig, phrase("more than {} messages", std::to_string(kMostMessages)),
                        {{}, {}, at.line, at.column});
        m_messages.push_back(std::move(listed));
        m_current = &m_messages.back();
        return {};
    }

    /// `M`, `m3` or `m3M` after the name.
    Result<void> multiplexing(Signal& s, Said& said)
    {
        if (now().kind != Kind::Name)
            return {};
        std::string_view text = now().text;
        if (text.ends_with('M')) {
            s.chooses = true;
            text.remove_suffix(1);
        }
        if (!text.empty()) {
            std::uint64_t value = 0;
            const auto [end, error] = std::from_chars(text.data() + 1, text.data() + text.size(), value);
            if (text.front() != 'm' || error != std::errc() || end != text.data() + text.size())
                return m_words.wrong(phrase("after a signal's name stands M, m and a number, or a colon"));
            said.chosenBy = value;
        }
        m_words.next();
        return {};
    }

    Result<void> layout(Signal& s)
    {
        const auto start = m_words.whole(phrase("a signal's first bit"), 8 * kMostBytes - 1);
        if (!start)
            return tl::make_unexpected(start.error());
        if (auto bar = m_words.mark("|"); !bar)
            return bar;
        const Word at = now();
        const auto bits = m_words.whole(phrase("a signal's length in bits"), 64);
        if (!bits)
            return tl::make_unexpected(bits.error());
        if (*bits == 0)
            return fail(ErrorCode::Range, phrase("a signal has one bit at least"), {{}, {}, at.line, at.column});
        if (auto sign = m_words.mark("@"); !sign)
            return sign;
        const auto order = m_words.whole(phrase("the order of bytes"), 1);
        if (!order)
            return tl::make_unexpected(order.error());
        s.start = static_cast<int>(*start);
        s.bits = static_cast<int>(*bits);
        s.order = *order == 1 ? ByteOrder::Little : ByteOrder::Big;
        if (!now().is("+") && !now().is("-"))
            return m_words.wrong(phrase("+ or - is missing here: whether the signal has a sign"));
        s.coding = m_words.next().is("-") ? Coding::Signed : Coding::Unsigned;
        return {};
    }

    Result<void> signal()
    {
        m_words.next();
        Signal s;
        Said said;
        const auto name = m_words.word(Kind::Name, phrase("the signal's name"));
        if (!name)
            return tl::make_unexpected(name.error());
        said.name = *name;
        s.name = name->text;
        if (auto done =
                multiplexing(s, said).and_then([&] { return m_words.mark(":"); }).and_then([&] { return layout(s); });
            !done)
            return done;
        const auto line = m_words.two("(", ",", ")");
        const auto range = line ? m_words.two("[", "|", "]") : line;
        if (!range)
            return tl::make_unexpected(range.error());
        std::tie(s.scale, s.offset) = *line;
        if (s.scale == 0)
            return fail(ErrorCode::Range, phrase("the scale of {} is 0", s.name), {{}, {}, name->line, name->column});
        if (range->first < range->second)
            s.range = *range;
        const auto unit = m_words.word(Kind::Text, phrase("the unit, in quotes"));
        if (!unit)
            return tl::make_unexpected(unit.error());
        s.unit = shownText(unit->text);
        while ((now().kind == Kind::Name || now().is(",")) && now().line == unit->line) // who receives it
            m_words.next();
        return keep(std::move(s), said);
    }

    Result<void> keep(Signal s, const Said& said)
    {
        if (m_current == nullptr)
            return {};
        Message& m = m_current->message;
        const Place at{{}, {}, said.name.line, said.name.column};
        if (s.end() > m.bytes)
            return fail(ErrorCode::Range,
                        phrase("{} reaches beyond the {} bytes of {}", s.name, std::to_string(m.bytes), m.name), at);
        if (std::ranges::count(m.carries, s.name, &Signal::name) > 0)
            return fail(ErrorCode::Malformed, phrase("{} has two signals {}", m.name, s.name), at);
        if (m.carries.size() == kMostSignals)
            return fail(ErrorCode::TooBig, phrase("more than {} signals in {}", std::to_string(kMostSignals), m.name),
                        at);
        m.carries.push_back(std::move(s));
        m_current->said.push_back(said);
        return {};
    }

    /// The signal that a later statement names, as `ID NAME`. Null where it is not there: files are full of leftovers.
    Result<Signal*> named()
    {
        const Word at = now();
        const auto id = m_words.whole(phrase("an identifier"), 0xFFFFFFFF);
        const auto name = id ? m_words.word(Kind::Name, phrase("a signal's name")) : tl::make_unexpected(id.error());
        if (!name)
            return tl::make_unexpected(name.error());
        const auto message = m_seen.find(static_cast<std::uint32_t>(*id));
        if (message != m_seen.end())
            for (Signal& s : m_messages[message->second].message.carries)
                if (s.name == name->text)
                    return &s;
        if (*id != kOfNoMessage)
            remark(at, phrase("no message {} has a signal {}", std::string(at.text), std::string(name->text)));
        return nullptr;
    }

    Result<void> valueNames()
    {
        m_words.next();
        if (now().kind != Kind::Number) { // of a variable of the surroundings
            skip();
            return {};
        }
        auto s = named();
        if (!s)
            return tl::make_unexpected(s.error());
        while (now().kind == Kind::Number) {
            const auto value = m_words.number(phrase("a value"));
            const auto name = value ? m_words.word(Kind::Text, phrase("the value's name, in quotes"))
                                    : tl::make_unexpected(value.error());
            if (!name)
                return tl::make_unexpected(name.error());
            constexpr double kMost = 9e18;
            if (*s != nullptr && std::abs(*value) < kMost)
                (*s)->names[static_cast<std::int64_t>(*value)] = shownText(name->text);
        }
        return m_words.mark(";");
    }

    Result<void> coding()
    {
        m_words.next();
        auto s = named();
        if (!s)
            return tl::make_unexpected(s.error());
        if (now().is(":"))
            m_words.next();
        const Word at = now();
        const auto which = m_words.whole(phrase("the coding of a signal"), 3);
        if (!which)
            return tl::make_unexpected(which.error());
        if (*s != nullptr && (*which == 1 || *which == 2)) {
            const int bits = *which == 1 ? 32 : 64;
            if ((*s)->bits != bits)
                return fail(ErrorCode::Range,
                            phrase("{} has {} bits, and a number with a point has {}", (*s)->name,
                                   std::to_string((*s)->bits), std::to_string(bits)),
                            {{}, {}, at.line, at.column});
            (*s)->coding = *which == 1 ? Coding::Float : Coding::Double;
        }
        return m_words.mark(";");
    }

    Result<void> ranges()
    {
        m_words.next();
        auto s = named();
        if (!s)
            return tl::make_unexpected(s.error());
        const auto by = m_words.word(Kind::Name, phrase("the signal that chooses"));
        if (!by)
            return tl::make_unexpected(by.error());
        Multiplexed chosen{std::string(by->text), {}};
        while (!now().is(";")) {
            auto range = rangeOf();
            if (!range)
                return tl::make_unexpected(range.error());
            chosen.values.push_back(*range);
            if (now().is(","))
                m_words.next();
        }
        if (*s != nullptr)
            (*s)->multiplexed = std::move(chosen);
        return m_words.mark(";");
    }

    /// `3-5`: its second half is read as a number with a sign.
    Result<std::pair<std::uint64_t, std::uint64_t>> rangeOf()
    {
        const auto first = m_words.whole(phrase("the first of a range"), ~std::uint64_t{0});
        if (!first)
            return tl::make_unexpected(first.error());
        std::string_view text = now().text;
        if (now().is("-")) {
            m_words.next();
            text = now().text;
        } else if (text.starts_with('-')) {
            text.remove_prefix(1);
        }
        std::uint64_t last = 0;
        const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), last);
        if (now().kind != Kind::Number || error != std::errc() || end != text.data() + text.size() || last < *first)
            return m_words.wrong(phrase("a range stands as its first, a dash and its last"));
        m_words.next();
        return std::pair(*first, last);
    }

    /// Each signal that is there by a value gets the one that chooses it.
    Result<void> settle(Listed& of)
    {
        auto& signals = of.message.carries;
        const auto always = [](const Signal& s) { return s.chooses && !s.multiplexed; };
        for (size_t i = 0; i < signals.size(); ++i) {
            Signal& s = signals[i];
            const Word& at = of.said[i].name;
            if (s.multiplexed && std::ranges::count(signals, s.multiplexed->by, &Signal::name) == 0)
                return Words::wrongAt(
                    at, phrase("{} is chosen by {}, which {} has not", s.name, s.multiplexed->by, of.message.name));
            if (s.multiplexed || !of.said[i].chosenBy)
                continue;
            std::string by;
            for (size_t k = 0; k < signals.size(); ++k)
                if (always(signals[k]) && !of.said[k].chosenBy) {
                    if (!by.empty())
                        return Words::wrongAt(
                            at, phrase("{} is there by a value, and nobody says of which signal", s.name));
                    by = signals[k].name;
                }
            if (by.empty())
                return Words::wrongAt(
                    at, phrase("{} is there by a value, and no signal of {} chooses", s.name, of.message.name));
            s.multiplexed = Multiplexed{by, {{*of.said[i].chosenBy, *of.said[i].chosenBy}}};
        }
        return {};
    }

    void remark(const Word& at, std::string sentence)
    {
        constexpr size_t kMost = 100;
        if (m_remarks.size() < kMost)
            m_remarks.push_back({ErrorCode::Reference, std::move(sentence), {{}, {}, at.line, at.column}});
    }

    Words m_words;
    std::vector<Listed> m_messages;
    std::map<std::uint32_t, size_t> m_seen; ///< by identifier, with its flag
    Listed* m_current = nullptr; ///< null: what comes now belongs to no message
    std::vector<Error> m_remarks;
};

} // namespace

Result<ReadDatabase> read(std::string_view text)
{
    if (text.size() > kMostText)
        return tl::make_unexpected(document::tooLarge(kMostText));
    if (text.starts_with("\xEF\xBB\xBF")) // a mark of the encoding, no word
        text.remove_prefix(3);
    return Reader(text).all();
}

Result<ReadDatabase> readFile(const std::filesystem::path& file)
{
    return document::inFile(
               document::readFile(file, kMostText).and_then([](const std::string& text) { return read(text); }), file)
        .map([&](ReadDatabase&& out) {
            for (Error& remark : out.remarks)
                remark.place.file = file.string();
            return std::move(out);
        });
}

} // namespace vicegrip::dbc
