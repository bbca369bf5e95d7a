#pragma once

#include "app/desk/desk.h"
#include "core/feeds/proposals.h"

#include <QWidget>

#include <vector>

class QLabel;
class QTableWidgetItem;

namespace vicegrip::app {

class KeyButton;
class ListTable;

/// Feeds: what hangs on each fuse and what its rating and its wires must be, and below what would make them right.
class FeedsView : public QWidget
{
    Q_OBJECT

  public:
    explicit FeedsView(Desk& desk, QWidget* parent = nullptr);

    void refresh();

  private:
    void typed(QTableWidgetItem* cell);
    void take();
    void takeAll();
    void say(const QString& sentence, bool bad);
    void fillFeeds();

    Desk& m_desk;
    QLabel *m_said, *m_better;
    ListTable *m_feedList, *m_proposalList;
    KeyButton *m_takeAll, *m_take;
    std::vector<feeds::Feed> m_feeds;
    std::vector<feeds::Proposal> m_proposals;
};

} // namespace vicegrip::app
