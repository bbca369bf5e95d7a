#pragma once

#include "app/desk/desk.h"

#include <QAbstractTableModel>

/// Circuits as rows: what each is, what the ECU says of it now, and its state at the stages that keep one.
namespace vicegrip::app {

class BoardModel : public QAbstractTableModel
{
    Q_OBJECT

  public:
    enum Column { Name, Signal, Input, Volts, Value, Pins, Meter, Scale, kColumns };
    enum Role {
        StateRole = Qt::UserRole, ///< proof::State of a stage's cell, as int
        CircuitRole
    }; ///< the row's circuit id

    explicit BoardModel(Desk& desk, QObject* parent = nullptr) : QAbstractTableModel(parent), m_desk(desk) {}

    void refresh();
    void refreshLive();
    [[nodiscard]] int rowOf(const job::CircuitId& circuit) const;

    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] int columnCount(const QModelIndex&) const override { return kColumns; }
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    [[nodiscard]] QVariant headerData(int section, Qt::Orientation orientation, int role) const override;

  private:
    /// What the ECU reports of a circuit.
    struct Now
    {
        QString shown, verdict;
        bool off = false; ///< outside what is promised at rest
    };
    [[nodiscard]] Now now(const proof::CircuitView& view, Column column) const;

    Desk& m_desk;
    AnalysisPtr m_analysis;
};

} // namespace vicegrip::app
