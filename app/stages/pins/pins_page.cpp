#include "app/stages/pins/pins_page.h"

#include "app/desk/exports.h"
#include "app/look/look.h"
#include "app/stages/pins/feeds_view.h"
#include "app/stages/pins/harness_view.h"
#include "app/stages/pins/order_view.h"
#include "app/stages/pins/plug_view.h"
#include "app/stages/pins/remap_view.h"
#include "app/stages/pins/wires_view.h"
#include "app/store/whole_file.h"
#include "app/widgets/list_table.h"
#include "app/widgets/view_bar.h"
#include "core/materials/shopping_list.h"

#include <QDir>
#include <QFileInfo>
#include <QPushButton>
#include <QShortcut>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace vicegrip::app {

PinsPage::PinsPage(Desk& desk, QWidget* parent)
    : StagePage(desk, parent),
      m_bar(new ViewBar({{"pins-plug", tr("Plug")},
                         {"pins-remap", tr("Remap")},
                         {"pins-wires", tr("Wires")},
                         {"pins-harness", tr("Harness")},
                         {"pins-buy", tr("To buy")},
                         {"pins-order", tr("Order of hands")},
                         {"pins-feeds", tr("Feeds")}})),
      m_export(new QPushButton(tr("Write CSV   E"))),
      m_stack(new QStackedWidget),
      m_plug(new PlugView(desk)),
      m_remap(new RemapView(desk)),
      m_wires(new WiresView(desk)),
      m_harness(new HarnessView(desk)),
      m_feeds(new FeedsView(desk)),
      m_buy(new ListTable("to-buy", tr("What is bought"),
                          {{tr("What"), 0, false},
                           {tr("Needed"), 90, true},
                           {tr("Spare"), 80, true},
                           {tr("Buy"), 90, true},
                           {tr("Why the spare"), 190, false}})),
      m_order(new OrderView(desk))
{
    m_export->setObjectName(QStringLiteral("export-list"));
    m_export->setFont(look::textFont(look::Size::Small));
    m_bar->addAtEnd(m_export);
    connect(m_export, &QPushButton::clicked, this, &PinsPage::exportShown);
    connect(new QShortcut(QKeySequence(Qt::Key_E), this), &QShortcut::activated, this, &PinsPage::exportShown);

    for (QWidget* view : std::initializer_list<QWidget*>{m_plug, m_remap, m_wires, m_harness, m_buy, m_order, m_feeds})
        m_stack->addWidget(view);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(look::kMargin, look::kGap, look::kMargin, look::kGap);
    column->addWidget(m_bar);
    column->addWidget(m_stack, 1);
    connect(m_plug, &PlugView::notice, this, &StagePage::notice);
    connect(m_plug, &PlugView::describeAsked, this, [this] { emit describePart(PartKind::Connector); });
    connect(m_order, &OrderView::plugAsked, this, [this](const std::string& connector) {
        m_plug->chooseConnector(connector);
        m_bar->choose(Plug);
    });
    connect(m_bar, &ViewBar::changed, this, &PinsPage::show);
    show(Plug);
}

void PinsPage::goToEntry(const lookup::Entry& entry)
{
    if (entry.kind == lookup::Kind::Cavity) {
        m_bar->choose(Plug);
        m_plug->chooseCavity(job::PointRef::fromText(entry.id));
    } else if (entry.kind == lookup::Kind::Wire) {
        m_bar->choose(Wires);
        m_wires->choose(job::WireId{entry.id});
    }
}

void PinsPage::show(int view)
{
    m_stack->setCurrentIndex(view);
    m_export->setVisible(view == Wires || view == Harness || view == Buy);
    refresh();
    emit roomChanged();
    if (isVisible())
        m_stack->currentWidget()->setFocus();
}

/// Beside a face and a card there is room for the circuits on a wide window; beside a list of wires there is none.
bool PinsPage::wantsList() const
{
    return m_stack->currentIndex() == Plug && window()->width() >= look::kNarrow;
}

void PinsPage::refresh()
{
    switch (static_cast<View>(m_stack->currentIndex())) {
    case Remap:
        m_remap->refresh();
        break;
    case Wires:
        m_wires->refresh();
        break;
    case Harness:
        m_harness->refresh();
        break;
    case Feeds:
        m_feeds->refresh();
        break;
    case Buy:
        refreshBuy();
        break;
    case Order:
        m_order->refresh();
        break;
    default:
        m_plug->refresh();
    }
}

void PinsPage::refreshBuy()
{
    std::vector<QStringList> rows;
    for (const materials::Item& i : materials::shoppingList(*m_desk.store.job(), m_desk.preferences.now().habits)) {
        const auto amount = [&](double n) { return n > 0 ? text(materials::amountText(i, n)) : QString(); };
        rows.push_back({text(i.shown), amount(i.needed), amount(i.spare), amount(i.needed + i.spare), text(i.why)});
    }
    m_buy->fill(rows);
}

/// Beside the job, under a name that says what it is: no dialog to fill in with gloves on.
void PinsPage::exportShown()
{
    std::string csv;
    QString ending;
    switch (static_cast<View>(m_stack->currentIndex())) {
    case Wires:
        csv = listCsv(m_desk, Listed::Cut);
        ending = QStringLiteral("-cut.csv");
        break;
    case Harness:
        csv = listCsv(m_desk, Listed::Harness);
        ending = QStringLiteral("-harness.csv");
        break;
    case Buy:
        csv = listCsv(m_desk, Listed::Buy);
        ending = QStringLiteral("-buy.csv");
        break;
    default:
        return;
    }
    const QFileInfo file(m_desk.store.path());
    const QString name = file.completeBaseName() + ending;
    const auto done = writeWhole(file.dir().filePath(name), QByteArray::fromStdString(csv));
    emit notice(done ? tr("%1 is beside the job.").arg(name) : QString::fromStdString(done.error().sentence));
}

} // namespace vicegrip::app
