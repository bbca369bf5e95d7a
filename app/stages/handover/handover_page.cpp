#include "app/stages/handover/handover_page.h"

#include "app/look/look.h"
#include "app/stages/handover/again_view.h"
#include "app/stages/handover/book_view.h"
#include "app/stages/handover/compare_view.h"
#include "app/stages/handover/diagram_view.h"
#include "app/stages/handover/labels_view.h"
#include "app/stages/handover/lists_view.h"
#include "app/stages/handover/logbook_view.h"
#include "app/stages/handover/packet_view.h"
#include "app/stages/handover/photos_view.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/view_bar.h"

#include <QStackedWidget>
#include <QVBoxLayout>

namespace vicegrip::app {

HandoverPage::HandoverPage(Desk& desk, QWidget* parent)
    : StagePage(desk, parent),
      m_bar(new ViewBar({{"handover-book", tr("Build book")},
                         {"handover-diagram", tr("Wiring diagram")},
                         {"handover-labels", tr("Labels")},
                         {"handover-packet", tr("Tuner's packet")},
                         {"handover-again", tr("After a change")},
                         {"handover-compare", tr("Compare")},
                         {"handover-photos", tr("Photos")},
                         {"handover-lists", tr("Lists")},
                         {"handover-logbook", tr("Logbook")}})),
      m_stack(new QStackedWidget),
      m_book(new BookView(desk)),
      m_diagram(new DiagramView(desk)),
      m_labels(new LabelsView(desk)),
      m_packet(new PacketView(desk)),
      m_again(new AgainView(desk)),
      m_compare(new CompareView(desk)),
      m_photos(new PhotosView(desk)),
      m_lists(new ListsView(desk)),
      m_logbook(new LogbookView(desk))
{
    for (QWidget* view : std::initializer_list<QWidget*>{m_book, m_diagram, m_labels, m_packet, m_again, m_compare,
                                                         m_photos, m_lists, m_logbook})
        m_stack->addWidget(view);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(look::kMargin, look::kGap, look::kMargin, look::kGap);
    column->setSpacing(0);
    column->addWidget(m_bar);
    column->addWidget(m_stack, 1);
    connect(m_bar, &ViewBar::changed, this, [this] {
        m_stack->setCurrentIndex(m_bar->chosen());
        refresh();
    });
    connect(m_again, &AgainView::goTo, this, &HandoverPage::goTo);
    handFocus(this, m_stack);
}

void HandoverPage::refresh()
{
    switch (m_bar->chosen()) {
    case Book:
        m_book->refresh();
        break;
    case Diagram:
        m_diagram->refresh();
        break;
    case Labels:
        m_labels->refresh();
        break;
    case Packet:
        m_packet->refresh();
        break;
    case Again:
        m_again->refresh();
        break;
    case Compare:
        m_compare->refresh();
        break;
    case Photos:
        m_photos->refresh();
        break;
    case Lists:
        m_lists->refresh();
        break;
    default:
        m_logbook->refresh();
    }
}

void HandoverPage::goToEntry(const lookup::Entry& entry)
{
    if (entry.kind != lookup::Kind::Log)
        return;
    m_bar->choose(Logbook);
    m_logbook->goTo(entry);
}

} // namespace vicegrip::app
