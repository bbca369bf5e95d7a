#include "app/stages/inputs/ways_list.h"

#include "app/desk/part_library.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "core/harness/edits.h"
#include "core/units/shown.h"

#include <QHeaderView>
#include <QVBoxLayout>

namespace vicegrip::app {
namespace {

constexpr look::Px kChoiceRow{26};

QString difference(double si, const parts::Part& sensor)
{
    return text(units::formatDifference(si, sensor.measures, sensor.unit, 2));
}

QString kelvins(double k)
{
    return text(units::formatDifference(k, units::Dimension::TemperatureDifference, "K", k < 9.95 ? 1 : 0));
}

} // namespace

WaysList::WaysList(Desk& desk, QWidget* parent) : QWidget(parent), m_desk(desk), m_column(new QVBoxLayout(this))
{
    m_column->setContentsMargins(0, 0, 0, 0);
    m_column->setSpacing(6_px);
}

void WaysList::clear()
{
    while (QLayoutItem* item = m_column->takeAt(0)) {
        if (item->widget() != nullptr)
            item->widget()->deleteLater();
        delete item;
    }
    m_said.clear();
}

void WaysList::refresh()
{
    clear();
    const auto job = m_desk.store.job();
    const job::Circuit* c = job::find(*job, m_desk.selection.circuit());
    m_ways = c == nullptr ? std::vector<seating::WayOut>{} : seating::waysOut(*job, *c, library());
    setVisible(!m_ways.empty());
    if (!m_ways.empty())
        m_column->addWidget(label(tr("Ways out"), look::Size::Body, true));
    for (size_t i = 0; i < m_ways.size(); ++i)
        add(i);
}

void WaysList::add(size_t index)
{
    auto* title = label({}, look::Size::Small, true);
    title->setObjectName(QStringLiteral("way-title-%1").arg(index));
    auto* detail = label({}, look::Size::Small, false, true);
    auto* button = new KeyButton(tr("Do this"), tr("Alt+%1").arg(index + 1), false);
    button->setObjectName(QStringLiteral("way-%1").arg(index));
    m_said.push_back({title, detail, button});
    m_column->addWidget(title);
    m_column->addWidget(detail);
    if (const auto* fitted = seating::addedBy(m_ways[index]); fitted != nullptr && !fitted->weighed.empty())
        addTable(index, *fitted);
    m_column->addWidget(button, 0, Qt::AlignLeft);
    connect(button, &KeyButton::clicked, this, [this, index] { take(index); });
    describe(index);
}

void WaysList::describe(size_t index)
{
    const Said& said = m_said[index];
    said.title->setText(text(m_ways[index].title));
    said.detail->setText(text(m_ways[index].detail));
    said.take->setAccessibleName(text(m_ways[index].title));
    said.take->setAccessibleDescription(text(m_ways[index].detail));
}

/// How finely each value reads at both ends of the range, and what it warms the sensor by.
void WaysList::addTable(size_t index, const seating::AddedPullUp& fitted)
{
    const auto job = m_desk.store.job();
    const job::Circuit& circuit = *job::find(*job, m_ways[index].circuit);
    const parts::Part& sensor = *job::sensorOf(*job, circuit);
    const auto at = [&](double si) { return text(units::format(si, sensor.measures, sensor.unit, 0)); };
    const bool heats = fitted.choice.still_k > 0;
    const bool air = heats && fitted.choice.moving_k < fitted.choice.still_k;
    std::vector<ListTable::Column> columns = {
        {tr("Pull-up"), 0}, {at(circuit.scaling.low), 58, true}, {at(circuit.scaling.high), 58, true}};
    if (air)
        columns.insert(columns.end(), {{tr("still"), 46, true}, {tr("moving"), 58, true}});
    else if (heats)
        columns.push_back({tr("warms by"), 62, true});
    auto* table = new ListTable("pull-ups", tr("Pull-ups to choose from"), columns);
    std::vector<QStringList> rows;
    int proposed = 0;
    for (const seating::PullUpChoice& c : fitted.weighed) {
        if (c.ohm == fitted.choice.ohm)
            proposed = static_cast<int>(rows.size());
        QStringList row = {text(units::formatOhms(c.ohm)) + QLatin1Char(' ') + text(c.expectedBy),
                           difference(c.lowPerCount, sensor), difference(c.highPerCount, sensor)};
        if (air)
            row << kelvins(c.still_k);
        if (heats)
            row << kelvins(c.moving_k) + (c.tooWarm() ? QStringLiteral(" ✗") : QString());
        rows.push_back(row);
    }
    table->fill(rows, {proposed});
    table->verticalHeader()->setDefaultSectionSize(kChoiceRow);
    table->setCurrentCell(proposed, 0);
    table->setFixedHeight(table->horizontalHeader()->sizeHint().height() + kChoiceRow * static_cast<int>(rows.size()) +
                          4);
    table->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    const QString heat =
        air ? tr(" What it warms the sensor by, in still and in moving air") : tr(" What it warms the sensor by");
    m_column->addWidget(
        label(tr("Per count at both ends.") +
                  (heats ? heat + tr("; ✗: more than its reading is in doubt by. Tables in ECUs expect the usual ones.")
                         : QString()),
              look::Size::Small, false, true));
    m_column->addWidget(table);
    connect(table, &QTableWidget::currentCellChanged, this, [this, index, weighed = fitted.weighed](int row) {
        if (row < 0 || static_cast<size_t>(row) >= weighed.size())
            return;
        m_ways[index] = seating::withAnother(*m_desk.store.job(), m_ways[index], weighed[static_cast<size_t>(row)]);
        describe(index);
    });
}

void WaysList::take(size_t index)
{
    if (index >= m_ways.size())
        return;
    const seating::WayOut way = m_ways[index];
    m_desk.store.editOrSay(text(way.title), [&](job::Job& job) {
        return seating::apply(job, way).map([&] { harness::proposeFaces(job, library().layouts); });
    });
}

} // namespace vicegrip::app
