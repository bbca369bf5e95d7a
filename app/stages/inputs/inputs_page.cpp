#include "app/stages/inputs/inputs_page.h"

#include "app/stages/inputs/bus_line.h"
#include "app/stages/inputs/input_setting.h"
#include "app/stages/inputs/seat_all.h"
#include "app/stages/inputs/seating_view.h"
#include "app/stages/inputs/ways_list.h"
#include "app/views/ecu_chooser.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "core/harness/edits.h"
#include "core/seating/compatibility.h"

#include <QHBoxLayout>
#include <QScrollArea>
#include <QShortcut>
#include <QVBoxLayout>

namespace vicegrip::app {
namespace {

constexpr look::Px kSide{316}, kChooser{420};

QString milliamps(double a)
{
    return text(units::format(a, units::Dimension::Current, "mA", 0));
}

/// For the middle of a sentence: "Cavity A7" becomes "cavity A7".
QString lowered(QString words)
{
    return words.isEmpty() ? words : words.replace(0, 1, words.at(0).toLower());
}

/// "cavity A7", or "cavity A30, cavity A31".
QString cavitiesText(const job::Job& job, const job::Circuit& circuit)
{
    QStringList out;
    for (const job::PointRef& cavity : job::seatCavities(job, circuit))
        out << lowered(text(job::spoken(job, cavity)));
    if (out.isEmpty())
        return InputsPage::tr("inside the unit, by a hose");
    return out.join(QStringLiteral(", "));
}

} // namespace

InputsPage::InputsPage(Desk& desk, QWidget* parent)
    : StagePage(desk, parent),
      m_view(new SeatingView(desk)),
      m_setting(new InputSetting(desk)),
      m_bus(new BusLine),
      m_scroll(new QScrollArea),
      m_outcome(label({}, look::Size::Small, false, true)),
      m_name(label({}, look::Size::Title, true)),
      m_sensor(label({}, look::Size::Small, false, true)),
      m_seat(label({}, look::Size::Body)),
      m_pointed(label({}, look::Size::Small)),
      m_budgets(label({}, look::Size::Small)),
      m_seatAll(new KeyButton(tr("Seat all"), QStringLiteral("S"), true)),
      m_unseat(new KeyButton(tr("Unseat"), QStringLiteral("Del"), false)),
      m_lock(new KeyButton(tr("Lock"), QStringLiteral("L"), false)),
      m_ways(new WaysList(desk)),
      m_seating(new SeatAll(desk, this)),
      m_side(new QScrollArea),
      m_noEcu(new QWidget),
      m_ecu(new EcuChooser(desk))
{
    m_scroll->setWidget(m_view);
    m_scroll->setWidgetResizable(true);
    m_scroll->setFrameShape(QFrame::NoFrame);
    m_scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_scroll->setFocusPolicy(Qt::NoFocus);
    handFocus(m_scroll, m_view);

    m_seatAll->setObjectName(QStringLiteral("seat-all"));
    m_unseat->setObjectName(QStringLiteral("unseat"));
    m_lock->setObjectName(QStringLiteral("lock"));
    m_outcome->setObjectName(QStringLiteral("seating-outcome"));
    m_seat->setObjectName(QStringLiteral("seat"));
    m_pointed->setObjectName(QStringLiteral("pointed"));
    m_pointed->hide();
    m_budgets->setObjectName(QStringLiteral("budgets"));

    auto* side = new QWidget;
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, look::kGap, 0);
    column->setSpacing(6_px);
    column->addWidget(m_seatAll);
    column->addWidget(m_outcome);
    column->addSpacing(look::kGap);
    column->addWidget(m_name);
    column->addWidget(m_sensor);
    column->addWidget(m_seat);
    column->addWidget(m_pointed);
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(m_unseat);
    buttons->addWidget(m_lock);
    buttons->addStretch();
    column->addLayout(buttons);
    column->addWidget(m_setting);
    column->addWidget(m_bus);
    column->addSpacing(look::kGap);
    column->addWidget(m_ways);
    column->addSpacing(look::kGap);
    column->addWidget(label(tr("Sensor supply and ground"), look::Size::Body, true));
    column->addWidget(m_budgets);
    column->addStretch();
    m_side->setAccessibleName(tr("The circuit, its seat and its ways out"));
    m_side->setWidget(side);
    m_side->setWidgetResizable(true);
    m_side->setFrameShape(QFrame::NoFrame);
    m_side->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_side->setFixedWidth(kSide);

    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(look::kMargin, look::kMargin, look::kMargin, look::kGap);
    row->setSpacing(24_px);
    row->addWidget(m_scroll, 1);
    row->addWidget(m_side);
    buildNoEcu();
    row->addWidget(m_noEcu, 1);

    connect(m_seatAll, &KeyButton::clicked, this, &InputsPage::seatAll);
    connect(m_seating, &SeatAll::came, this, &InputsPage::sayProgress);
    connect(m_seating, &SeatAll::found, this, &InputsPage::saySeated);
    connect(m_unseat, &KeyButton::clicked, this, &InputsPage::unseat);
    connect(m_lock, &KeyButton::clicked, this, &InputsPage::toggleLock);
    connect(m_view, &SeatingView::seatAsked, this, &InputsPage::seatOn);
    connect(m_view, &SeatingView::unseatAsked, this, &InputsPage::unseat);
    connect(m_view, &SeatingView::lockAsked, this, &InputsPage::toggleLock);
    connect(m_view, &SeatingView::described, this, [this](const QString& words) {
        m_pointed->setText(words);
        m_pointed->setVisible(!words.isEmpty());
    });
    connect(m_view, &SeatingView::keepInSight, this,
            [this](const QRect& where) { m_scroll->ensureVisible(0, where.center().y(), 0, where.height()); });
    connect(new QShortcut(QKeySequence(Qt::Key_S), this), &QShortcut::activated, this, &InputsPage::seatAll);
    for (int n = 1; n <= 9; ++n)
        connect(new QShortcut(QKeySequence(tr("Alt+%1").arg(n)), this), &QShortcut::activated, this,
                [this, n] { m_ways->take(static_cast<size_t>(n - 1)); });
    handFocus(this, m_view);
}

/// In the place of everything about inputs, while there are none.
void InputsPage::buildNoEcu()
{
    auto* column = new QVBoxLayout(m_noEcu);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(look::kGap);
    auto* what = label(tr("Which ECU is it?"), look::Size::Title, true);
    what->setObjectName(QStringLiteral("no-ecu"));
    column->addWidget(what);
    column->addWidget(
        label(tr("Circuits are seated on its inputs, and wired to its cavities. Choose it from the library, "
                 "or describe it from its pinout."),
              look::Size::Body, false, true));
    m_ecu->setMaximumWidth(kChooser);
    column->addWidget(m_ecu);
    column->addStretch();
    connect(m_ecu, &EcuChooser::describeAsked, this, [this] { emit describePart(PartKind::Ecu); });
}

const job::Circuit* InputsPage::circuit() const
{
    return job::find(*m_desk.store.job(), m_desk.selection.circuit());
}

void InputsPage::edit(const QString& description, const Change& change)
{
    m_desk.store.editOrSay(description, change);
}

void InputsPage::refresh()
{
    const bool none = job::inputs(*m_desk.store.job()).empty();
    m_noEcu->setVisible(none);
    m_side->setVisible(!none);
    m_scroll->setVisible(!none);
    m_ecu->refresh();
    m_view->refresh();
    refreshSelected();
    m_ways->refresh();
    refreshBudgets();
    m_outcome->setText(
        m_said.isEmpty()
            ? tr("Seats sensors and what the ECU drives as well as can be, and says whether that is proved. "
                 "Locked ones stay.")
            : m_said);
}

void InputsPage::seatAll()
{
    if (m_seating->isAtWork())
        m_seating->end();
    else
        m_seating->start();
}

/// Only what takes long comes here.
void InputsPage::sayProgress(const seating::Progress& progress)
{
    if (!m_seating->isAtWork())
        return;
    m_seatAll->setText(tr("Enough: take the best so far"));
    m_outcome->setText(tr("Step %1 of %2: %3 seated in the best plan so far.")
                           .arg(progress.step)
                           .arg(progress.steps)
                           .arg(progress.seated));
}

void InputsPage::saySeated(const seating::Plan& plan)
{
    m_seatAll->setText(tr("Seat all"));
    m_said = tr("Seated %1 required, %2 wanted, %3 preferred; %4 without a seat; %5 moved. %6")
                 .arg(plan.required)
                 .arg(plan.wanted)
                 .arg(plan.preferred)
                 .arg(plan.unseated.size())
                 .arg(plan.moved)
                 .arg(plan.optimal ? tr("Proved: no other plan seats more.")
                                   : tr("The best found; that no other seats more is not proved."));
    // What is left without a seat is what to look at next.
    if (!plan.unseated.empty())
        m_desk.selection.setCircuit(plan.unseated.front());
    refresh();
}

void InputsPage::seatOn(const QString& seat)
{
    const job::Circuit* c = circuit();
    if (c == nullptr)
        return;
    const auto job = m_desk.store.job();
    const parts::InputId input{seat.toStdString()};
    const parts::OutputId output{seat.toStdString()};
    const bool reads = job::findInput(*job, input) != nullptr;
    if (!reads && job::findOutput(*job, output) == nullptr)
        return;
    const job::Circuit* there = reads                                       ? job::seatedOn(*job, input)
                                : job::findOutput(*job, output)->isShared() ? nullptr
                                                                            : job::drivenBy(*job, output);
    if (const QString reason = text(seating::unfitness(*job, *c, seat.toStdString())); !reason.isEmpty()) {
        emit notice(tr("%1 does not take %2: %3.").arg(seat, text(c->name), reason));
        return;
    }
    if (there != nullptr && there->locked && there->id != c->id) {
        emit notice(tr("%1 is locked to %2: unlock it first.").arg(seat, text(there->name)));
        return;
    }
    edit(tr("Seat %1 on %2").arg(text(c->name), seat), [&, circuit = c->id](job::Job& changed) {
        return reads ? seating::seat(changed, circuit, input) : harness::seat(changed, circuit, output);
    });
}

void InputsPage::unseat()
{
    const job::Circuit* c = circuit();
    if (c != nullptr && job::isSeated(*c))
        edit(tr("Unseat %1").arg(text(c->name)),
             [circuit = c->id](job::Job& job) { return harness::unseat(job, circuit); });
}

void InputsPage::toggleLock()
{
    const job::Circuit* c = circuit();
    if (c == nullptr || !job::isSeated(*c))
        return;
    edit(c->locked ? tr("Unlock %1").arg(text(c->name)) : tr("Lock %1").arg(text(c->name)),
         [circuit = c->id](job::Job& job) {
             job::Circuit* changed = job::find(job, circuit);
             changed->locked = !changed->locked;
         });
}

/// Which edge of a wheel's signal is counted, on a line of its own; empty: it reads no wheel, or it is all the same.
QString InputsPage::edgeText(const job::Circuit* c) const
{
    const parts::Part* sensor = c == nullptr ? nullptr : job::sensorOf(*m_desk.store.job(), *c);
    const auto sharp = sensor == nullptr ? std::nullopt : job::sharpEdge(*sensor);
    if (!sharp)
        return {};
    const QString best = said(fields::enumName(*sharp));
    if (!c->trigger || !c->trigger->edge)
        return tr("\nTo count is its %1 edge, the sharp one").arg(best);
    if (c->trigger->edge == sharp)
        return tr("\nCounts its %1 edge, the sharp one").arg(best);
    return tr("\nCounts its %1 edge: the %2 one is the sharp one").arg(said(fields::enumName(*c->trigger->edge)), best);
}

void InputsPage::refreshSelected()
{
    const auto job = m_desk.store.job();
    const job::Circuit* c = circuit();
    const parts::Part* part = c == nullptr ? nullptr : job::partOf(*job, *c);
    m_name->setText(c == nullptr ? tr("No circuit") : text(c->name));
    m_sensor->setText(part == nullptr ? tr("The brief brings circuits in: Ctrl+1.") : text(part->name));
    const bool seated = c != nullptr && job::isSeated(*c);
    m_seat->setText(
        c == nullptr ? QString()
        : seated     ? tr("Sits on %1, %2%3")
                       .arg(text(job::seatOf(*c)), cavitiesText(*job, *c), c->locked ? tr(", locked") : QString())
                 : tr("Has no seat (%1)").arg(said(fields::enumName(c->want))));
    m_seat->setText(m_seat->text() + edgeText(c));
    m_setting->refresh();
    const auto lines =
        c != nullptr && part != nullptr && parts::isOnBus(*part) ? bus::buses(*job) : std::vector<bus::Bus>{};
    const auto line = std::ranges::find_if(lines, [&](const bus::Bus& b) { return b.port == c->output; });
    m_bus->show(line == lines.end() ? nullptr : &*line, c == nullptr ? job::CircuitId{} : c->id);
    m_unseat->setEnabled(seated);
    m_lock->setEnabled(seated);
    m_lock->setText(c != nullptr && c->locked ? tr("Unlock") : tr("Lock"));
    m_lock->updateGeometry();
}

void InputsPage::refreshBudgets()
{
    QStringList lines;
    for (const auto& b : seating::supplyBudgets(*m_desk.store.job()))
        if (!b.ofNone())
            lines << tr("%1: %2 of %3 drawn by %4 of its sensors. Sensor ground cavities: %5, for %6 circuits.")
                         .arg(text(b.unit), milliamps(b.drawn_a), milliamps(b.limit_a))
                         .arg(b.circuits)
                         .arg(b.grounds)
                         .arg(b.groundUsers);
    m_budgets->setText(lines.join(QLatin1Char('\n')));
}

} // namespace vicegrip::app
