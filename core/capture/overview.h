#pragma once

#include "core/capture/seen.h"

#include <cstddef>
#include <span>
#include <vector>

namespace vicegrip::capture {

/// The least and the greatest of any stretch of samples, without looking at all of them: of each 64, of eight of these,
/// and so on. It takes a twenty-eighth of the samples' room besides; they must outlive it.
class Overview
{
  public:
    struct Extent
    {
        float low = 0, high = 0;
        bool operator==(const Extent&) const = default;
    };

    explicit Overview(std::span<const float> volts);

    /// Of samples from `first` on, before `last`; at least one of them, within those there are.
    [[nodiscard]] Extent of(std::size_t first, std::size_t last) const;
    [[nodiscard]] Extent all() const { return of(0, m_volts.size()); }

  private:
    std::span<const float> m_volts;
    std::vector<std::vector<Extent>> m_levels;
};

} // namespace vicegrip::capture
