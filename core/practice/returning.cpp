#include "core/practice/returning.h"

#include <algorithm>
#include <array>

namespace vicegrip::practice {
namespace {

constexpr std::array kIntervals{1, 3, 7, 21}; // rounds
constexpr int kMost = 1000000000;

int count(const nlohmann::json& members, const char* name)
{
    const auto it = members.find(name);
    return it != members.end() && it->is_number_integer() ? std::clamp(it->get<int>(), 0, kMost) : 0;
}

} // namespace

void answered(Record& record, const std::string& family, bool right)
{
    ++record.rounds;
    Record::Kind& kind = record.kinds[family];
    ++(right ? kind.right : kind.wrong);
    kind.step = right ? std::min(kind.step + 1, static_cast<int>(kIntervals.size())) : 0;
    kind.due = record.rounds + (right ? kIntervals[static_cast<size_t>(kind.step - 1)] : kIntervals[0]);
}

bool isDue(const Record& record, const std::string& family)
{
    const auto kind = record.kinds.find(family);
    return kind != record.kinds.end() && kind->second.due <= record.rounds + 1;
}

std::string kindName(std::string family)
{
    std::ranges::replace(family, '-', ' ');
    return family;
}

nlohmann::json written(const Record& record)
{
    nlohmann::json kinds = nlohmann::json::object();
    for (const auto& [family, k] : record.kinds)
        kinds[family] = {{"right", k.right}, {"wrong", k.wrong}, {"step", k.step}, {"due", k.due}};
    return {{"rounds", record.rounds}, {"kinds", kinds}};
}

Record recordOf(const nlohmann::json& members)
{
    Record out;
    if (!members.is_object())
        return out;
    out.rounds = count(members, "rounds");
    const auto kinds = members.find("kinds");
    if (kinds == members.end() || !kinds->is_object())
        return out;
    for (const auto& [family, k] : kinds->items())
        if (k.is_object())
            out.kinds[family] = {count(k, "right"), count(k, "wrong"),
                                 std::min(count(k, "step"), static_cast<int>(kIntervals.size())), count(k, "due")};
    return out;
}

} // namespace vicegrip::practice
