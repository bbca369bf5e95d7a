#pragma once

#include "app/desk/desk.h"

#include <QObject>
#include <QTimer>

#include <vector>

namespace vicegrip::app {

class Verifier;

/// Every table of the job sent to the ECU and compared at ten places, one circuit after the other, while the page
/// follows.
class VerifyRound : public QObject
{
    Q_OBJECT

  public:
    VerifyRound(Desk& desk, Verifier& verifier, QObject* parent);

    /// Begins, or gives up while it runs.
    void toggle();
    [[nodiscard]] bool isRunning() const { return m_running; }

  signals:
    void said(const QString& sentence, bool bad);
    void ended();

  private:
    void next();
    void compare();
    void taken(const QString& verdict, bool good);
    void end(const QString& sentence, bool bad);

    Desk& m_desk;
    Verifier& m_verifier;
    QTimer m_settle;
    std::vector<job::CircuitId> m_left; ///< the next one last
    int m_right = 0;
    QStringList m_wrong; ///< circuits, with what was said of each
    bool m_running = false;
};

} // namespace vicegrip::app
