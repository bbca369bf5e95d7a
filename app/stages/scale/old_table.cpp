#include "app/stages/scale/old_table.h"

#include "app/views/selected.h"
#include "app/widgets/circuit_text.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/off_plot.h"
#include "app/widgets/paste_panel.h"
#include "core/scaling/exchange.h"
#include "core/units/shown.h"

#include <QVBoxLayout>

namespace vicegrip::app {

OldTable::OldTable(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_paste(new PastePanel("old-table", tr("The table the ECU holds now"),
                             tr("Paste the table the ECU holds now, or one from the tuner: what the input reads and "
                                "value, two columns, or "
                                "what Export wrote."))),
      m_plot(new OffPlot("table-difference", tr("New table less old, along the input")))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(m_paste, 1);
    column->addWidget(m_plot, 1);
    handFocus(this, m_paste);
    connect(m_paste, &PastePanel::typed, this, &OldTable::read);
    connect(m_paste, &PastePanel::taken, this, &OldTable::take);
    connect(m_paste, &PastePanel::left, this, &OldTable::left);
    read();
}

void OldTable::begin()
{
    m_paste->setText({});
    read();
    m_paste->setFocus();
}

/// What the ECU holds now against what it should hold, and against the circuit itself.
void OldTable::read()
{
    m_readings.clear();
    m_plot->clear();
    const auto analysis = m_desk.store.analysis();
    const auto* view = analysis::find(*analysis, m_desk.selection.circuit());
    const job::Circuit* circuit = job::find(*analysis->job, m_desk.selection.circuit());
    if (view == nullptr || circuit == nullptr || !view->table)
        return;
    if (m_paste->text().trimmed().isEmpty()) {
        m_paste->show({}, tr("Nothing pasted yet."), {});
        return;
    }
    const parts::Part& sensor = *job::sensorOf(*analysis->job, *circuit);
    const double step = scaling::readingStep(*analysis->job, *circuit);
    const auto old = scaling::readHeld(m_paste->text().toStdString(), *view->table, sensor, circuit->scaling, step);
    if (!old) {
        m_paste->show({{std::max(1, old.error().place.line), text(old.error().sentence), false}},
                      tr("This is no table for %1.").arg(text(circuit->name)), {});
        return;
    }
    const auto axis = view->table->axis;
    const bool hertz = axis == units::Dimension::Frequency;
    const auto difference = scaling::difference(*old, *view->table, step);
    std::vector<PastePanel::Line> lines;
    const auto signedText = [&](double si) {
        return (si < 0 ? QStringLiteral("-") : QStringLiteral("+")) + errorText(sensor, std::abs(si)).mid(2);
    };
    int number = 0;
    for (const scaling::TablePoint& p : old->points) {
        m_readings.push_back(p.reading);
        const double off = scaling::lookUp(*view->table, p.reading) - p.value;
        lines.push_back(
            {++number,
             tr("%1: the new table differs by %2").arg(text(scaling::readingText(p.reading, axis)), signedText(off)),
             std::abs(off) <= std::max(view->table->worstError, 1e-12) * 2});
    }
    m_paste->show(
        lines,
        tr("New less old: at worst %1, at %2 (%3 %4).")
            .arg(signedText(difference.worst.value), text(scaling::readingText(difference.worst.reading, axis)))
            .arg(difference.counts, 0, 'f', 0)
            .arg(hertz ? tr("steps of the counter") : tr("counts")),
        circuit->limits || view->table->formula ? QString() : tr("Take its places"));
    const auto shown = [&](double si) { return units::differenceToShown(si, sensor.measures, sensor.unit); };
    std::vector<OffPlot::Place> curve;
    for (const auto& p : difference.places)
        curve.push_back({p.reading, shown(p.value), 0});
    m_plot->setAxes(tr("input (%1)").arg(text(scaling::readingUnit(axis))),
                    tr("new - old (%1)").arg(shownUnit(sensor)));
    m_plot->show(curve, {}, {});
}

/// The ECU's own breakpoints stay; the values at them are worked out here.
void OldTable::take()
{
    const job::Circuit* c = selectedCircuit(m_desk);
    if (c == nullptr || m_readings.size() < 2)
        return;
    const auto done = m_desk.store.edit(tr("The ECU's points of %1").arg(text(c->name)), [&](job::Job& job) {
        job::ScalingSpec& spec = job::find(job, m_desk.selection.circuit())->scaling;
        spec.breakpoints = job::Breakpoints::Fixed;
        spec.fixed = m_readings;
        spec.points = static_cast<int>(m_readings.size());
    });
    if (done)
        emit left();
    else
        m_paste->show({}, text(done.error().sentence), {});
}

} // namespace vicegrip::app
