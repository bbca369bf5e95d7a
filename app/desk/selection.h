#pragma once

#include "core/job/job.h"

#include <QObject>

/// One thing is selected: a circuit, the place on it, and the condition the car is in. It stays while stages change.
namespace vicegrip::app {

class Selection : public QObject
{
    Q_OBJECT

  public:
    using QObject::QObject;

    [[nodiscard]] const job::CircuitId& circuit() const { return m_circuit; }
    [[nodiscard]] const std::string& station() const { return m_station; }
    [[nodiscard]] job::Condition condition() const { return m_condition; }
    /// What the ECU is heard under: the condition, or the key on where nothing is live.
    [[nodiscard]] job::Condition heardUnder() const
    {
        return job::isLive(m_condition) ? m_condition : job::Condition::KeyOn;
    }

    /// The name of what is selected in the brief while it is not a circuit of the job; then no circuit is.
    [[nodiscard]] const std::string& wish() const { return m_wish; }

    void setCircuit(const job::CircuitId& circuit, const std::string& wish = {})
    {
        if (circuit == m_circuit && wish == m_wish)
            return;
        m_circuit = circuit;
        m_wish = wish;
        m_station.clear();
        emit changed();
    }
    /// The place of the selected circuit that tells most of what is wrong with it; empty: nothing points anywhere.
    [[nodiscard]] const std::string& pointed() const { return m_pointed; }
    void setPointed(const std::string& station)
    {
        if (station == m_pointed)
            return;
        m_pointed = station;
        emit pointedChanged();
    }

    void setStation(const std::string& station)
    {
        if (station == m_station)
            return;
        m_station = station;
        emit changed();
    }
    void setCondition(job::Condition condition)
    {
        if (condition == m_condition)
            return;
        m_condition = condition;
        emit conditionChanged(condition);
        emit changed();
    }

  signals:
    void changed();
    void conditionChanged(vicegrip::job::Condition condition);
    void pointedChanged();

  private:
    job::CircuitId m_circuit;
    std::string m_station, m_wish, m_pointed;
    job::Condition m_condition = job::Condition::KeyOn;
};

} // namespace vicegrip::app
