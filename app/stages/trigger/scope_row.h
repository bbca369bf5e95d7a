#pragma once

#include "app/desk/desk.h"
#include "app/stages/trigger/opened.h"

#include <QWidget>

class QComboBox;
class QLabel;

namespace vicegrip::app {

class KeyButton;
class TypedField;

/// A scope that is swept from here: the bench's, or one on the network. It says where each tip and clip goes.
class ScopeRow : public QWidget
{
    Q_OBJECT

  public:
    explicit ScopeRow(Desk& desk, QWidget* parent = nullptr);
    void refresh();

  signals:
    /// Of a circuit's signal in the first channel, and of the other wheels' in those after it.
    void swept(const std::shared_ptr<const vicegrip::app::Capture>& capture, const vicegrip::job::CircuitId& circuit);

  private:
    struct Channel
    {
        job::CircuitId circuit;
        QString name;
        electrics::Leads leads;
        bool coil = false;
    };
    [[nodiscard]] std::vector<Channel> channels() const;
    void sweep();
    void take(const link::Swept& swept, const std::vector<Channel>& of);

    Desk& m_desk;
    TypedField* m_place;
    QComboBox* m_engine;
    KeyButton* m_sweep;
    QLabel* m_tips;
};

} // namespace vicegrip::app
