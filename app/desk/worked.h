#pragma once

#include <QFutureWatcher>
#include <QtConcurrent>

#include <functional>
#include <optional>
#include <utility>

namespace vicegrip::app {

/// What takes longer than a frame, worked out on another thread. One at a time: of what is asked for meanwhile only the
/// newest is begun, and only its answer comes back.
template <class T> class Worked
{
  public:
    using Work = std::function<T()>;

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
    ~Worked() { m_watcher.waitForFinished(); }
    Worked(const Worked&) = delete;
    Worked& operator=(const Worked&) = delete;

    /// `work` must hold what it reads: the job and the window go on meanwhile.
    void ask(Work work)
    {
        if (m_watcher.isRunning())
            m_next = std::move(work);
        else
            start(std::move(work));
    }

  private:
    void start(Work work) { m_watcher.setFuture(QtConcurrent::run(std::move(work))); }

    std::function<void(const T&)> m_done;
    QFutureWatcher<T> m_watcher;
    std::optional<Work> m_next;
};

} // namespace vicegrip::app
