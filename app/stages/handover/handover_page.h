#pragma once

#include "app/stages/stage_page.h"

class QStackedWidget;

namespace vicegrip::app {

class AgainView;
class BookView;
class CompareView;
class DiagramView;
class LabelsView;
class ListsView;
class LogbookView;
class PacketView;
class PhotosView;

/// Handover: what leaves the job for somebody else. The build book, the wiring diagram, what to measure again after a
/// change, what is different from another file, photos, lists for a spreadsheet and back, and the logbook.
class HandoverPage : public StagePage
{
    Q_OBJECT

  public:
    explicit HandoverPage(Desk& desk, QWidget* parent = nullptr);

    void refresh() override;
    void goToEntry(const lookup::Entry& entry) override;

  protected:
    [[nodiscard]] ViewBar* bar() const override { return m_bar; }

  private:
    enum View { Book, Diagram, Labels, Packet, Again, Compare, Photos, Lists, Logbook };

    ViewBar* m_bar;
    QStackedWidget* m_stack;
    BookView* m_book;
    DiagramView* m_diagram;
    LabelsView* m_labels;
    PacketView* m_packet;
    AgainView* m_again;
    CompareView* m_compare;
    PhotosView* m_photos;
    ListsView* m_lists;
    LogbookView* m_logbook;
};

} // namespace vicegrip::app
