#include "core/brief/firing_order.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <cctype>

namespace vicegrip::brief {
namespace {

bool isDigit(char c)
{
    return std::isdigit(static_cast<unsigned char>(c)) != 0;
}

/// The numbers of a text; a run of digits is one number, or so many of one digit each.
std::vector<int> numbersIn(std::string_view typed, bool digitByDigit)
{
    std::vector<int> out;
    bool inside = false;
    for (const char c : typed) {
        const int digit = c - '0';
        if (isDigit(c) && inside && !digitByDigit && out.back() < 1000)
            out.back() = out.back() * 10 + digit;
        else if (isDigit(c))
            out.push_back(digit);
        inside = isDigit(c);
    }
    return out;
}

} // namespace

Result<void> checkEachOnce(const std::vector<int>& cylinders, int count)
{
    for (const int each : cylinders)
        if (each < 1 || each > count)
            return fail(ErrorCode::Range, phrase("there is no cylinder {}: the engine has {}", std::to_string(each),
                                                 std::to_string(count)));
    for (int cylinder = 1; cylinder <= count; ++cylinder) {
        const auto times = std::ranges::count(cylinders, cylinder);
        if (times != 1)
            return fail(ErrorCode::Range, phrase(times == 0 ? key("cylinder {} is missing: each is there once")
                                                            : key("cylinder {} is there twice: each is there once"),
                                                 std::to_string(cylinder)));
    }
    return {};
}

Result<std::vector<int>> firingOrderFrom(std::string_view typed, int cylinders)
{
    const auto strange = std::ranges::find_if(
        typed, [](char c) { return !isDigit(c) && std::string_view("-,;/. \t").find(c) == std::string_view::npos; });
    if (strange != typed.end())
        return fail(ErrorCode::Range, phrase("expected the cylinders in the order they fire, such as 1-3-4-2"));
    std::vector<int> order = numbersIn(typed, false);
    if (order.size() == 1 && cylinders > 1 && cylinders < 10)
        order = numbersIn(typed, true);
    if (auto sound = checkEachOnce(order, cylinders); !sound)
        return tl::make_unexpected(sound.error());
    return order;
}

std::string firingOrderText(const std::vector<int>& order)
{
    std::string out;
    for (const int each : order)
        out += (out.empty() ? "" : "-") + std::to_string(each);
    return out;
}

std::optional<int> companionOf(const std::vector<int>& order, int cylinder)
{
    const auto it = std::ranges::find(order, cylinder);
    if (it == order.end() || order.size() % 2 != 0)
        return std::nullopt;
    return order[(static_cast<size_t>(it - order.begin()) + order.size() / 2) % order.size()];
}

std::vector<std::pair<int, int>> companions(const std::vector<int>& order)
{
    std::vector<std::pair<int, int>> out;
    for (size_t i = 0; order.size() % 2 == 0 && i < order.size() / 2; ++i)
        out.emplace_back(order[i], order[i + order.size() / 2]);
    return out;
}

} // namespace vicegrip::brief
