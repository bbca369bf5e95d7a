#include "app/stages/meter/places_view.h"

#include "app/stages/meter/belief_view.h"

#include "app/desk/when.h"
#include "app/stages/meter/surroundings_form.h"
#include "app/widgets/caution.h"
#include "app/widgets/circuit_text.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/state_glyph.h"
#include "app/widgets/typed_field.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLineEdit>
#include <QScrollArea>
#include <QShortcut>
#include <QTableWidget>
#include <QVBoxLayout>

namespace vicegrip::app {
namespace {

enum Column { Mark, Place, Must, Read, kColumns };
constexpr look::Px kTableWidth{420}, kLeastTable{300};

/// What hands must heed under this condition. Local codes and licensed practice come first.
QString cautionFor(job::Condition condition, bool onBus)
{
    if (condition == job::Condition::BatteryOff && onBus)
        return PlacesView::tr(
            "Battery negative lead off (both leads where the maker says so), engine cool. Across a bus "
            "with every plug of it on; its other wires with the ECU plugs off. Only then measure Ω.");
    if (condition == job::Condition::BatteryOff)
        return PlacesView::tr("Battery negative lead off (both leads where the maker says so), ECU plugs off, engine "
                              "cool. Only then measure Ω.");
    if (condition == job::Condition::Cranking)
        return PlacesView::tr("The engine turns: gearbox in neutral and locked, injectors and coils unplugged, hands, "
                              "sleeves and leads clear of belts and fans, ten seconds at a time. Local rules and "
                              "licensed practice come first.");
    if (condition == job::Condition::Running)
        return PlacesView::tr("The engine runs: hands, sleeves and leads clear of belts, fans, hot parts and the "
                              "ignition's high voltage; exhaust led outside, extinguisher at hand. Local rules and "
                              "licensed practice come first.");
    return PlacesView::tr(
        "Key on runs the fuel pump for some seconds: check for leaks first, no flame, extinguisher at hand, ventilate. "
        "Hands and sleeves clear of fans. Local rules and licensed practice come first.");
}

} // namespace

PlacesView::PlacesView(Desk& desk, QWidget* parent) : QWidget(parent), m_desk(desk)
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, look::kGap, 0, 0);
    row->setSpacing(look::kMargin);
    auto* left = new QVBoxLayout;
    left->setSpacing(6_px); // children would inherit the row's wide one
    buildProbe(left);
    row->addLayout(left, 1);
    auto* right = new QVBoxLayout;
    right->setSpacing(6_px);
    buildTable(right);
    row->addLayout(right, 1);
}

void PlacesView::buildProbe(QVBoxLayout* column)
{
    m_context = label({}, look::Size::Small, false, true);
    m_title = label({}, look::Size::Title, true);
    m_title->setObjectName(QStringLiteral("probe"));
    m_leads = label({}, look::Size::Body, false, true);
    m_leads->setObjectName(QStringLiteral("leads"));
    column->addWidget(m_context);
    column->addWidget(m_title);
    column->addWidget(m_leads);
    column->addSpacing(look::kGap);

    auto* figures = new QHBoxLayout;
    figures->setSpacing(look::kMargin);
    auto* must = new QVBoxLayout;
    must->setSpacing(4_px);
    must->addWidget(label(tr("must read"), look::Size::Small, false, true));
    m_must = figure({}, look::Size::Big);
    m_must->setObjectName(QStringLiteral("must-read"));
    m_bounds = figure({}, look::Size::Body);
    m_bounds->setObjectName(QStringLiteral("bounds"));
    m_bounds->setForegroundRole(QPalette::PlaceholderText);
    m_unit = figure({}, look::Size::Title);
    auto* number = new QHBoxLayout;
    number->setSpacing(look::kGap);
    number->addWidget(m_must);
    number->addWidget(m_unit, 0, Qt::AlignBottom);
    number->addStretch(1);
    m_unit->setContentsMargins(0, 0, 0, 8_px);
    must->addLayout(number);
    must->addWidget(m_bounds);
    must->addStretch(1);
    figures->addLayout(must);
    auto* reads = new QVBoxLayout;
    reads->setSpacing(4_px);
    reads->addWidget(label(tr("reads"), look::Size::Small, false, true));
    m_reading = new TypedField(tr("Reading"), [this](const QString& typed) -> Result<QString> {
        const proof::Judged* at = probed();
        if (at == nullptr)
            return QString();
        return proof::parseReading(at->expectation, typed.trimmed().toStdString())
            .map([&](const job::Reading& reading) { return text(job::readingText(reading, at->expectation.unit)); });
    });
    m_reading->setObjectName(QStringLiteral("reading"));
    m_reading->edit()->setFont(look::numbers(look::Size::Title));
    m_reading->edit()->setFixedHeight(52_px);
    m_reading->setFixedWidth(144_px);
    m_reading->leaveLettersWhileEmpty();
    m_reading->setHint(tr("type it, or M takes it"));
    reads->addWidget(m_reading);
    reads->addStretch(1);
    figures->addLayout(reads);
    figures->addStretch();
    column->addLayout(figures);

    m_verdict = label({}, look::Size::Body, true);
    m_verdict->setObjectName(QStringLiteral("verdict"));
    m_verdict->setMinimumHeight(28_px);
    column->addWidget(m_verdict);

    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(look::kGap);
    m_take = new KeyButton(tr("Take reading"), tr("M"), true);
    m_take->setObjectName(QStringLiteral("take"));
    m_on = new KeyButton(tr("Next place"), tr("N"), false);
    m_on->setObjectName(QStringLiteral("next-place"));
    buttons->addWidget(m_take);
    buttons->addWidget(m_on);
    buttons->addStretch();
    column->addLayout(buttons);
    column->addSpacing(look::kGap);
    m_caution = new Caution;
    column->addWidget(m_caution);
    m_belief = new BeliefView(m_desk);
    auto* room = new QScrollArea; // with large letters it is higher than what is left
    room->setMinimumHeight(1);
    room->setWidget(m_belief);
    room->setWidgetResizable(true);
    room->setFrameShape(QFrame::NoFrame);
    room->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    room->setFocusPolicy(Qt::NoFocus);
    room->hide();
    connect(m_belief, &BeliefView::changed, room, [this, room] { room->setVisible(m_belief->says()); });
    connect(&m_desk.selection, &Selection::pointedChanged, this, &PlacesView::showTable);
    connect(new QShortcut(QKeySequence(Qt::Key_D), this), &QShortcut::activated, m_belief, &BeliefView::mended);
    connect(m_reading->edit(), &QLineEdit::returnPressed, this, [this] { // Enter with nothing to record
        if (m_reading->edit()->text().trimmed().isEmpty())
            m_belief->goThere();
    });
    column->addWidget(room, 100);
    column->addStretch(1);

    connect(m_take, &QAbstractButton::clicked, this, &PlacesView::take);
    connect(m_on, &QAbstractButton::clicked, this, &PlacesView::goOn);
    connect(new QShortcut(QKeySequence(Qt::Key_M), this), &QShortcut::activated, this, &PlacesView::take);
    connect(new QShortcut(QKeySequence(Qt::Key_N), this), &QShortcut::activated, this, &PlacesView::goOn);
    connect(new QShortcut(QKeySequence(Qt::Key_G), this), &QShortcut::activated, m_belief, &BeliefView::goThere);
    connect(m_reading, &TypedField::entered, this, &PlacesView::recordTyped);
}

void PlacesView::buildTable(QVBoxLayout* column)
{
    column->addWidget(label(tr("Places on this circuit"), look::Size::Small, false, true));
    m_table = new QTableWidget(0, kColumns);
    m_table->setObjectName(QStringLiteral("places"));
    m_table->setAccessibleName(tr("Places on this circuit"));
    m_table->setMinimumWidth(kLeastTable);
    m_table->setMaximumWidth(kTableWidth);
    m_table->setHorizontalHeaderLabels({QString(), tr("Place"), tr("Must read"), tr("Read")});
    m_table->verticalHeader()->hide();
    m_table->verticalHeader()->setDefaultSectionSize(30_px);
    m_table->horizontalHeader()->setSectionResizeMode(Place, QHeaderView::Stretch);
    m_table->horizontalHeader()->setHighlightSections(false);
    m_table->horizontalHeader()->setFont(look::textFont(look::Size::Small));
    m_table->horizontalHeaderItem(Place)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    for (int numeric : {Must, Read})
        m_table->horizontalHeaderItem(numeric)->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
    m_table->setColumnWidth(Mark, 34_px);
    m_table->setShowGrid(false);
    m_table->setWordWrap(false);
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setSelectionMode(QAbstractItemView::SingleSelection);
    m_table->setTabKeyNavigation(false);
    m_table->setItemDelegateForColumn(Mark, new StateDelegate(m_table));
    column->addWidget(m_table);
    column->addSpacing(look::kGap);
    m_surroundings = new SurroundingsForm(m_desk);
    column->addWidget(m_surroundings);
    connect(m_table, &QTableWidget::cellActivated, this, [this] { m_belief->goThere(); });
    connect(m_table, &QTableWidget::currentCellChanged, this, [this](int row) {
        if (row >= 0 && static_cast<size_t>(row) < m_stations.size())
            m_desk.selection.setStation(m_stations[static_cast<size_t>(row)].expectation.station.key);
    });
}

const proof::Judged* PlacesView::probed() const
{
    for (const proof::Judged& j : m_stations)
        if (j.expectation.station.key == m_desk.selection.station())
            return &j;
    return nullptr;
}

void PlacesView::refresh()
{
    m_analysis = m_desk.store.analysis();
    m_surroundings->refresh();
    m_belief->refresh();
    m_stations.clear();
    const job::Circuit* circuit = job::find(*m_analysis->job, m_desk.selection.circuit());
    const parts::Part* part = circuit == nullptr ? nullptr : job::partOf(*m_analysis->job, *circuit);
    const bool inside = circuit != nullptr && isInside(*circuit);
    for (proof::Judged& j : m_desk.promises.of(m_desk.selection.circuit(), m_desk.selection.condition()))
        if (const proof::Expectation& e = j.expectation;
            inside || e.station.kind == proof::StationKind::Probe ||
            (e.station.kind != proof::StationKind::Counts && e.promises())) // those are the input's volts again
            m_stations.push_back(std::move(j));
    m_caution->setText(cautionFor(m_desk.selection.condition(), part != nullptr && parts::isOnBus(*part)));
    if (circuit == nullptr || m_stations.empty()) {
        m_title->setText(tr("Nothing to probe"));
        m_leads->setText(
            !m_analysis->networkTrouble.empty() ? text(m_analysis->networkTrouble)
            : circuit == nullptr                ? tr("Choose a circuit on the left.")
            : !job::isSeated(*circuit)
                ? tr("It has no seat on the ECU yet: Ctrl+2 finds it one, and the wiring is drawn from there.")
                : tr("None of its wires is drawn yet: they are drawn when it is seated again at Ctrl+2."));
        for (QLabel* l : {m_context, m_must, m_unit, m_bounds, m_verdict})
            l->clear();
        m_take->setEnabled(false);
        showTable();
        return;
    }
    if (probed() == nullptr) { // Enter the circuit where the work is.
        const auto all = analysis::standings(*m_analysis, circuit->id, m_desk.selection.condition());
        const int next = proof::nextStation(all);
        m_desk.selection.setStation(next < 0 ? m_stations.front().expectation.station.key
                                             : all[static_cast<size_t>(next)].place.station.key);
        return; // the change brings us here again
    }
    showProbe(*circuit);
    showTable();
}

/// No probe reaches its sensor: the ECU says what it reads.
bool PlacesView::isInside(const job::Circuit& circuit) const
{
    const parts::Part* part = job::partOf(*m_analysis->job, circuit);
    return part != nullptr && parts::isInside(*part);
}

void PlacesView::showProbe(const job::Circuit& circuit)
{
    const proof::Judged& at = *probed();
    const proof::Expectation& e = at.expectation;
    const auto& c = look::colours();
    const QString colour = wireAt(*m_analysis->job, e.station.point);
    m_context->setText(
        text(circuit.name) + QStringLiteral(", ") + conditionText(*m_analysis->job, m_desk.selection.condition()) +
        (e.needed && at.state != proof::State::Failing ? tr(" · proving this place proves the wire") : QString()));
    const QString place = text(e.station.label).replace(0, 1, text(e.station.label).left(1).toLower());
    const bool byProbe = e.station.kind == proof::StationKind::Probe;
    m_title->setText(byProbe ? tr("Probe %1").arg(place) : tr("Read %1 off the ECU").arg(place));
    m_leads->setText(
        byProbe ? tr("red lead on %1, black lead on %2")
                      .arg(colour.isEmpty() ? tr("the joint") : tr("the %1 wire").arg(colour), text(e.black))
        : isInside(circuit)
            ? tr("no lead: the sensor is inside, its hose on the port and the engine stopped")
            : tr("no lead: M takes what it sends; or type what its screen shows, OL where it shows nothing"));
    const QString must = dueOrDash(e);
    const qsizetype unit = e.promises() ? must.indexOf(u' ') : must.lastIndexOf(u' '); // "101.3 kPa abs", "0.1 / 5.0 V"
    m_must->setText(must.left(unit));
    m_unit->setText(must.mid(unit + 1, unit < 0 ? 0 : -1));
    m_bounds->setText(e.promises() ? text(proof::boundsText(e)) : text(e.trouble));
    m_take->setEnabled(e.promises());
    m_reading->edit()->setEnabled(e.promises());
    QString said;
    if (at.state == proof::State::Stale)
        said = tr("Stale: %1").arg(text(at.reason));
    else if (at.state == proof::State::Failing)
        said = tr("%1: not as drawn").arg(text(at.reason)); // against what was promised when it was read
    else if (at.last != nullptr)
        said = tr("%1: proved").arg(text(proof::verdictText(e, at.last->reading)));
    m_verdict->setText(said);
    setInk(m_verdict, at.last == nullptr ? c.ink : inkOf(at.state));
}

void PlacesView::showTable()
{
    const QSignalBlocker quiet(m_table);
    const job::Circuit* circuit = job::find(*m_analysis->job, m_desk.selection.circuit());
    const parts::Part* part = circuit == nullptr ? nullptr : job::partOf(*m_analysis->job, *circuit);
    m_table->setRowCount(static_cast<int>(m_stations.size()));
    const QFontMetrics header(m_table->horizontalHeader()->font()), figures(look::numbers(look::Size::Small));
    std::array<int, kColumns> widest{};
    for (const int numeric : {Must, Read})
        widest[numeric] =
            std::max<int>(72_px, header.horizontalAdvance(m_table->horizontalHeaderItem(numeric)->text()));
    for (int i = 0; i < m_table->rowCount(); ++i) {
        const proof::Judged& j = m_stations[static_cast<size_t>(i)];
        const proof::Expectation& e = j.expectation;
        const auto cell = [&](int column, const QString& words, const QFont& font, const QColor& ink) {
            auto* item = new QTableWidgetItem(words);
            item->setFont(font);
            item->setForeground(ink);
            if (column >= Must) {
                item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
                widest[column] = std::max(widest[column], figures.horizontalAdvance(words));
            }
            m_table->setItem(i, column, item);
            return item;
        };
        const auto& c = look::colours();
        QTableWidgetItem* mark = cell(Mark, {}, look::textFont(look::Size::Small), c.ink);
        mark->setData(kStateRole, static_cast<int>(j.state));
        mark->setData(Qt::AccessibleTextRole, said(proof::stateName(j.state)));
        const bool pointed = e.station.key == m_desk.selection.pointed();
        QTableWidgetItem* place =
            cell(Place,
                 (pointed ? QStringLiteral("→ ") : QString()) + text(e.station.label) + QStringLiteral(" · ") +
                     (e.station.kind != proof::StationKind::Probe ? tr("the ECU")
                      : part == nullptr                           ? QString()
                                                                  : text(parts::roleWords(*part, e.station.role))),
                 look::textFont(look::Size::Small, e.needed || pointed), pointed ? c.accent : c.ink);
        if (pointed)
            place->setToolTip(tr("Tells most of what is wrong; G goes there."));
        cell(Must, dueOrDash(e), look::numbers(look::Size::Small), c.ink);
        cell(Read, j.last != nullptr ? text(job::readingText(j.last->reading, e.unit)) : QStringLiteral("–"),
             look::numbers(look::Size::Small), inkOf(j.state));
        if (e.station.key == m_desk.selection.station())
            m_table->setCurrentCell(i, Place);
    }
    for (const int numeric : {Must, Read})
        m_table->setColumnWidth(numeric, widest[numeric] + 16_px);
}

void PlacesView::take()
{
    const proof::Judged* at = probed();
    if (at == nullptr || !at->expectation.promises())
        return;
    if (at->expectation.station.kind != proof::StationKind::Probe) {
        takeFromEcu(at->expectation);
        return;
    }
    const job::CircuitId circuit = m_desk.selection.circuit();
    const std::string station = at->expectation.station.key;
    m_take->setEnabled(false);
    m_verdict->setText(tr("Taking a reading"));
    m_desk.live.takeReading(
        text(at->expectation.station.point.text()), text(at->expectation.blackPoint.text()),
        m_desk.selection.condition(),
        [this, circuit, station](const std::optional<job::Reading>& reading, const QString& sentence) {
            m_take->setEnabled(true);
            const Selection& now = m_desk.selection; // volts with the key on are none without it
            if (reading && now.circuit() == circuit && now.station() == station &&
                now.condition() == reading->condition()) {
                record(*reading, job::ReadingSource::Meter);
                return;
            }
            m_verdict->setText(reading ? tr("Another place, or the key was turned: read it again.") : sentence);
            setInk(m_verdict, look::colours().failing);
        });
}

void PlacesView::takeFromEcu(const proof::Expectation& place)
{
    const job::Circuit* circuit = job::find(*m_analysis->job, m_desk.selection.circuit());
    const QString past = m_desk.live.notOfNow();
    if (const auto now = m_desk.live.now(*m_analysis->job, *circuit, place); now && past.isEmpty()) {
        record(*now, job::ReadingSource::Ecu);
        return;
    }
    const QString silent = tr("The ECU sends nothing here: type what its screen shows, OL where it shows nothing.");
    m_verdict->setText(past.isEmpty() ? silent : past);
    setInk(m_verdict, look::colours().failing);
}

/// What does not stand or still proves the circuit, here, then under another condition; then what is untouched; the
/// neighbour when all are proved.
void PlacesView::goOn()
{
    const auto count = m_stations.size();
    if (count == 0)
        return;
    size_t here = 0;
    while (here < count && &m_stations[here] != probed())
        ++here;
    const auto after = [&](const auto& wanted) { // from here on, round
        for (size_t step = 1; step < count; ++step)
            if (const proof::Judged& j = m_stations[(here + step) % count]; j.expectation.promises() && wanted(j))
                return &j;
        return static_cast<const proof::Judged*>(nullptr);
    };
    const auto lapsed = [](proof::State s) { return s == proof::State::Failing || s == proof::State::Stale; };
    const auto byProbe = [](const proof::Judged& j) { return j.expectation.station.kind == proof::StationKind::Probe; };
    const proof::Judged* next = after([&](const proof::Judged& j) {
        return (lapsed(j.state) && j.expectation.station.kind != proof::StationKind::Value) || // that is Scale's
               (j.expectation.needed && j.state != proof::State::Done);
    });
    if (next == nullptr && probed() != nullptr && !lapsed(probed()->state))
        for (const job::Condition other : {job::Condition::KeyOn, job::Condition::BatteryOff, job::Condition::Cranking,
                                           job::Condition::Running}) // what was read under another one
            for (const proof::Standing& s : analysis::standings(*m_analysis, m_desk.selection.circuit(), other))
                if (s.place.station.kind == proof::StationKind::Probe && s.place.promises() && lapsed(s.state)) {
                    m_desk.selection.setCondition(other);
                    m_desk.selection.setStation(s.place.station.key);
                    return;
                }
    if (next == nullptr)
        next = after([&](const proof::Judged& j) { return byProbe(j) && j.state != proof::State::Done; });
    m_desk.selection.setStation((next != nullptr ? *next : m_stations[(here + 1) % count]).expectation.station.key);
}

void PlacesView::recordTyped(const QString& typed)
{
    const proof::Judged* at = probed();
    if (at == nullptr)
        return;
    const auto reading = proof::parseReading(at->expectation, typed.trimmed().toStdString());
    if (reading)
        record(*reading, job::ReadingSource::Typed);
    m_reading->edit()->clear();
}

void PlacesView::record(const job::Reading& reading, job::ReadingSource source)
{
    const proof::Judged* at = probed();
    if (at == nullptr)
        return;
    if (!at->expectation.promises()) { // an edit has come between: there is nothing yet to hold it to
        m_verdict->setText(
            tr("What must be read here is not known now: %1. Read it again.").arg(text(at->expectation.trouble)));
        setInk(m_verdict, look::colours().failing);
        return;
    }
    const job::Proof proof =
        proof::record(m_analysis->facts, m_desk.selection.circuit(), at->expectation, reading, source, nowText());
    m_desk.store.editOrSay(tr("Reading at %1").arg(text(at->expectation.station.label)),
                           [&](job::Job& job) { job.proofs.push_back(proof); });
}

} // namespace vicegrip::app
