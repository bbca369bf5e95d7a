#include "app/stages/pins/pins_page.h"

#include "app/stages/pins/list_table.h"
#include "app/stages/pins/plug_view.h"
#include "app/stages/pins/wires_view.h"
#include "app/store/job_file.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "core/harness/cut_list.h"
#include "core/sheet/hands.h"

#include <QCheckBox>
#include <QDir>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QPushButton>
#include <QShortcut>
#include <QStackedWidget>
#include <QVBoxLayout>

#include <algorithm>
#include <array>

namespace vicegrip::app {

PinsPage::PinsPage(Desk& desk, QWidget* parent)
    : StagePage(desk, parent),
      m_export(new QPushButton(tr("Export CSV   E"))),
      m_tick(new KeyButton(tr("Done"), tr("Space"), true)),
      m_stack(new QStackedWidget),
      m_plug(new PlugView(desk)),
      m_wires(new WiresView(desk)),
      m_buy(new ListTable("to-buy", tr("What is bought"),
                          {{tr("What"), 0, false},
                           {tr("Needed"), 90, true},
                           {tr("Spare"), 80, true},
                           {tr("Buy"), 90, true},
                           {tr("Why the spare"), 190, false}})),
      m_order(new ListTable("order", tr("The order of hands"),
                            {{tr("What"), 350, false}, {tr("Tools"), 150, false}, {tr("Why then"), 0, false}})),
      m_orderSaid(label({}, look::Size::Small, false, true))
{
    auto* top = new QHBoxLayout;
    const std::array<QString, kViews> names = {tr("Plug"), tr("Wires"), tr("To buy"), tr("Order of hands")};
    static constexpr std::array<const char*, kViews> kNames = {"pins-plug", "pins-wires", "pins-buy", "pins-order"};
    for (int i = 0; i < kViews; ++i) {
        const auto view = static_cast<View>(i);
        m_buttons[i] = new QPushButton(names[static_cast<size_t>(i)]);
        m_buttons[i]->setObjectName(QLatin1String(kNames[static_cast<size_t>(i)]));
        m_buttons[i]->setCheckable(true);
        m_buttons[i]->setAutoExclusive(true);
        m_buttons[i]->setProperty("view", true);
        m_buttons[i]->setFont(look::words(look::Size::Small));
        m_buttons[i]->setToolTip(tr("Alt+%1").arg(i + 1));
        top->addWidget(m_buttons[i]);
        connect(m_buttons[i], &QPushButton::clicked, this, [this, view] { show(view); });
        connect(new QShortcut(QKeySequence(tr("Alt+%1").arg(i + 1)), this), &QShortcut::activated, this,
                [this, view] { show(view); });
    }
    top->addStretch();
    m_export->setObjectName(QStringLiteral("export-list"));
    m_export->setFont(look::words(look::Size::Small));
    top->addWidget(m_export);
    connect(m_export, &QPushButton::clicked, this, &PinsPage::exportShown);
    connect(new QShortcut(QKeySequence(Qt::Key_E), this), &QShortcut::activated, this, &PinsPage::exportShown);

    m_stack->addWidget(m_plug);
    m_stack->addWidget(m_wires);
    m_stack->addWidget(m_buy);
    m_stack->addWidget(buildOrder());
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(look::kMargin, look::kGap, look::kMargin, look::kGap);
    column->addLayout(top);
    column->addWidget(m_stack, 1);
    connect(m_plug, &PlugView::notice, this, &StagePage::notice);
    connect(m_plug, &PlugView::describeAsked, this, [this] { emit describePart(PartKind::Connector); });
    setFocusProxy(m_plug);
    show(Plug);
}

QWidget* PinsPage::buildOrder()
{
    auto* sheet = new QWidget;
    auto* column = new QVBoxLayout(sheet);
    column->setContentsMargins(0, 0, 0, 0);
    auto* shut = new QHBoxLayout;
    shut->addWidget(label(tr("On already:"), look::Size::Small, false, true));
    for (const sheet::Gate& g : sheet::gates()) {
        auto* box = new QCheckBox(text(g.name));
        box->setObjectName(QStringLiteral("gate-") + text(g.id));
        box->setFont(look::words(look::Size::Small));
        shut->addWidget(box);
        m_gates.push_back(box);
        connect(box, &QCheckBox::clicked, this, [this, &g](bool on) {
            edit(on ? text(g.what) : text(g.open), [&](job::Job& job) { sheet::setClosed(job, g.id, on); });
        });
    }
    shut->addStretch();
    m_orderSaid->setObjectName(QStringLiteral("order-said"));
    column->addLayout(shut);
    column->addWidget(m_orderSaid);
    column->addWidget(m_order, 1);
    m_tick->setObjectName(QStringLiteral("tick-chore"));
    column->addWidget(m_tick, 0, Qt::AlignLeft);
    connect(m_tick, &KeyButton::clicked, this, &PinsPage::tickChore);
    auto* key = new QShortcut(QKeySequence(Qt::Key_Space), sheet);
    connect(key, &QShortcut::activated, this, &PinsPage::tickChore);
    return sheet;
}

void PinsPage::show(View view)
{
    m_buttons[view]->setChecked(true);
    m_stack->setCurrentIndex(view);
    m_export->setVisible(view == Wires || view == Buy);
    refresh();
}

/// Beside a face and a card there is room for the circuits only on a wide window.
bool PinsPage::wantsList() const
{
    return window()->width() >= look::kNarrow;
}

void PinsPage::refresh()
{
    switch (static_cast<View>(m_stack->currentIndex())) {
    case Wires:
        m_wires->refresh();
        break;
    case Buy:
        refreshBuy();
        break;
    case Order:
        refreshOrder();
        break;
    default:
        m_plug->refresh();
    }
}

void PinsPage::refreshBuy()
{
    std::vector<QStringList> rows;
    for (const harness::Item& i : harness::shoppingList(*m_desk.store.job())) {
        const int decimals = i.unit == "m" ? 1 : 0;
        const auto amount = [&](double n) {
            return n > 0 ? text(units::formatNumber(n, decimals)) + QLatin1Char(' ') + text(i.unit) : QString();
        };
        rows.push_back({text(i.what), amount(i.needed), amount(i.spare), amount(i.needed + i.spare), text(i.why)});
    }
    m_buy->fill(rows);
}

void PinsPage::refreshOrder()
{
    const auto job = m_desk.store.job();
    const auto chores = sheet::chores(*job);
    const auto route = sheet::route(chores);
    for (size_t g = 0; g < m_gates.size(); ++g)
        m_gates[g]->setChecked(std::ranges::find(job->hands.closed, sheet::gates()[g].id) != job->hands.closed.end());
    m_choreOf.clear();
    if (!route) {
        m_orderSaid->setText(QString::fromStdString(route.error().sentence));
        m_order->fill({});
        return;
    }
    std::vector<QStringList> rows;
    std::vector<int> places;
    const std::string* place = nullptr;
    for (size_t i : route->order) {
        const sheet::Chore& c = chores[i];
        if (place == nullptr || *place != c.place) {
            QString name = text(c.place);
            name[0] = name[0].toUpper();
            places.push_back(static_cast<int>(rows.size()));
            rows.push_back({name});
            m_choreOf.emplace_back();
        }
        place = &c.place;
        rows.push_back({QStringLiteral("   ") + text(c.what), text(c.tools), text(c.why)});
        m_choreOf.push_back(c.id);
    }
    m_order->fill(rows, places);
    if (m_order->rowCount() > 1 &&
        (m_order->currentRow() < 0 || m_choreOf[static_cast<size_t>(m_order->currentRow())].empty()))
        m_order->setCurrentCell(m_order->currentRow() < 0 ? 1 : m_order->currentRow() + 1, 0);
    m_tick->setEnabled(!route->order.empty());
    QString said = tr("%1 chores to do, %2 changes of place%3.")
                       .arg(route->order.size())
                       .arg(route->moves)
                       .arg(route->optimal ? tr(", proved the fewest") : tr(", the fewest found"));
    for (const std::string& cost : sheet::costs(*job))
        said += QLatin1Char('\n') + text(cost) + QLatin1Char('.');
    m_orderSaid->setText(said);
}

void PinsPage::edit(const QString& description, const std::function<void(job::Job&)>& change)
{
    if (const auto done = m_desk.store.edit(description, change); !done)
        emit notice(QString::fromStdString(done.error().sentence));
    refresh();
}

/// A plug's chore is done at the plug: it is shown instead.
void PinsPage::tickChore()
{
    const int row = m_order->currentRow();
    const std::string id =
        row < 0 || row >= static_cast<int>(m_choreOf.size()) ? std::string() : m_choreOf[static_cast<size_t>(row)];
    if (id.empty())
        return;
    if (id.starts_with("plug-")) {
        m_plug->chooseConnector(id.substr(5));
        show(Plug);
        return;
    }
    edit(m_order->item(row, 0)->text().trimmed(), [&](job::Job& job) { (void)sheet::tick(job, id); });
}

/// Beside the job, under a name that says what it is: no dialog to fill in with gloves on.
void PinsPage::exportShown()
{
    const auto view = static_cast<View>(m_stack->currentIndex());
    if (view != Wires && view != Buy)
        return;
    const auto job = m_desk.store.job();
    const std::string csv =
        view == Wires ? harness::toCsv(harness::cutList(*job)) : harness::toCsv(harness::shoppingList(*job));
    const QFileInfo file(m_desk.store.path());
    const QString name =
        file.completeBaseName() + (view == Wires ? QStringLiteral("-cut.csv") : QStringLiteral("-buy.csv"));
    const auto done = writeWhole(file.dir().filePath(name), QByteArray::fromStdString(csv));
    emit notice(done ? tr("%1 is beside the job.").arg(name) : QString::fromStdString(done.error().sentence));
}

} // namespace vicegrip::app
