#include "core/brief/banks.h"

#include "core/base/phrase.h"
#include "core/brief/firing_order.h"

#include <algorithm>

namespace vicegrip::brief {
namespace {

std::string_view trimmed(std::string_view text)
{
    constexpr std::string_view kSpace = " \t-:";
    const size_t first = text.find_first_not_of(kSpace);
    return first == std::string_view::npos ? std::string_view()
                                           : text.substr(first, text.find_last_not_of(kSpace) - first + 1);
}

/// "left 1-3-5": a name, which may end in no digit, and numbers.
Result<job::Bank> bankFrom(std::string_view typed)
{
    const size_t digits = typed.find_first_of("0123456789");
    const std::string_view name = trimmed(typed.substr(0, digits));
    constexpr size_t kLongestName = 40;
    if (digits == std::string_view::npos || name.empty() || name.size() > kLongestName)
        return fail(ErrorCode::Range, phrase("expected a name and its cylinders, such as left 1 3 5, right 2 4 6"));
    job::Bank out{std::string(name), {}};
    bool inside = false;
    for (const char c : typed.substr(digits)) {
        const bool digit = c >= '0' && c <= '9';
        if (!digit && std::string_view(" -.\t").find(c) == std::string_view::npos)
            return fail(ErrorCode::Range, phrase("expected a name and its cylinders, such as left 1 3 5, right 2 4 6"));
        if (digit && inside && out.cylinders.back() < 1000)
            out.cylinders.back() = out.cylinders.back() * 10 + (c - '0');
        else if (digit)
            out.cylinders.push_back(c - '0');
        inside = digit;
    }
    return out;
}

} // namespace

Result<void> checkBanks(const std::vector<job::Bank>& banks, int cylinders)
{
    if (banks.empty())
        return {};
    if (banks.size() != 2)
        return fail(ErrorCode::Range, phrase("an engine has two banks, or is in line"));
    if (banks[0].name == banks[1].name)
        return fail(ErrorCode::Range, phrase("both banks are called {}", banks[0].name));
    std::vector<int> all;
    for (const job::Bank& b : banks) {
        if (b.cylinders.empty())
            return fail(ErrorCode::Range, phrase("no cylinder is on the {} bank", b.name));
        all.insert(all.end(), b.cylinders.begin(), b.cylinders.end());
    }
    return checkEachOnce(all, cylinders);
}

Result<std::vector<job::Bank>> banksFrom(std::string_view typed, int cylinders)
{
    std::vector<job::Bank> out;
    while (!trimmed(typed).empty()) {
        const size_t end = typed.find_first_of(",;/");
        auto bank = bankFrom(typed.substr(0, end));
        if (!bank)
            return tl::make_unexpected(bank.error());
        out.push_back(std::move(*bank));
        typed = end == std::string_view::npos ? std::string_view() : typed.substr(end + 1);
    }
    if (auto sound = checkBanks(out, cylinders); !sound)
        return tl::make_unexpected(sound.error());
    return out;
}

std::string banksText(const std::vector<job::Bank>& banks)
{
    std::string out;
    for (const job::Bank& b : banks)
        out += (out.empty() ? "" : ", ") + b.name + " " + firingOrderText(b.cylinders);
    return out;
}

std::string bankOf(const std::vector<job::Bank>& banks, int cylinder)
{
    for (const job::Bank& b : banks)
        if (std::ranges::find(b.cylinders, cylinder) != b.cylinders.end())
            return b.name;
    return {};
}

} // namespace vicegrip::brief
