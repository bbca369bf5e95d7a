#include "app/stages/meter/click_view.h"

#include "app/desk/when.h"
#include "app/widgets/caution.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "app/widgets/state_glyph.h"
#include "core/brief/firing_order.h"

#include <QMenu>
#include <QShortcut>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {
namespace {

constexpr look::Px kClickTable{400};

QString nameOf(const job::Job& job, const job::CircuitId& id)
{
    const job::Circuit* c = job::find(job, id);
    return c == nullptr ? QString() : text(c->name);
}

/// "Cavity A15", or "Cavities A19, A20" for what has several.
QString seatText(const job::Job& job, const job::Circuit& circuit)
{
    QStringList places;
    for (const job::PointRef& cavity : job::seatCavities(job, circuit))
        places << text(job::spoken(job, cavity));
    return places.join(QStringLiteral(", "));
}

QString answeredText(const job::Job& job, const clicks::Standing& s)
{
    if (!s.last)
        return QStringLiteral("–");
    if (s.last->answered.empty())
        return ClickView::tr("nothing");
    QStringList out;
    for (const job::CircuitId& id : s.last->answered)
        out << nameOf(job, id);
    return out.join(QStringLiteral(", "));
}

} // namespace

ClickView::ClickView(Desk& desk, QWidget* parent) : QWidget(parent), m_desk(desk)
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, look::kGap, 0, 0);
    row->setSpacing(look::kMargin);
    auto* left = new QVBoxLayout;
    left->setSpacing(6_px);
    buildOutput(left);
    row->addLayout(left, 1);
    auto* right = new QVBoxLayout;
    right->setSpacing(6_px);
    buildTable(right);
    row->addLayout(right, 1);
}

void ClickView::buildOutput(QVBoxLayout* column)
{
    m_context = label({}, look::Size::Small, false, true);
    m_title = label({}, look::Size::Title, true);
    m_title->setObjectName(QStringLiteral("click"));
    m_where = label({}, look::Size::Body, false, true);
    column->addWidget(m_context);
    column->addWidget(m_title);
    column->addWidget(m_where);
    column->addSpacing(look::kGap);
    const auto button = [](const char* name, const QString& words, const QString& key, bool primary) {
        auto* out = new KeyButton(words, key, primary);
        out->setObjectName(QLatin1String(name));
        return out;
    };
    auto* first = new QHBoxLayout;
    first->setSpacing(look::kGap);
    first->addWidget(m_click = button("click-output", tr("Click it"), tr("C"), true));
    first->addWidget(m_on = button("next-output", tr("Next output"), tr("N"), false));
    first->addStretch();
    column->addLayout(first);
    column->addSpacing(look::kGap);
    column->addWidget(label(tr("which part answered?"), look::Size::Small, false, true));
    auto* second = new QHBoxLayout;
    second->setSpacing(look::kGap);
    second->addWidget(m_asDrawn = button("answered", tr("This one"), tr("Y"), false));
    second->addWidget(m_another = button("another", tr("Another"), tr("A"), false));
    second->addWidget(m_nothing = button("silent", tr("None"), tr("X"), false));
    m_others = new QMenu(this);
    m_others->setObjectName(QStringLiteral("others"));
    m_others->setAccessibleName(tr("Which part answered"));
    second->addStretch();
    column->addLayout(second);
    column->addSpacing(look::kGap);
    m_verdict = label({}, look::Size::Body, true);
    m_verdict->setObjectName(QStringLiteral("click-verdict"));
    m_todo = label({}, look::Size::Body);
    m_todo->setObjectName(QStringLiteral("click-todo"));
    column->addWidget(m_verdict);
    column->addWidget(m_todo);
    column->addSpacing(look::kGap);
    auto* caution = new Caution;
    caution->setText(tr("Key on, engine stopped, no fuel pressure: an injector that opens sprays. Coils make high "
                        "voltage: each plug on its lead and grounded. Fans and throttles move. Hands clear; local "
                        "rules and licensed practice come first."));
    column->addWidget(caution);
    column->addStretch(1);

    const auto answered = [this](bool itself) {
        if (const clicks::Standing* s = at())
            record(s->circuit, itself ? std::vector{s->circuit} : std::vector<job::CircuitId>());
    };
    connect(m_click, &QAbstractButton::clicked, this, &ClickView::click);
    connect(m_on, &QAbstractButton::clicked, this, &ClickView::goOn);
    connect(m_asDrawn, &QAbstractButton::clicked, this, [answered] { answered(true); });
    connect(m_nothing, &QAbstractButton::clicked, this, [answered] { answered(false); });
    connect(m_another, &QAbstractButton::clicked, this, &ClickView::chooseAnother);
    for (const auto& [key, pressed] : {std::pair(Qt::Key_C, m_click),
                                       {Qt::Key_N, m_on},
                                       {Qt::Key_Y, m_asDrawn},
                                       {Qt::Key_A, m_another},
                                       {Qt::Key_X, m_nothing}})
        connect(new QShortcut(QKeySequence(key), this), &QShortcut::activated, pressed,
                [pressed = pressed] { pressed->click(); });
}

void ClickView::buildTable(QVBoxLayout* column)
{
    column->addWidget(label(tr("Outputs, in the order they are clicked"), look::Size::Small, false, true));
    m_table = new ListTable("outputs-to-click", tr("Outputs, in the order they are clicked"),
                            {{{}, 34}, {tr("Drives"), 0}, {tr("At"), 96, true}, {tr("Answered"), 130}});
    m_table->setMaximumWidth(kClickTable);
    m_table->setItemDelegateForColumn(0, new StateDelegate(m_table));
    column->addWidget(m_table, 1);
    connect(m_table, &QTableWidget::currentCellChanged, this, [this](int row) {
        if (row >= 0 && static_cast<size_t>(row) < m_analysis->clicks.size())
            m_desk.selection.setCircuit(m_analysis->clicks[static_cast<size_t>(row)].circuit);
    });
}

const clicks::Standing* ClickView::at() const
{
    const auto of = std::ranges::find(m_analysis->clicks, m_desk.selection.circuit(), &clicks::Standing::circuit);
    return of == m_analysis->clicks.end() ? nullptr : &*of;
}

void ClickView::refresh()
{
    m_analysis = m_desk.store.analysis();
    if (m_analysis->clicks.empty())
        return;
    if (const clicks::Standing* here = at())
        showOutput(*here);
    else
        showNone();
    showTable();
}

/// What is read has nothing to click.
void ClickView::showNone()
{
    const QString name = nameOf(*m_analysis->job, m_desk.selection.circuit());
    m_context->setText(tr("Click test"));
    m_title->setText(name.isEmpty() ? tr("No output is selected") : tr("The ECU does not drive %1").arg(name));
    m_where->setText(tr("Next output goes to the one that is to be clicked."));
    for (QWidget* w : std::initializer_list<QWidget*>{m_click, m_asDrawn, m_nothing, m_another})
        w->setEnabled(false);
    m_on->setPrimary(true);
    m_verdict->clear();
    m_todo->clear();
}

void ClickView::showOutput(const clicks::Standing& at)
{
    const job::Job& job = *m_analysis->job;
    const job::Circuit& circuit = *job::find(job, at.circuit);
    const auto& c = look::colours();
    const bool keyOn = m_desk.selection.condition() == job::Condition::KeyOn;
    const std::string order = job.brief ? brief::firingOrderText(job.brief->firingOrder) : std::string();
    m_context->setText(order.empty() ? tr("Click test") : tr("Click test, firing order %1").arg(text(order)));
    m_title->setText(tr("Click %1").arg(text(circuit.name)));
    m_where->setText(
        tr("Output %1. %2. Stand at the engine and listen.").arg(text(circuit.output.value), seatText(job, circuit)));
    m_click->setEnabled(keyOn && m_desk.live.canClick());
    m_click->setPrimary(at.state != proof::State::Done);
    m_on->setPrimary(at.state == proof::State::Done);
    for (QWidget* w : std::initializer_list<QWidget*>{m_asDrawn, m_nothing, m_another})
        w->setEnabled(keyOn);
    m_verdict->setText(!keyOn                            ? tr("The key must be on: Ctrl+Y.")
                       : at.state == proof::State::Done  ? tr("%1 answered: as drawn.").arg(text(circuit.name))
                       : at.state == proof::State::Stale ? tr("Stale: %1.").arg(text(at.reason))
                       : at.state == proof::State::Failing
                           ? text(at.reason).replace(0, 1, text(at.reason).left(1).toUpper()) + QLatin1Char('.')
                       : m_desk.live.canClick() ? QString()
                                                : tr("No link clicks outputs: start the ECU's own "
                                                     "output test, then say what answered."));
    setInk(m_verdict, at.state == proof::State::Untouched || !keyOn ? c.ink : inkOf(at.state));
    m_todo->setText(keyOn ? text(at.todo) : QString());
}

void ClickView::showTable()
{
    const job::Job& job = *m_analysis->job;
    std::vector<QStringList> rows;
    for (const clicks::Standing& s : m_analysis->clicks) {
        const job::Circuit& circuit = *job::find(job, s.circuit);
        const auto cavities = job::seatCavities(job, circuit);
        const QString place = cavities.empty() ? QString() : text(cavities.front().text()).replace(u'.', u' ');
        rows.push_back({QString(), text(circuit.name), place, answeredText(job, s)});
    }
    m_table->fill(rows);
    const QSignalBlocker quiet(m_table);
    for (int row = 0; row < m_table->rowCount(); ++row) {
        const clicks::Standing& s = m_analysis->clicks[static_cast<size_t>(row)];
        m_table->item(row, 0)->setData(kStateRole, static_cast<int>(s.state));
        m_table->item(row, 0)->setData(Qt::AccessibleTextRole, said(proof::stateName(s.state)));
        m_table->item(row, 3)->setForeground(s.last ? inkOf(s.state) : look::colours().ink);
        if (s.circuit == m_desk.selection.circuit())
            m_table->setCurrentCell(row, 1);
    }
    if (at() == nullptr)
        m_table->clearSelection();
}

void ClickView::click()
{
    const clicks::Standing* s = at();
    if (s == nullptr || !m_click->isEnabled())
        return;
    const job::Circuit& circuit = *job::find(*m_analysis->job, s->circuit);
    m_click->setEnabled(false);
    m_desk.live.click(circuit,
                      [this, id = circuit.id](const std::vector<job::CircuitId>& heard, const QString& trouble) {
                          m_click->setEnabled(true);
                          if (trouble.isEmpty()) {
                              record(id, heard);
                              return;
                          }
                          m_verdict->setText(trouble);
                          setInk(m_verdict, look::colours().failing);
                      });
}

void ClickView::chooseAnother()
{
    const clicks::Standing* here = at();
    if (here == nullptr)
        return;
    m_others->clear();
    for (const clicks::Standing& s : m_analysis->clicks)
        if (s.circuit != here->circuit)
            m_others->addAction(QString(nameOf(*m_analysis->job, s.circuit)).replace(u'&', QStringLiteral("&&")), this,
                                [this, clicked = here->circuit, answered = s.circuit] { record(clicked, {answered}); });
    if (!m_others->isEmpty())
        m_others->setActiveAction(m_others->actions().front());
    m_others->popup(m_another->mapToGlobal(QPoint(0, m_another->height())));
}

/// To the one whose click tells what is wrong here; else to the next open one after it.
void ClickView::goOn()
{
    const auto& all = m_analysis->clicks;
    const clicks::Standing* here = at();
    if (here == nullptr) {
        if (!all.empty())
            m_desk.selection.setCircuit(all[clicks::nextOf(all).value_or(0)].circuit);
        return;
    }
    const auto isOpen = [](const clicks::Standing& s) { return s.state != proof::State::Done; };
    if (here->next) {
        m_desk.selection.setCircuit(*here->next);
        return;
    }
    const auto from = static_cast<size_t>(here - all.data());
    for (size_t step = 1; step <= all.size(); ++step)
        if (const clicks::Standing& s = all[(from + step) % all.size()]; isOpen(s) || step == all.size()) {
            m_desk.selection.setCircuit(s.circuit);
            return;
        }
}

void ClickView::record(const job::CircuitId& circuit, std::vector<job::CircuitId> answered)
{
    const job::Job& now = *m_desk.store.job();
    const job::Circuit* clicked = job::find(now, circuit);
    if (clicked == nullptr)
        return;
    const job::Click click = clicks::record(now, m_desk.store.analysis()->facts, electrics::Wiring(now), *clicked,
                                            std::move(answered), nowText());
    m_desk.store.editOrSay(tr("Click of %1").arg(text(clicked->name)),
                           [&](job::Job& job) { job.clicks.push_back(click); });
}

} // namespace vicegrip::app
