#pragma once

#include "app/desk/desk.h"
#include "core/lookup/entries.h"

#include <QWidget>

#include <vector>

namespace vicegrip::app {

class ViewBar;

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

    /// It can do with the room that the circuit list leaves, and needs no more where the list has to go.
    [[nodiscard]] virtual bool fitsTight() const { return wantsList(); }

    /// A view of this stage, or a field of one, that can be gone to by name.
    struct Spot
    {
        QString key, name;
    };
    [[nodiscard]] virtual std::vector<Spot> spots() const;
    virtual void goToSpot(const QString& key);
    /// The view that is shown, by its key; empty where there is one only.
    [[nodiscard]] QString view() const;
    /// Brings what was looked for into view, where it is shown by this stage: a cavity, a wire, a line of the logbook.
    virtual void goToEntry(const lookup::Entry& /*entry*/) {}

  signals:
    void goTo(vicegrip::analysis::Stage stage);
    void notice(const QString& sentence);
    void roomChanged(); ///< wantsList may answer otherwise
    void practiceAsked(); ///< on a copy of the job
    void describePart(vicegrip::app::PartKind what); ///< write one's own

  protected:
    /// The bar of its views, which are its spots; null: it has one view.
    [[nodiscard]] virtual ViewBar* bar() const { return nullptr; }

    Desk& m_desk; // NOLINT(cppcoreguidelines-non-private-member-variables-in-classes): what every stage is for
};

} // namespace vicegrip::app
