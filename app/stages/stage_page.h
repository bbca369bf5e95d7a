#pragma once

#include "app/desk/desk.h"

#include <QWidget>

namespace vicegrip::app {

/// What a user can describe for himself.
enum class PartKind { Sensor, Ecu, Connector };

/// A stage. It draws from the desk when told to, and edits through the store only.
class StagePage : public QWidget
{
    Q_OBJECT

  public:
    StagePage(Desk& desk, QWidget* parent) : QWidget(parent), m_desk(desk) {}

    virtual void refresh() = 0; ///< job, analysis or selection changed
    virtual void refreshLive() {} ///< new samples
    [[nodiscard]] virtual bool wantsList() const { return true; } ///< the circuit list stands beside it

  signals:
    void goTo(vicegrip::analysis::Stage stage);
    void notice(const QString& sentence);
    void roomChanged(); ///< wantsList may answer otherwise
    void describePart(vicegrip::app::PartKind what); ///< write one's own

  protected:
    Desk& m_desk; // NOLINT(cppcoreguidelines-non-private-member-variables-in-classes): what every stage is for
};

} // namespace vicegrip::app
