#pragma once

#include "app/store/taken.h"
#include "core/lookup/search.h"

#include <QFrame>

#include <memory>

class QLineEdit;
class QListWidget;

/// Ctrl+K: goes to anything that has a name, and does anything the window can do.
namespace vicegrip::app {

class CommandFinder : public QFrame
{
    Q_OBJECT

  public:
    /// What is taken is counted in `counts`, which must outlive it.
    CommandFinder(Taken& counts, QWidget* parent);

    /// What there is to find now. `keys` and `where` are shown at the end of an entry's line: the key that does the
    /// same, and where it leads.
    struct Offer
    {
        lookup::Entry entry;
        QString where, key;
    };
    void open(std::vector<Offer> offers);

  signals:
    void taken(const vicegrip::lookup::Entry& entry);

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;

  private:
    void filter(const QString& typed);
    void run();

    QLineEdit* m_typed;
    QListWidget* m_list;
    Taken& m_taken;
    std::vector<Offer> m_offers;
    std::unique_ptr<lookup::Search> m_search;
};

} // namespace vicegrip::app
