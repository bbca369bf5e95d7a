#include "app/stages/brief/facts_form.h"

#include "app/desk/price.h"
#include "app/views/ecu_chooser.h"
#include "app/widgets/labels.h"
#include "app/widgets/typed_field.h"
#include "core/brief/banks.h"
#include "core/brief/firing_order.h"
#include "core/brief/needs.h"
#include "core/units/shown.h"

#include <QCheckBox>
#include <QComboBox>
#include <QEvent>
#include <QGridLayout>
#include <QLineEdit>
#include <QScrollArea>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace vicegrip::app {
namespace {

using units::Dimension;

constexpr const char* kWatchable[] = {"oil-pressure", "oil-temp", "fuel-pressure", "fuel-temp",     "fuel-level",
                                      "gearbox-temp", "egt",      "turbo-speed",   "charge-coolant"};

/// What the core says against one fact, if it is this field's.
Result<double> sensible(job::Brief brief, const char* field, double value,
                        const std::function<void(job::Brief&, double)>& put)
{
    put(brief, value);
    for (const brief::Nonsense& n : brief::nonsense(brief))
        if (n.field == field)
            return fail(ErrorCode::Range, n.sentence);
    return value;
}

} // namespace

FactsForm::FactsForm(Desk& desk, QWidget* parent)
    : QWidget(parent), m_desk(desk), m_grid(new QGridLayout(this)), m_ecu(new EcuChooser(desk))
{
    using B = job::Brief;
    m_grid->setContentsMargins(0, 0, look::kGap, look::kGap);
    m_grid->setHorizontalSpacing(look::kGap);
    m_grid->setVerticalSpacing(4_px);
    m_grid->setColumnStretch(1, 1);

    addHeading(tr("Engine"));
    addNumber(
        "cylinders", tr("Cylinders"), [](const QString& t) { return units::parse(t.toStdString(), Dimension::Counts); },
        [](double n) { return QString::number(n); }, [](const B& b) { return double(b.cylinders); },
        [](job::Job& j, double n) { j.brief->cylinders = static_cast<int>(std::lround(n)); });
    addNumber( // an engine's size is in litres on both sides of the ocean
        "displacement_l", tr("Displacement"),
        [](const QString& t) { return units::parse(t.toStdString(), Dimension::Volume, "l"); },
        [](double m3) { return text(units::formatIn(m3, Dimension::Volume, "l", 3)); },
        [](const B& b) { return b.displacement_m3; }, [](job::Job& j, double m3) { j.brief->displacement_m3 = m3; });
    addChoice<job::Aspiration>("aspiration", tr("Aspiration"), &B::aspiration,
                               {{job::Aspiration::Natural, tr("Natural")},
                                {job::Aspiration::Turbo, tr("Turbocharged")},
                                {job::Aspiration::Supercharged, tr("Supercharged")}});
    addQuantity("target_kpa", tr("Target boost"), Dimension::GaugePressure, "kPa", 0, &B::target_pa);
    addQuantity("overshoot_kpa", tr("Overshoot"), Dimension::GaugePressure, "kPa", 0, &B::overshoot_pa);
    addNumber(
        "altitude_m", tr("Altitude"),
        [](const QString& t) { return units::parseShown(t.toStdString(), Dimension::Length, "m"); },
        [](double m) { return text(units::format(m, Dimension::Length, "m", 0)); },
        [](const B& b) { return b.altitude_m; }, [](job::Job& j, double m) { brief::setAltitude(j, m); });
    addChoice<job::ChargeCooling>("charge_cooling", tr("Charge cooling"), &B::chargeCooling,
                                  {{job::ChargeCooling::None, tr("None")},
                                   {job::ChargeCooling::Air, tr("By air")},
                                   {job::ChargeCooling::Water, tr("By water")}});
    addHeading(tr("Fuel, air and spark"));
    addChoice<job::Fuel>("fuel", tr("Fuel"), &B::fuel,
                         {{job::Fuel::Petrol, tr("Petrol")},
                          {job::Fuel::Flex, tr("Any ethanol blend, sensed")},
                          {job::Fuel::Ethanol, tr("One ethanol blend")}});
    addQuantity("fuel_kpa", tr("Rail pressure"), Dimension::GaugePressure, "bar", 1, &B::fuel_pa);
    addChoice<job::AirMethod>("air_method", tr("Air method"), &B::airMethod,
                              {{job::AirMethod::SpeedDensity, tr("Speed density")},
                               {job::AirMethod::MassAir, tr("Mass air")},
                               {job::AirMethod::Hybrid, tr("Hybrid")},
                               {job::AirMethod::ThrottleAngle, tr("Throttle angle")}});
    addChoice<job::ThrottleKind>("throttle", tr("Throttle"), &B::throttle,
                                 {{job::ThrottleKind::Cable, tr("Cable")}, {job::ThrottleKind::ByWire, tr("By wire")}});
    addChoice<job::IdleControl>("idle", tr("Idle control"), &B::idle,
                                {{job::IdleControl::None, tr("None")},
                                 {job::IdleControl::Valve, tr("Valve")},
                                 {job::IdleControl::Stepper, tr("Stepper")},
                                 {job::IdleControl::Throttle, tr("The throttle")}});
    addChoice<job::Ignition>("ignition", tr("Ignition"), &B::ignition,
                             {{job::Ignition::Distributor, tr("Distributor")},
                              {job::Ignition::WastedSpark, tr("Wasted spark")},
                              {job::Ignition::Sequential, tr("Sequential")}});
    addFiringOrder();
    addBanks();
    addChoice<bool>("coil_driver", tr("Coils"), &B::coilDriver,
                    {{false, tr("Bare, switched by the ECU")}, {true, tr("With drivers of their own")}});
    addInjectors();
    addQuantity("injector_ohm", tr("Injector winding"), Dimension::Resistance, "Ω", 1, &B::injector_ohm);
    addNumber(
        "fans", tr("Fans"), [](const QString& t) { return units::parse(t.toStdString(), Dimension::Counts); },
        [](double n) { return QString::number(n); }, [](const B& b) { return double(b.fans); },
        [](job::Job& j, double n) { j.brief->fans = static_cast<int>(std::lround(n)); });
    addChoice<job::Gearbox>("gearbox", tr("Gearbox"), &B::gearbox,
                            {{job::Gearbox::Manual, tr("Manual")},
                             {job::Gearbox::Automatic, tr("Automatic")},
                             {job::Gearbox::Sequential, tr("Sequential")}});
    addHeading(tr("What the driver is shown"));
    addShown();
    addHeading(tr("To be watched"));
    addWatched();
    addHeading(tr("ECU and harness"));
    addRow(QStringLiteral("ecu"), tr("ECU"), m_ecu);
    connect(m_ecu, &EcuChooser::describeAsked, this, &FactsForm::describeEcuAsked);
    addChoice<job::HarnessKind>("harness", tr("Harness"), &B::harness,
                                {{job::HarnessKind::Adapter, tr("Adapter lead")},
                                 {job::HarnessKind::Tap, tr("Tap or re-pin")},
                                 {job::HarnessKind::Full, tr("Full harness")}});
    addPrice("price-hour", tr("Price of an hour"), &job::Prices::hour);
    addPrice("price-connector", tr("Of a connector"), &job::Prices::connector);
    addPrice("price-adapter", tr("Of an adapter lead"), &job::Prices::adapter);
    addPrice("price-tap", tr("Of a tap"), &job::Prices::tap);
    addHeading(tr("Tuner"));
    addText("tuner", tr("How reached"), &B::tuner);
    addText("agreed", tr("Agreed so far"), &B::agreed);
    m_grid->setRowStretch(m_grid->rowCount(), 1);
}

job::Brief FactsForm::brief() const
{
    return m_desk.store.job()->brief.value_or(job::Brief{});
}

void FactsForm::addHeading(const QString& text)
{
    auto* heading = label(text, look::Size::Body, true);
    heading->setContentsMargins(0, m_grid->rowCount() > 1 ? look::kGap : 0, 0, 0);
    m_grid->addWidget(heading, m_grid->rowCount(), 0, 1, 2);
}

void FactsForm::addRow(const QString& key, const QString& name, QWidget* widget)
{
    m_fields.push_back({key, name, widget});
    if (qobject_cast<QComboBox*>(widget) != nullptr) {
        widget->setMinimumHeight(look::kField);
        widget->installEventFilter(this);
    }
    const int row = m_grid->rowCount();
    auto* caption = label(name, look::Size::Small, false, true);
    caption->setWordWrap(false);
    caption->setContentsMargins(0, 7_px, 0, 0);
    m_grid->addWidget(caption, row, 0, Qt::AlignTop);
    m_grid->addWidget(widget, row, 1);
}

void FactsForm::addNumber(const char* field, const QString& name, const Understand& read, const Say& say,
                          const Get& get, const Put& put)
{
    const auto understand = [this, field, read, put](const QString& typed) {
        return read(typed).and_then([&](double value) {
            return sensible(brief(), field, value, [&](job::Brief& b, double v) {
                job::Job draft;
                draft.brief = b;
                put(draft, v);
                b = *draft.brief;
            });
        });
    };
    auto* typed = new TypedField(name, [understand, say](const QString& text) {
        return understand(text).map([&](double v) { return say(v); });
    });
    typed->edit()->setObjectName(QLatin1String(field));
    m_typed[field] = typed;
    addRow(QLatin1String(field), name, typed);
    connect(typed, &TypedField::entered, this, [this, typed, name, understand, say, put](const QString& text) {
        if (const auto value = understand(text))
            edit(typed, tr("%1 to %2").arg(name, say(*value)), [&](job::Job& job) { put(job, *value); });
    });
    m_showers.emplace_back([typed, say, get](const job::Brief& b) { typed->setText(say(get(b))); });
}

void FactsForm::addQuantity(const char* field, const QString& name, units::Dimension dimension, const char* unit,
                            int decimals, double job::Brief::*member)
{
    addNumber(
        field, name,
        [dimension, unit](const QString& t) { return units::parseShown(t.toStdString(), dimension, unit); },
        [=](double si) { return text(units::format(si, dimension, unit, decimals)); },
        [member](const job::Brief& b) { return b.*member; },
        [member](job::Job& j, double si) { (*j.brief).*member = si; });
}

void FactsForm::addPrice(const char* field, const QString& name, double job::Prices::*member)
{
    addNumber(
        field, name, [this](const QString& t) { return priceTyped(m_desk, t); },
        [this](double v) { return priceText(m_desk, v); }, [member](const job::Brief& b) { return b.prices.*member; },
        [member](job::Job& j, double v) { j.brief->prices.*member = v; });
}

template <class E>
void FactsForm::addChoice(const char* field, const QString& name, E job::Brief::*member,
                          const std::vector<std::pair<E, QString>>& choices)
{
    auto* box = new QComboBox;
    box->setObjectName(QLatin1String(field));
    box->setAccessibleName(name);
    box->setFont(look::textFont(look::Size::Small));
    for (const auto& [value, words] : choices)
        box->addItem(words, static_cast<int>(value));
    addRow(QLatin1String(field), name, box);
    // What is shown while arrows walk through the list is put in at once: the consequences stand beside it.
    connect(box, &QComboBox::currentIndexChanged, this, [this, box, name, member](int index) {
        const auto value = static_cast<E>(box->itemData(index).toInt());
        edit(nullptr, tr("%1 to %2").arg(name, box->itemText(index)),
             [&](job::Job& job) { (*job.brief).*member = value; });
    });
    m_showers.emplace_back([box, member](const job::Brief& b) {
        const QSignalBlocker quiet(box);
        box->setCurrentIndex(box->findData(static_cast<int>(b.*member)));
    });
}

/// A fact that is a line of its own: what it means stands in it once it is understood.
template <class Value>
void FactsForm::addTyped(const char* field, const QString& name, const QString& example,
                         const std::function<Result<Value>(const QString&)>& understand,
                         const std::function<QString(const Value&)>& say, Value job::Brief::*member)
{
    auto* typed = new TypedField(name, [understand, say](const QString& words) {
        return understand(words).map([&](const Value& v) { return say(v); });
    });
    typed->edit()->setObjectName(QLatin1String(field));
    typed->edit()->setPlaceholderText(example);
    m_typed[field] = typed;
    addRow(QLatin1String(field), name, typed);
    connect(typed, &TypedField::entered, this, [this, typed, name, understand, say, member](const QString& words) {
        if (const auto value = understand(words))
            edit(typed, tr("%1 to %2").arg(name, say(*value)), [&](job::Job& job) { (*job.brief).*member = *value; });
    });
    m_showers.emplace_back([typed, say, member](const job::Brief& b) { typed->setText(say(b.*member)); });
}

/// Left empty, nothing is asked for that the ECU drives.
void FactsForm::addFiringOrder()
{
    addTyped<std::vector<int>>(
        "firing_order", tr("Firing order"), tr("such as 1-3-4-2"),
        [this](const QString& typed) -> Result<std::vector<int>> {
            if (typed.trimmed().isEmpty())
                return std::vector<int>{};
            return brief::firingOrderFrom(typed.toStdString(), brief().cylinders);
        },
        [](const std::vector<int>& order) { return text(brief::firingOrderText(order)); }, &job::Brief::firingOrder);
}

/// Left empty, the engine is in line.
void FactsForm::addBanks()
{
    addTyped<std::vector<job::Bank>>(
        "banks", tr("Banks"), tr("in line; or left 1 3 5, right 2 4 6"),
        [this](const QString& typed) { return brief::banksFrom(typed.toStdString(), brief().cylinders); },
        [](const std::vector<job::Bank>& banks) { return text(brief::banksText(banks)); }, &job::Brief::banks);
}

/// Left empty, there is one a cylinder.
void FactsForm::addInjectors()
{
    addTyped<int>(
        "injectors", tr("Injectors"), tr("one a cylinder"),
        [this](const QString& typed) -> Result<int> {
            if (typed.trimmed().isEmpty())
                return 0;
            return units::parse(typed.toStdString(), Dimension::Counts)
                .and_then([&](double n) {
                    return sensible(brief(), "injectors", n,
                                    [](job::Brief& b, double v) { b.injectors = static_cast<int>(std::lround(v)); });
                })
                .map([](double n) { return static_cast<int>(std::lround(n)); });
        },
        [](const int& n) { return n == 0 ? QString() : QString::number(n); }, &job::Brief::injectors);
}

void FactsForm::addText(const char* field, const QString& name, std::string job::Brief::*member)
{
    auto* line = new QLineEdit;
    line->setObjectName(QLatin1String(field));
    line->setAccessibleName(name);
    line->setMaxLength(2000);
    addRow(QLatin1String(field), name, line);
    connect(line, &QLineEdit::editingFinished, this, [this, line, name, member] {
        edit(nullptr, tr("%1 noted").arg(name),
             [&](job::Job& job) { (*job.brief).*member = line->text().trimmed().toStdString(); });
    });
    m_showers.emplace_back([line, member](const job::Brief& b) {
        if (!line->hasFocus())
            line->setText(text(b.*member));
    });
}

bool FactsForm::goTo(const QString& field)
{
    const auto it = std::ranges::find(m_fields, field, &Field::key);
    if (it == m_fields.end())
        return false;
    QWidget* keys = it->widget;
    for (QWidget* inside : keys->findChildren<QWidget*>())
        if (qobject_cast<QLineEdit*>(inside) != nullptr || qobject_cast<QComboBox*>(inside) != nullptr) {
            keys = inside;
            break;
        }
    keys->setFocus();
    for (QWidget* up = parentWidget(); up != nullptr; up = up->parentWidget())
        if (auto* scroll = qobject_cast<QScrollArea*>(up))
            scroll->ensureWidgetVisible(keys);
    return true;
}

/// The wheel scrolls the form and changes no fact.
bool FactsForm::eventFilter(QObject* watched, QEvent* event)
{
    if (event->type() == QEvent::Wheel) {
        event->ignore();
        return true;
    }
    return QWidget::eventFilter(watched, event);
}

QCheckBox* FactsForm::addCheck(QGridLayout* grid, const QString& name, const QString& objectName)
{
    auto* box = new QCheckBox(name);
    box->setObjectName(objectName);
    box->setFont(look::textFont(look::Size::Small));
    const int n = grid->count();
    grid->addWidget(box, n / 2, n % 2);
    return box;
}

void FactsForm::addShown()
{
    auto* list = new QWidget;
    auto* grid = new QGridLayout(list);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setVerticalSpacing(2);
    for (const auto& [id, member] : {std::pair("tachometer", &job::Brief::tachometer),
                                     {"warning-lamp", &job::Brief::warningLamp},
                                     {"display", &job::Brief::display}}) {
        const QString name = said(brief::findFunction({id})->name);
        QCheckBox* box = addCheck(grid, name, QStringLiteral("shown-") + QLatin1String(id));
        connect(box, &QCheckBox::toggled, this, [this, name, member = member](bool on) {
            edit(nullptr, on ? tr("Show by %1").arg(name) : tr("No %1").arg(name),
                 [&](job::Job& job) { (*job.brief).*member = on; });
        });
        m_showers.emplace_back([box, member = member](const job::Brief& b) {
            const QSignalBlocker quiet(box);
            box->setChecked(b.*member);
        });
    }
    m_grid->addWidget(list, m_grid->rowCount(), 0, 1, 2);
}

void FactsForm::addWatched()
{
    auto* list = new QWidget;
    auto* grid = new QGridLayout(list);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setVerticalSpacing(2);
    for (const char* id : kWatchable) {
        const brief::Function& f = *brief::findFunction({id});
        QCheckBox* box = addCheck(grid, said(f.name), QStringLiteral("watch-") + QLatin1String(id));
        m_watch[id] = box;
        connect(box, &QCheckBox::toggled, this, [this, id = std::string(id), box](bool on) {
            edit(nullptr, on ? tr("Watch %1").arg(box->text()) : tr("No longer watch %1").arg(box->text()),
                 [&](job::Job& job) {
                     std::erase(job.brief->watch, id);
                     if (on)
                         job.brief->watch.push_back(id);
                 });
        });
    }
    m_grid->addWidget(list, m_grid->rowCount(), 0, 1, 2);
}

void FactsForm::refresh()
{
    const auto job = m_desk.store.job();
    const job::Brief facts = brief();
    for (const auto& show : m_showers)
        show(facts);
    for (const char* boost : {"target_kpa", "overshoot_kpa"})
        m_typed.at(boost)->setEnabled(facts.boosted());
    for (const brief::Nonsense& n : brief::nonsense(facts))
        if (const auto field = m_typed.find(n.field); field != m_typed.end())
            field->second->refuse(QString::fromStdString(n.sentence));
    for (const auto& [id, box] : m_watch) {
        const QSignalBlocker quiet(box);
        box->setChecked(std::ranges::find(facts.watch, id) != facts.watch.end());
    }
    m_ecu->refresh();
}

void FactsForm::edit(TypedField* field, const QString& description, const Change& change)
{
    const auto inBrief = [&](job::Job& job) {
        if (!job.brief)
            job.brief.emplace();
        return change(job);
    };
    if (field == nullptr)
        m_desk.store.editOrSay(description, inBrief);
    else if (const auto done = m_desk.store.edit(description, inBrief); !done)
        field->refuse(QString::fromStdString(done.error().sentence));
}

} // namespace vicegrip::app
