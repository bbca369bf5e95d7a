#pragma once

#include "app/desk/desk.h"
#include "app/desk/worked.h"

#include <QObject>
#include <QTimer>

#include <vector>

namespace vicegrip::app {

/// Walks a sensor over its range on the bench and compares what the ECU returns with the measurand.
class Verifier : public QObject
{
    Q_OBJECT

  public:
    explicit Verifier(Desk& desk, QObject* parent = nullptr);

    struct Place
    {
        double applied = 0, returned = 0; ///< SI
        double allowed = 0; ///< the error budget there, and a step of the value
        double reading = 0;
        [[nodiscard]] bool right() const { return std::abs(returned - applied) <= allowed; }
    };

    /// Why it cannot be done now; empty when it can.
    [[nodiscard]] QString obstacle() const;
    /// Begins, or gives up when it is under way.
    void toggle();
    [[nodiscard]] bool isRunning() const { return m_running; }
    [[nodiscard]] const std::vector<Place>& places() const { return m_places; }

  signals:
    void progressed(); ///< a place more
    void finished(const QString& verdict, bool good);

  private:
    /// The errors allowed at the places of a circuit of an analysis.
    struct Allowed
    {
        AnalysisPtr analysis;
        job::CircuitId circuit;
        std::vector<double> errors;
    };
    void begin(const Allowed& allowed);
    void applyNext();
    void compare();
    void end(const QString& verdict, bool good);

    Desk& m_desk;
    QTimer m_timer; ///< the ECU's filter and the link settle
    int m_looks = 0; ///< at this place
    job::CircuitId m_circuit;
    AnalysisPtr m_analysis;
    std::vector<double> m_values, m_allowed; ///< by place
    std::vector<Place> m_places;
    bool m_running = false;
    Worked<Allowed> m_worked{[this](const Allowed& allowed) { begin(allowed); }};
};

} // namespace vicegrip::app
