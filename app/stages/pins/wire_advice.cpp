#include "app/stages/pins/wire_advice.h"

#include "app/widgets/labels.h"
#include "core/harness/lead_plan.h"
#include "core/parts/conductor.h"
#include "core/wires/colour.h"
#include "core/wires/joins.h"
#include "core/wires/leads.h"

#include <QComboBox>
#include <QGridLayout>
#include <QSignalBlocker>

namespace vicegrip::app {

namespace {

enum Lie { Alone, Twisted, AtEcu, AtMetal, AtBoth, Nowhere };

Lie lieOf(const job::Lead* lead, const harness::DrainPlaces& places)
{
    if (lead == nullptr)
        return Alone;
    if (!lead->shield)
        return Twisted;
    return lead->drain.empty()                     ? Nowhere
           : lead->drain.size() == 2               ? AtBoth
           : lead->drain.front() == places.atMetal ? AtMetal
                                                   : AtEcu;
}

std::vector<job::PointRef> drainFor(Lie lie, const harness::DrainPlaces& places)
{
    switch (lie) {
    case AtEcu:
        return {places.atEcu};
    case AtMetal:
        return {places.atMetal};
    case AtBoth:
        return {places.atEcu, places.atMetal};
    default:
        return {};
    }
}

} // namespace

WireAdvice::WireAdvice(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_area(label({}, look::Size::Small)),
      m_colour(label({}, look::Size::Small)),
      m_joint(label({}, look::Size::Small)),
      m_school(label({}, look::Size::Small, false, true)),
      m_method(new QComboBox),
      m_lies(new QComboBox)
{
    m_area->setObjectName(QStringLiteral("wire-area-why"));
    m_colour->setObjectName(QStringLiteral("wire-colour-why"));
    m_joint->setObjectName(QStringLiteral("wire-joint"));
    m_school->setObjectName(QStringLiteral("wire-joint-school"));
    m_method->setObjectName(QStringLiteral("joint-method"));
    m_method->setAccessibleName(tr("How this splice is made"));
    m_method->setFont(look::textFont(look::Size::Small));
    for (const job::JointMethod m : {job::JointMethod::Crimp, job::JointMethod::Solder, job::JointMethod::Tap})
        m_method->addItem(m == job::JointMethod::Crimp    ? tr("Crimped")
                          : m == job::JointMethod::Solder ? tr("Soldered")
                                                          : tr("Tapped"),
                          static_cast<int>(m));
    m_lies->setObjectName(QStringLiteral("wire-lies"));
    m_lies->setAccessibleName(tr("How this wire lies"));
    m_lies->setFont(look::textFont(look::Size::Small));
    m_lies->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 4_px, 0, 0);
    grid->setHorizontalSpacing(look::kMargin);
    grid->setVerticalSpacing(4_px);
    grid->addWidget(label(tr("Area"), look::Size::Small, false, true), 0, 0, Qt::AlignTop);
    grid->addWidget(m_area, 0, 1, Qt::AlignTop);
    grid->addWidget(label(tr("Colour"), look::Size::Small, false, true), 1, 0, Qt::AlignTop);
    grid->addWidget(m_colour, 1, 1, Qt::AlignTop);
    grid->addWidget(m_method, 0, 2, Qt::AlignTop);
    grid->addWidget(m_joint, 0, 3, Qt::AlignTop);
    grid->addWidget(m_lies, 1, 2, Qt::AlignTop);
    grid->addWidget(m_school, 1, 3, Qt::AlignTop);
    grid->setColumnStretch(1, 1);
    grid->setColumnStretch(3, 1);
    connect(m_method, &QComboBox::activated, this, &WireAdvice::setMethod);
    connect(m_lies, &QComboBox::activated, this, &WireAdvice::setLie);
}

void WireAdvice::show(const job::Wire* wire, const wires::AreaChoice& area, const wires::ColourAdvice& colour,
                      const QString& cutNote)
{
    m_splice.clear();
    setVisible(wire != nullptr);
    if (wire == nullptr)
        return;
    QString why = text(area.why);
    if (!why.isEmpty())
        why[0] = why[0].toUpper();
    constexpr double kNoticeable_v = 5e-5;
    const QString drop =
        area.drop_v < kNoticeable_v
            ? QString()
            : tr(" It loses %1.").arg(text(units::format(area.drop_v, units::Dimension::Voltage, "mV", 1)));
    m_area->setText(area.area_m2 <= 0 ? why + QLatin1Char('.')
                                      : tr("%1: %2.").arg(text(parts::areaText(area.area_m2)), why) + drop);
    setInk(m_area, area.suffices(wire->area_m2) ? look::colours().ink : look::colours().failing);
    QString said = colour.why.empty() ? text(wires::colourName(wire->colour)) + tr(": none like it beside it.")
                   : colour.colour == wire->colour
                       ? text(colour.why) + QLatin1Char('.')
                       : tr("%1; %2 would stand out.").arg(text(colour.why), text(colour.colour));
    if (wire->colour.empty())
        said = tr("No colour noted.");
    m_colour->setText(cutNote.isEmpty() ? said : said + QLatin1Char(' ') + cutNote + QLatin1Char('.'));
    setInk(m_colour, colour.why.empty() ? look::colours().ink : look::colours().failing);
    const auto job = m_desk.store.job();
    const job::Joint* splice = nullptr;
    for (const job::PointRef* end : {&wire->from, &wire->to})
        if (const job::Joint* j = job::findJoint(*job, end->owner); j != nullptr && j->kind == job::JointKind::Splice)
            splice = j;
    const auto isPair = [&](const job::PointRef& end) {
        const job::Connector* c = job::findConnector(*job, end.owner);
        return c != nullptr && c->kind == job::ConnectorKind::Inline;
    };
    showLie(*job, *wire);
    m_method->setVisible(splice != nullptr);
    if (splice != nullptr) {
        m_splice = splice->id;
        const QSignalBlocker quiet(m_method);
        m_method->setCurrentIndex(m_method->findData(static_cast<int>(splice->method)));
    }
    const wires::JointAdvice advice = splice != nullptr ? wires::adviceOn(splice->method)
                                                        : wires::adviceOnRun(isPair(wire->from) || isPair(wire->to));
    m_joint->setText(splice != nullptr ? tr("%1: %2").arg(text(splice->id), text(advice.needs)) : text(advice.needs));
    m_school->setText(text(advice.school) +
                      (advice.caution.empty() ? QString() : QLatin1Char(' ') + text(advice.caution)));
}

/// The unit that the wire's circuit sits on: a shield lands at its sensor ground.
const parts::Ecu& WireAdvice::unitOf(const job::Job& job, const job::Wire& wire)
{
    for (const job::Circuit& c : job.circuits)
        if (const job::Device* d = job::find(job, c.device);
            d != nullptr && (d->connector == wire.from.owner || d->connector == wire.to.owner))
            for (const parts::Ecu* unit : {job::unitOf(job, c.input), job::unitOf(job, c.output)})
                if (unit != nullptr)
                    return *unit;
    return job.ecu;
}

/// What can lie in one lead with it: the other wires of its plug. A wire without such neighbours lies as it does.
void WireAdvice::showLie(const job::Job& job, const job::Wire& wire)
{
    m_wire = wire.id;
    const job::Lead* lead = job::leadOf(job, wire.id);
    const bool company = wires::besides(job, wire.id).size() > 1;
    m_lies->setVisible(company || lead != nullptr);
    const harness::DrainPlaces places = harness::drainPlaces(job, unitOf(job, wire));
    const QSignalBlocker quiet(m_lies);
    m_lies->clear();
    m_lies->addItem(tr("Lies alone"), Alone);
    if (company || (lead != nullptr && !lead->shield))
        m_lies->addItem(tr("Twisted"), Twisted);
    const auto offer = [&](const QString& words, Lie lie, bool possible) {
        if (possible)
            m_lies->addItem(words, lie);
    };
    offer(tr("In a shield, landed at the ECU"), AtEcu, !places.atEcu.empty());
    offer(tr("In a shield, landed on metal"), AtMetal, !places.atMetal.empty());
    offer(tr("In a shield, landed at both ends"), AtBoth, !places.atEcu.empty() && !places.atMetal.empty());
    offer(tr("In a shield, landed nowhere"), Nowhere, true);
    m_lies->setCurrentIndex(std::max(m_lies->findData(lieOf(lead, places)), 0));
}

void WireAdvice::setLie(int index)
{
    const auto lie = static_cast<Lie>(m_lies->itemData(index).toInt());
    m_desk.store.editOrSay(tr("Wire %1: %2").arg(text(m_wire.value), m_lies->itemText(index)), [&](job::Job& job) {
        if (lie == Alone) {
            wires::takeLead(job, m_wire);
            return;
        }
        const job::Lead* lead = job::leadOf(job, m_wire);
        const auto cores = lead != nullptr ? std::vector(lead->cores) : wires::besides(job, m_wire);
        const auto wire = std::ranges::find(job.wires, m_wire, &job::Wire::id);
        if (wire != job.wires.end())
            wires::setLead(job, cores, lie != Twisted, drainFor(lie, harness::drainPlaces(job, unitOf(job, *wire))));
    });
}

void WireAdvice::setMethod(int index)
{
    const auto method = static_cast<job::JointMethod>(m_method->itemData(index).toInt());
    m_desk.store.editOrSay(tr("Splice %1: %2").arg(text(m_splice), m_method->itemText(index)), [&](job::Job& job) {
        for (job::Joint& j : job.joints)
            if (j.id == m_splice)
                j.method = method;
    });
}

} // namespace vicegrip::app
