#pragma once

#include "app/desk/desk.h"
#include "app/stages/trigger/opened.h"

#include <QWidget>

class QComboBox;

namespace vicegrip::app {

class KeyButton;

/// How a scope is swept from here: the bench's, or one on the network.
class ScopeRow : public QWidget
{
    Q_OBJECT

  public:
    explicit ScopeRow(Desk& desk, QWidget* parent = nullptr);
    void refresh();

    /// Where a scope is that is not the bench's, as `link::addressOf` reads it; empty: nowhere.
    void setPlace(const QString& place) { m_place = place; }
    /// Where each tip and clip goes, and what to mind.
    [[nodiscard]] QString tips() const;
    void sweep();

  signals:
    void tipsChanged();
    void troubled(const QString& sentence); ///< empty: no more
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
    void take(const link::Swept& swept, const std::vector<Channel>& of);

    Desk& m_desk;
    QString m_place;
    QComboBox* m_engine;
    KeyButton* m_sweep;
    bool m_sweeping = false;
};

} // namespace vicegrip::app
