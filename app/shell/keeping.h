#pragma once

#include "app/shell/notices.h"

#include <QObject>

#include <functional>

class QWidget;

namespace vicegrip::app {

class JobStore;

/// Where what was changed is kept: saving, a copy elsewhere, and what is asked before it would be left behind. Said and
/// chosen in the window's notices.
class Keeping : public QObject
{
    Q_OBJECT

  public:
    Keeping(JobStore& store, Notices& notices, QWidget* window);

    void save();
    /// Asks where, saves there and goes on in it.
    void askForCopy();
    /// A sentence with the ways to keep the job all the same.
    void sayNotKept(const QString& sentence);
    /// Whether all that was changed is kept. Where it is not, the notice offers a copy, or `without`, which calls
    /// `leave`; while that runs this answers yes.
    bool mayLeave(const QString& without, const std::function<void()>& leave);

  signals:
    void copied(); ///< what is open now is a copy elsewhere
    void theirsAsked(); ///< what another program wrote into the open file is to be opened

  private:
    /// Until the job is kept again.
    void say(const QString& sentence, const std::vector<Notices::Choice>& choices);
    void openTheirs();
    void sayTheirs(const QString& sentence);
    void saveCopy(const QString& path);

    JobStore& m_store;
    Notices& m_notices;
    QWidget* m_window;
    QString m_notKept; ///< what was said last of what could not be kept
    bool m_leaving = false; ///< without what can be kept nowhere: he said so
};

} // namespace vicegrip::app
