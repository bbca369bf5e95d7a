#include "app/store/taken.h"

#include <QObject>

#include <algorithm>

namespace vicegrip::app {

Taken::Taken() : m_file(QStringLiteral("finder.json"), 1, QObject::tr("What the finder remembers"))
{
    constexpr int kEnough = 1000000;
    const nlohmann::json members = m_file.read();
    if (const auto taken = members.find("taken"); taken != members.end() && taken->is_object())
        for (const auto& [key, times] : taken->items())
            if (times.is_number_integer() && m_times.size() < kMost)
                m_times[key] = static_cast<int>(std::clamp<std::int64_t>(times.get<std::int64_t>(), 0, kEnough));
}

int Taken::times(const std::string& key) const
{
    const auto it = m_times.find(key);
    return it == m_times.end() ? 0 : it->second;
}

void Taken::add(const std::string& key)
{
    if (key.empty())
        return;
    ++m_times[key];
    while (m_times.size() > kMost)
        m_times.erase(std::ranges::min_element(
            m_times, {}, [&](const auto& t) { return t.first == key ? t.second + 1 : t.second; }));
    m_file.write({{"taken", m_times}});
}

} // namespace vicegrip::app
