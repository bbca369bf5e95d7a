#include "core/faults/kinds/miscounted.h"

#include <algorithm>

namespace vicegrip::faults {
namespace {

/// The cavities of each row, from the left.
std::vector<std::vector<std::string>> rowsOf(const job::Connector& connector)
{
    auto all = parts::cavities(job::faceOf(connector));
    std::ranges::stable_sort(all, {}, [](const parts::Cavity& c) { return std::pair(c.row, c.place); });
    std::vector<std::vector<std::string>> out;
    for (size_t i = 0; i < all.size(); ++i) {
        if (i == 0 || all[i].row != all[i - 1].row)
            out.emplace_back();
        out.back().push_back(all[i].name);
    }
    return out;
}

} // namespace

Subjects Miscounted::subjects(const job::Job& job) const
{
    std::vector<job::PointRef> all;
    if (const job::Connector* plug = job::findConnector(job, connector))
        for (const std::string& cavity : plug->cavities)
            all.push_back({connector, cavity});
    return wiresAt(job, all);
}

void Miscounted::rewire(job::Job& job) const
{
    const job::Connector* plug = job::findConnector(job, connector);
    if (plug == nullptr)
        return;
    std::map<std::string, std::string> to;
    const auto pair = [&](const std::vector<std::string>& names, auto partner) {
        for (size_t i = 0; i < names.size(); ++i)
            to[names[i]] = names[partner(i, names.size())];
    };
    const auto back = [](size_t i, size_t n) { return n - 1 - i; };
    if (how == Count::Mirrored)
        for (const auto& row : rowsOf(*plug))
            pair(row, back);
    else if (how == Count::OtherEnd)
        pair(plug->cavities, back);
    else
        pair(plug->cavities, [](size_t i, size_t n) { return (i + 1) % n; });
    permute(job, connector, to);
}

} // namespace vicegrip::faults
