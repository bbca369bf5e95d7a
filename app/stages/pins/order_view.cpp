#include "app/stages/pins/order_view.h"

#include "app/desk/when.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "core/work/work_steps.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QShortcut>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {

OrderView::OrderView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_tick(new KeyButton(tr("Done"), tr("Space"), true)),
      m_table(new ListTable("order", tr("The order of hands"),
                            {{tr("What"), 350, false}, {tr("Tools"), 150, false}, {tr("Why then"), 0, false}})),
      m_said(label({}, look::Size::Small, false, true)),
      m_placeOf(label({}, look::Size::Small, false, true)),
      m_place(new QComboBox)
{
    auto* shut = new QHBoxLayout;
    shut->addWidget(label(tr("On already:"), look::Size::Small, false, true));
    for (const work::Gate& g : work::gates()) {
        auto* box = new QCheckBox(text(g.name));
        box->setObjectName(QStringLiteral("gate-") + text(g.id));
        box->setFont(look::textFont(look::Size::Small));
        shut->addWidget(box);
        m_gates.push_back(box);
        connect(box, &QCheckBox::clicked, this, [this, g](bool on) {
            edit(on ? text(g.what) : text(g.open), [&](job::Job& job) { work::setClosed(job, g.id, on); });
        });
    }
    shut->addStretch();
    m_said->setObjectName(QStringLiteral("order-said"));
    m_tick->setObjectName(QStringLiteral("tick-step"));
    m_placeOf->setWordWrap(false);
    m_place->setObjectName(QStringLiteral("plug-place"));
    m_place->setAccessibleName(tr("Where this plug is in this car"));
    m_place->setFont(look::textFont(look::Size::Small));
    m_place->setEditable(true);
    m_place->setInsertPolicy(QComboBox::NoInsert);
    for (const std::string& place : work::places())
        m_place->addItem(text(place));
    auto* under = new QHBoxLayout;
    under->addWidget(m_tick);
    under->addStretch();
    under->addWidget(m_placeOf);
    under->addWidget(m_place);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addLayout(shut);
    column->addWidget(m_said);
    column->addWidget(m_table, 1);
    column->addLayout(under);
    connect(m_tick, &KeyButton::clicked, this, &OrderView::tick);
    connect(m_place, &QComboBox::activated, this, &OrderView::setPlace);
    connect(m_place->lineEdit(), &QLineEdit::returnPressed, this, &OrderView::setPlace);
    connect(m_table, &QTableWidget::currentCellChanged, this, &OrderView::showPlace);
    connect(new QShortcut(QKeySequence(Qt::Key_Space), m_table, nullptr, nullptr, Qt::WidgetShortcut),
            &QShortcut::activated, this, &OrderView::tick);
    handFocus(this, m_table);
}

std::string OrderView::current() const
{
    const int row = m_table->currentRow();
    return row < 0 || row >= static_cast<int>(m_stepOf.size()) ? std::string() : m_stepOf[static_cast<size_t>(row)];
}

void OrderView::refresh()
{
    const auto job = m_desk.store.job();
    const auto steps = work::steps(*job);
    const auto order = work::order(steps);
    for (size_t g = 0; g < m_gates.size(); ++g)
        m_gates[g]->setChecked(std::ranges::find(job->workSteps.closed, work::gates()[g].id) !=
                               job->workSteps.closed.end());
    m_stepOf.clear();
    if (!order) {
        m_said->setText(QString::fromStdString(order.error().sentence));
        m_table->fill({});
        return;
    }
    std::vector<QStringList> rows;
    std::vector<int> places;
    const std::string* place = nullptr;
    for (size_t i : order->order) {
        const work::Step& c = steps[i];
        if (place == nullptr || *place != c.place) {
            QString name = text(c.place);
            name[0] = name[0].toUpper();
            places.push_back(static_cast<int>(rows.size()));
            rows.push_back({name});
            m_stepOf.emplace_back();
        }
        place = &c.place;
        rows.push_back({QStringLiteral("   ") + text(c.what), text(c.tools), text(c.why)});
        m_stepOf.push_back(c.id);
    }
    m_table->fill(rows, places);
    if (m_table->rowCount() > 1 && current().empty())
        m_table->setCurrentCell(m_table->currentRow() < 0 ? 1 : m_table->currentRow() + 1, 0);
    m_tick->setEnabled(!order->order.empty());
    QString said = tr("%1 steps to do, %2 changes of place%3.")
                       .arg(order->order.size())
                       .arg(order->moves)
                       .arg(order->optimal ? tr(", proved the fewest") : tr(", the fewest found"));
    for (const std::string& cost : work::costs(*job))
        said += QLatin1Char('\n') + text(cost) + QLatin1Char('.');
    m_said->setText(said);
    showPlace();
}

void OrderView::showPlace()
{
    const auto job = m_desk.store.job();
    const auto plug = work::plugOf(current(), *job);
    const job::Connector* c = plug ? job::findConnector(*job, *plug) : nullptr;
    const bool movable = c != nullptr && c->kind != job::ConnectorKind::Ecu && c->kind != job::ConnectorKind::Inline;
    m_placeOf->setVisible(movable);
    m_place->setVisible(movable);
    if (!movable)
        return;
    m_placeOf->setText(tr("%1 is").arg(text(c->label)));
    const auto steps = work::steps(*job);
    const auto step = std::ranges::find(steps, current(), &work::Step::id);
    const QSignalBlocker quiet(m_place);
    m_place->setEditText(step == steps.end() ? QString() : text(step->place));
}

void OrderView::setPlace()
{
    const auto plug = work::plugOf(current(), *m_desk.store.job());
    const QString place = m_place->currentText().trimmed();
    if (plug && place.size() <= 60)
        edit(tr("%1: %2").arg(text(*plug), place),
             [&](job::Job& job) { work::setPlace(job, *plug, place.toStdString()); });
    m_table->setFocus();
}

void OrderView::edit(const QString& description, const Change& change)
{
    m_desk.store.editOrSay(description, change);
    refresh();
}

/// A plug's step is done at the plug: it is shown instead.
void OrderView::tick()
{
    const std::string id = current();
    if (id.empty())
        return;
    if (id.starts_with("plug-")) {
        emit plugAsked(id.substr(5));
        return;
    }
    edit(m_table->item(m_table->currentRow(), 0)->text().trimmed(),
         [&](job::Job& job) { return work::tick(job, id, nowText()); });
}

} // namespace vicegrip::app
