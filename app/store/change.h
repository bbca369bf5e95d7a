#pragma once

#include "core/base/result.h"
#include "core/job/job.h"

#include <functional>
#include <type_traits>
#include <utility>

namespace vicegrip::app {

/// What an edit does to the job. One that can fail returns what went wrong, and the edit is refused with it; one that
/// cannot returns nothing.
class Change
{
  public:
    template <class Act>
    requires std::is_invocable_v<Act&, job::Job&> Change(Act act)
        : m_act(whole(std::move(act))) {} // NOLINT(google-explicit-constructor): written as a lambda

    [[nodiscard]] Result<void> operator()(job::Job& job) const { return m_act(job); }

  private:
    template <class Act> static std::function<Result<void>(job::Job&)> whole(Act act)
    {
        if constexpr (std::is_void_v<std::invoke_result_t<Act&, job::Job&>>)
            return [act = std::move(act)](job::Job& job) mutable -> Result<void> {
                act(job);
                return {};
            };
        else
            return act;
    }

    std::function<Result<void>(job::Job&)> m_act;
};

} // namespace vicegrip::app
