#pragma once

#include <QFutureWatcher>
#include <QtConcurrent>

#include <functional>
#include <optional>
#include <stop_token>
#include <type_traits>
#include <utility>

namespace vicegrip::app {

/// What takes longer than a frame, worked out on another thread. One at a time: of what is asked for meanwhile only the
/// newest is begun, and only its answer comes back. Work that takes a stop token is asked by it to end early when its
/// answer is wanted no more: another was asked for, whoever asked is gone, or `stop` was called.
template <class T> class Worked
{
  public:
    using Work = std::function<T(const std::stop_token&)>;

    /// `done` is called on the thread that made this.
    explicit Worked(std::function<void(const T&)> done) : m_done(std::move(done))
    {
        QObject::connect(&m_watcher, &QFutureWatcherBase::finished, &m_watcher, [this] {
            if (m_next)
                start(*std::exchange(m_next, std::nullopt));
            else
                m_done(m_watcher.result());
        });
    }
    ~Worked()
    {
        stop();
        m_watcher.waitForFinished();
    }
    Worked(const Worked&) = delete;
    Worked& operator=(const Worked&) = delete;

    /// `work` must hold what it reads: the job and the window go on meanwhile.
    template <class Asked> void ask(Asked asked)
    {
        Work work;
        if constexpr (std::is_invocable_v<Asked, const std::stop_token&>)
            work = std::move(asked);
        else
            work = [asked = std::move(asked)](const std::stop_token& /*stop*/) { return asked(); };
        if (m_watcher.isRunning()) {
            stop();
            m_next = std::move(work);
        } else { // one that waited was for an answer that is there, but has not been told yet
            m_next.reset();
            start(std::move(work));
        }
    }

    [[nodiscard]] bool isAtWork() const { return m_watcher.isRunning(); }
    /// Its answer comes all the same, and says that it was stopped.
    void stop() { m_stop.request_stop(); }

  private:
    void start(Work work)
    {
        m_stop = {};
        m_watcher.setFuture(
            QtConcurrent::run([work = std::move(work), stop = m_stop.get_token()] { return work(stop); }));
    }

    std::function<void(const T&)> m_done;
    QFutureWatcher<T> m_watcher;
    std::optional<Work> m_next;
    std::stop_source m_stop;
};

} // namespace vicegrip::app
