#include "app/stages/pins/plug_view.h"

#include "app/desk/when.h"
#include "app/stages/pins/call_out.h"
#include "app/stages/pins/face_chooser.h"
#include "app/stages/pins/pin_card.h"
#include "app/stages/pins/pin_table.h"
#include "app/widgets/caution.h"
#include "app/widgets/connector_face.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "core/parts/conductor.h"
#include "core/wires/colour.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QShortcut>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {
namespace {

using pinning::Pin;
using pinning::PinState;

constexpr look::Px kCard{316};

} // namespace

PlugView::PlugView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_connectors(new QComboBox),
      m_chooser(new FaceChooser(desk)),
      m_side(label({}, look::Size::Title, true)),
      m_caption(label({}, look::Size::Small, false, true)),
      m_flip(new KeyButton(tr("Flip"), QStringLiteral("F"), false)),
      m_drawing(new ConnectorFace),
      m_table(new PinTable),
      m_card(new PinCard),
      m_voice(new CallOut(this)),
      m_speak(new KeyButton(tr("Speak"), QStringLiteral("V"), false))
{
    auto* left = new QVBoxLayout;
    left->setSpacing(6_px);
    buildFace(left);
    m_card->setFixedWidth(kCard);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(look::kMargin);
    row->addLayout(left, 1);
    row->addWidget(m_card);
    bindKeys();
    handFocus(this, m_drawing);
    if (m_desk.preferences.now().callOut) // once somebody listens to what is in the way
        QTimer::singleShot(0, this, &PlugView::toggleVoice);
}

void PlugView::buildFace(QVBoxLayout* column)
{
    m_connectors->setObjectName(QStringLiteral("connector"));
    m_connectors->setAccessibleName(tr("Connector"));
    m_side->setObjectName(QStringLiteral("face-side"));
    m_side->setWordWrap(false);
    m_flip->setObjectName(QStringLiteral("flip"));
    m_connectors->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    auto* top = new QHBoxLayout;
    top->addWidget(m_connectors, 1);
    top->addSpacing(look::kMargin);
    top->addWidget(m_side);
    top->addWidget(m_flip);
    m_speak->setObjectName(QStringLiteral("call-out"));
    m_speak->setCheckable(true);
    m_speak->setAccessibleDescription(tr("Speaks the pin in hand"));
    top->addWidget(m_speak);
    column->addLayout(top);
    column->addWidget(m_drawing);
    column->addWidget(m_caption);
    column->addWidget(m_table, 1);
    column->addWidget(m_chooser);
    auto* caution = new Caution;
    caution->setText(tr("Battery negative lead off before any terminal is moved (both leads where the maker says so). "
                        "Local rules and licensed practice come first."));
    column->addWidget(caution);

    connect(m_connectors, &QComboBox::activated, this,
            [this](int index) { chooseConnector(m_connectors->itemData(index).toString().toStdString()); });
    connect(m_chooser, &FaceChooser::describeAsked, this, &PlugView::describeAsked);
    connect(m_flip, &KeyButton::clicked, this, &PlugView::flip);
    connect(m_drawing, &ConnectorFace::picked, this, &PlugView::pick);
    connect(m_table, &PinTable::picked, this, &PlugView::pick);
    connect(m_card, &PinCard::tickAsked, this, &PlugView::act);
    connect(m_card, &PinCard::takenOut, this, &PlugView::act);
    connect(m_card, &PinCard::untickAsked, this, &PlugView::untick);
    connect(m_card, &PinCard::counted, this, &PlugView::count);
}

void PlugView::bindKeys()
{
    const auto key = [this](const QKeySequence& keys, const std::function<void()>& what) {
        connect(new QShortcut(keys, this), &QShortcut::activated, this, what);
    };
    key(QKeySequence(Qt::Key_F), [this] { flip(); });
    key(QKeySequence(Qt::Key_Space), [this] { act(); });
    key(QKeySequence(Qt::Key_Backspace), [this] { untick(); });
    key(QKeySequence(Qt::Key_V), [this] { toggleVoice(); });
    connect(m_speak, &KeyButton::clicked, this, &PlugView::toggleVoice);
    key(QKeySequence(Qt::Key_PageDown), [this] { walkConnectors(1); });
    key(QKeySequence(Qt::Key_PageUp), [this] { walkConnectors(-1); });
    key(QKeySequence(Qt::Key_N), [this] {
        m_picked = {};
        refresh();
    });
}

const job::Connector* PlugView::connector() const
{
    return job::findConnector(*m_desk.store.job(), m_connector);
}

const Pin* PlugView::current() const
{
    return m_current < 0 ? nullptr : &m_pins[static_cast<size_t>(m_current)];
}

const pinning::PinUse* PlugView::useOf(const job::PointRef& at) const
{
    const auto it = m_uses.find(at);
    return it == m_uses.end() ? nullptr : &it->second;
}

/// A reading was right there, and still is.
bool PlugView::proved(const Pin& pin) const
{
    for (const proof::CircuitView& view : m_desk.store.analysis()->circuits)
        for (const auto& [condition, stations] : view.stations)
            for (const proof::Standing& s : stations)
                if (s.place.station.key == pin.at.text() && s.state == proof::State::Done)
                    return true;
    return false;
}

void PlugView::edit(const QString& description, const Change& change)
{
    m_desk.store.editOrSay(description, change);
}

void PlugView::flip()
{
    m_face = m_face == parts::Face::Wire ? parts::Face::Mating : parts::Face::Wire;
    refresh();
}

void PlugView::walkConnectors(int step)
{
    const int to = m_connectors->currentIndex() + step;
    if (to >= 0 && to < m_connectors->count())
        chooseConnector(m_connectors->itemData(to).toString().toStdString());
}

void PlugView::chooseConnector(const std::string& id)
{
    m_connector = id;
    m_picked = {};
    refresh();
}

void PlugView::chooseCavity(const job::PointRef& at)
{
    m_connector = at.owner;
    m_picked = at;
    refresh();
}

void PlugView::pick(int index)
{
    if (index < 0 || index >= static_cast<int>(m_pins.size()))
        return;
    m_picked = m_pins[static_cast<size_t>(index)].at;
    refresh();
}

void PlugView::act()
{
    const Pin* pin = current();
    if (pin == nullptr)
        return;
    const job::PointRef at = pin->at;
    if (pin->state == PinState::Wrong)
        edit(tr("%1 taken out again").arg(text(at.text())),
             [&](job::Job& job) { return pinning::pullOut(job, at, nowText()); });
    else if (const pinning::CavityStep* step = pin->next(); step != nullptr) {
        m_picked = at; // stays in hand until it is counted
        edit(text(at.text()) + QStringLiteral(": ") + text(step->text),
             [&](job::Job& job) { return pinning::tick(job, at, nowText()); });
    }
    refresh();
    const Pin* after = current();
    if (after != nullptr && after->at == at && after->state == PinState::Seated)
        m_card->focusCount();
    else if (after != nullptr && after->at == at && pinning::isDone(after->state)) {
        m_picked = {}; // a blank plug is done with its one step
        refresh();
    }
}

void PlugView::untick()
{
    const Pin* pin = current();
    if (pin != nullptr && pin->ticked > 0)
        edit(tr("A step of %1 taken back").arg(text(pin->at.text())),
             [at = pin->at](job::Job& job) { return pinning::untick(job, at); });
}

void PlugView::toggleVoice()
{
    const QString trouble = m_voice->setOn(!m_voice->isOn());
    m_speak->setChecked(m_voice->isOn());
    if (!trouble.isEmpty())
        emit notice(trouble);
    refreshCard();
}

/// Cavity, count, wire, and what the hands do next, in the words of the card.
void PlugView::speak(const PinShown& shown)
{
    const pinning::CavityStep* next = shown.pin.next();
    m_voice->say(shown.pin.ticked == 0 ? QStringList{shown.cavity, shown.place, shown.spokenColours,
                                                     next == nullptr ? QString() : text(next->text)}
                                             .join(QStringLiteral(". "))
                 : next != nullptr                     ? text(next->text)
                 : shown.pin.state == PinState::Seated ? tr("Count again.")
                                                       : QString());
}

void PlugView::count(const QString& cavity)
{
    const Pin* pin = current();
    if (pin == nullptr || pin->state != PinState::Seated)
        return;
    const job::PointRef at = pin->at;
    const std::string counted = cavity.toStdString();
    edit(tr("%1 counted again: %2").arg(text(at.text()), cavity),
         [&](job::Job& job) { return pinning::count(job, at, counted, nowText()); });
    m_picked = counted == at.cavity ? job::PointRef{} : at;
    m_drawing->setFocus();
    refresh();
}

/// When another circuit was chosen elsewhere, the page goes to its signal pin: on this connector, else at the ECU.
void PlugView::followCircuit()
{
    const job::CircuitId& circuit = m_desk.selection.circuit();
    if (circuit == m_followed)
        return;
    m_followed = circuit;
    const auto job = m_desk.store.job();
    const job::Circuit* c = job::find(*job, circuit);
    const job::PointRef input = c == nullptr ? job::PointRef{} : job::cavityOf(*job, c->input);
    job::PointRef here;
    for (const auto& [place, use] : m_uses)
        if (use.circuit == circuit && place.owner == m_connector && (here.empty() || place == input))
            here = place;
    if (here.empty() && !input.empty()) {
        m_connector = input.owner;
        here = input;
    }
    if (!here.empty())
        m_picked = here;
}

/// A place that was chosen elsewhere, on the thread or by a task of the Board, is gone to where it is a cavity.
void PlugView::followStation()
{
    const std::string& station = m_desk.selection.station();
    if (station == m_station)
        return;
    m_station = station;
    const job::PointRef place = job::PointRef::fromText(station);
    const job::Connector* c = job::findConnector(*m_desk.store.job(), place.owner);
    if (c == nullptr || std::ranges::find(c->cavities, place.cavity) == c->cavities.end())
        return;
    m_connector = place.owner;
    m_picked = place;
}

void PlugView::refresh()
{
    const auto job = m_desk.store.job();
    m_uses = pinning::pinUses(*job);
    followCircuit();
    followStation();
    if (connector() == nullptr)
        m_connector = job->connectors.empty() ? std::string() : job->connectors.front().id;
    const job::Connector* c = connector();
    m_pins = c == nullptr ? std::vector<Pin>{} : pinning::pinsOf(*job, *c);
    const auto picked = std::ranges::find(m_pins, m_picked, &Pin::at);
    if (picked != m_pins.end())
        m_current = static_cast<int>(picked - m_pins.begin());
    else if (const auto next = pinning::nextPin(m_pins))
        m_current = static_cast<int>(*next);
    else
        m_current = -1;
    refreshConnectors();
    refreshFace();
    m_table->show(*job, m_pins, m_uses, m_current);
    refreshCard();
    // The thread below follows the wire in hand.
    const pinning::PinUse* use = current() == nullptr ? nullptr : useOf(current()->at);
    if (use != nullptr && !use->circuit.empty() && use->circuit != m_followed) {
        m_followed = use->circuit;
        m_desk.selection.setCircuit(use->circuit);
    }
}

void PlugView::refreshConnectors()
{
    const auto job = m_desk.store.job();
    const QSignalBlocker quiet(m_connectors);
    m_connectors->clear();
    for (const job::Connector& c : job->connectors) {
        const auto pins = c.id == m_connector ? m_pins : pinning::pinsOf(*job, c);
        const auto left = std::ranges::count_if(pins, [](const Pin& p) { return !pinning::isDone(p.state); });
        m_connectors->addItem(left == 0 ? tr("%1, %2: all in").arg(text(c.id), text(c.label))
                                        : tr("%1, %2: %3 left").arg(text(c.id), text(c.label)).arg(left),
                              text(c.id));
        if (c.id == m_connector)
            m_connectors->setCurrentIndex(m_connectors->count() - 1);
    }
    m_chooser->show(connector());
}

void PlugView::refreshFace()
{
    const job::Connector* c = connector();
    const bool wire = m_face == parts::Face::Wire;
    m_side->setText(wire ? tr("WIRE SIDE") : tr("MATING FACE ⇄"));
    m_caption->setText(wire ? tr("Seen from where the wires go in. Count from the moulded numbers, never by colour.")
                            : tr("Mirrored: seen from where the other half goes on. Left and right are swapped."));
    std::vector<ConnectorFace::Cell> cells;
    const auto job = m_desk.store.job();
    for (const Pin& pin : m_pins) {
        ConnectorFace::Cell cell;
        cell.cavity = text(pin.at.cavity);
        cell.state = pin.state;
        cell.proved = pin.state == PinState::Counted && proved(pin);
        for (const job::Wire& w : job->wires)
            if (!pin.wires.empty() && w.id == pin.wires.front())
                cell.colours = text(w.colour);
        const pinning::PinUse* use = useOf(pin.at);
        cell.spoken = text(pin.at.text()) + QStringLiteral(": ") + stateText(pin.state) +
                      (use == nullptr ? QString() : QStringLiteral(", ") + text(use->purpose));
        cells.push_back(std::move(cell));
    }
    m_drawing->show(c == nullptr ? parts::plainRow({}) : job::faceOf(*c), std::move(cells), m_face, m_current);
}

void PlugView::refreshCard()
{
    const job::Connector* c = connector();
    const Pin* pin = current();
    if (c == nullptr)
        return;
    const auto job = m_desk.store.job();
    const parts::Layout layout = job::faceOf(*c);
    const auto all = std::ranges::count_if(m_pins, [](const Pin& p) { return p.state != PinState::Open; });
    const auto done = std::ranges::count_if(
        m_pins, [](const Pin& p) { return p.state != PinState::Open && pinning::isDone(p.state); });
    if (pin == nullptr) {
        const bool lock = std::ranges::any_of(layout.terminals, &parts::TerminalFamily::secondaryLock);
        m_card->showDone(tr("%1, %2 cavities done").arg(text(c->label)).arg(all),
                         lock ? tr("Close the secondary lock, then look along it: a terminal that stands back holds it "
                                   "open.")
                              : tr("Look along the face: no terminal may stand back."));
        return;
    }
    const parts::Face other = m_face == parts::Face::Wire ? parts::Face::Mating : parts::Face::Wire;
    const auto here = parts::countOf(layout, pin->at.cavity, m_face),
               there = parts::countOf(layout, pin->at.cavity, other);
    PinShown shown;
    shown.pin = *pin;
    shown.progress = tr("%1: %2 of %3 done").arg(text(c->label)).arg(done).arg(all);
    shown.cavity = c->kind == job::ConnectorKind::Ecu ? text(pin->at.owner + pin->at.cavity)
                                                      : text(pin->at.owner + " " + pin->at.cavity);
    if (here && there) {
        shown.place = text(parts::spoken(*here));
        const bool fromLeft = there->fromLeft <= there->fromRight;
        shown.otherFace = (other == parts::Face::Mating ? tr("mating face: row %1, %2 from the %3")
                                                        : tr("wire side: row %1, %2 from the %3"))
                              .arg(there->row)
                              .arg(fromLeft ? there->fromLeft : there->fromRight)
                              .arg(fromLeft ? tr("left") : tr("right"));
        shown.nearest = text(here->printed);
    }
    for (const job::Wire& w : job->wires)
        if (!pin->wires.empty() && w.id == pin->wires.front()) {
            shown.colours = text(w.colour);
            shown.spokenColours = text(wires::colourName(w.colour));
            shown.wire = text(w.colour) + QStringLiteral("  ") + shown.spokenColours + QStringLiteral(", ") +
                         text(parts::areaText(w.area_m2));
        }
    const pinning::PinUse* use = useOf(pin->at);
    if (pin->wires.empty())
        shown.leadsTo = stateText(pin->state);
    else
        shown.leadsTo = tr("to %1").arg(text(pinning::otherEnds(*job, *pin))) +
                        (use == nullptr ? QString() : QStringLiteral("\n") + text(use->purpose));
    m_card->show(shown, layout, m_face);
    speak(shown);
}

} // namespace vicegrip::app
