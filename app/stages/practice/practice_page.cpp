#include "app/stages/practice/practice_page.h"

#include "app/desk/fault_families.h"
#include "app/desk/mending.h"
#include "app/desk/part_library.h"
#include "app/look/look.h"
#include "app/widgets/caution.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "core/units/units.h"

#include <QKeyEvent>
#include <QLineEdit>
#include <QShortcut>
#include <QStackedWidget>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {
namespace {

enum Face { kChoice, kNaming, kTold };
constexpr look::Px kSide{380}, kWide{620};

QString secondsText(double s)
{
    constexpr int kMinute = 60;
    const int whole = qRound(s);
    return whole < kMinute        ? PracticePage::tr("%1 s").arg(whole)
           : whole % kMinute == 0 ? PracticePage::tr("%1 min").arg(whole / kMinute)
                                  : PracticePage::tr("%1 min %2 s").arg(whole / kMinute).arg(whole % kMinute);
}

QVBoxLayout* pageColumn(QWidget* page)
{
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(look::kMargin, look::kMargin, look::kMargin, look::kGap);
    column->setSpacing(8_px);
    return column;
}

} // namespace

PracticePage::PracticePage(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_faces(new QStackedWidget),
      m_worked([this](const std::vector<diagnosis::Suspect>& all) {
          m_all = all;
          fillCandidates();
      })
{
    setObjectName(QStringLiteral("practice"));
    setFocusPolicy(Qt::StrongFocus);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(m_faces);
    m_faces->addWidget(buildChoice());
    m_faces->addWidget(buildNaming());
    m_faces->addWidget(buildDebrief());
    connect(&desk.practice, &Practice::changed, this, [this] {
        if (m_faces->currentIndex() == kTold && m_desk.practice.debrief() != nullptr)
            showDebrief(*m_desk.practice.debrief());
    });
}

QWidget* PracticePage::buildChoice()
{
    auto* page = new QWidget;
    auto* column = pageColumn(page);
    m_car = label({}, look::Size::Small, false, true);
    column->addWidget(m_car);
    column->addWidget(label(tr("Find what is wrong"), look::Size::Title, true));
    column->addWidget(
        label(tr("The car gets faults that nobody is told. Read, move, look, as on a car; then say what it "
                 "is and mend it. Your own job stays as it is."),
              look::Size::Body));
    column->addSpacing(look::kGap);
    auto* row = new QHBoxLayout;
    row->setSpacing(look::kMargin);
    auto* levels = new QVBoxLayout;
    levels->setSpacing(8_px);
    std::vector<KeyButton*> buttons;
    for (int i = 0; i < practice::kLevels; ++i) {
        const auto level = static_cast<practice::Level>(i);
        auto* button = new KeyButton(said(practice::levelName(level)), QString::number(i + 1), i == 0);
        button->setObjectName(QStringLiteral("practice-level-%1").arg(i + 1));
        connect(button, &QAbstractButton::clicked, this, [this, level] { emit beginAsked(level); });
        connect(new QShortcut(QKeySequence(Qt::Key_1 + i), button), &QShortcut::activated, button,
                [button] { button->click(); });
        levels->addWidget(button);
        buttons.push_back(button);
    }
    const auto widest = std::ranges::max(buttons, {}, [](const KeyButton* b) { return b->sizeHint().width(); });
    for (KeyButton* b : buttons)
        b->setMinimumWidth(widest->sizeHint().width());
    levels->addStretch();
    row->addLayout(levels, 1);
    auto* side = new QVBoxLayout;
    m_returning = label({}, look::Size::Small, false, true);
    side->addWidget(m_returning);
    m_kinds = new ListTable("practice-kinds", tr("What has been practised"),
                            {{tr("Kind"), 0}, {tr("Found"), 60, true}, {tr("Missed"), 66, true}, {tr("Again"), 80}});
    m_kinds->setMaximumWidth(kWide);
    side->addWidget(m_kinds, 1);
    row->addLayout(side, 1);
    column->addLayout(row, 1);
    auto* caution = new Caution;
    caution->setText(
        tr("What is practised here is simulated. On a car the cautions of each step hold, and local rules and "
           "licensed practice come first."));
    column->addWidget(caution);
    return page;
}

QWidget* PracticePage::buildNaming()
{
    auto* page = new QWidget;
    auto* column = pageColumn(page);
    m_of = label({}, look::Size::Small, false, true);
    column->addWidget(m_of);
    column->addWidget(label(tr("What is it?"), look::Size::Title, true));
    m_filter = new QLineEdit;
    m_filter->setObjectName(QStringLiteral("practice-filter"));
    m_filter->setAccessibleName(tr("Words of what it is"));
    m_filter->setPlaceholderText(tr("Words of it: open w20, cavity A11, pull-up"));
    m_filter->setMaximumWidth(kWide);
    column->addWidget(m_filter);
    m_candidates = new ListTable("practice-candidates", tr("What it may be"), {{tr("Enter mends it"), 0}});
    column->addWidget(m_candidates, 1);
    column->addWidget(label(tr("A mend of what is sound costs %1. Escape goes back to the work.")
                                .arg(secondsText(practice::kNeedlessMend_s)),
                            look::Size::Small, false, true));
    connect(m_filter, &QLineEdit::textChanged, this, &PracticePage::fillCandidates);
    connect(m_filter, &QLineEdit::returnPressed, this, &PracticePage::mend);
    connect(m_candidates, &QTableWidget::cellActivated, this, &PracticePage::mend);
    return page;
}

QWidget* PracticePage::buildDebrief()
{
    auto* page = new QWidget;
    auto* column = pageColumn(page);
    m_verdict = label({}, look::Size::Title, true);
    m_verdict->setObjectName(QStringLiteral("debrief-verdict"));
    m_truth = label({}, look::Size::Body, true);
    m_truth->setObjectName(QStringLiteral("debrief-truth"));
    m_account = label({}, look::Size::Body);
    m_account->setObjectName(QStringLiteral("debrief-account"));
    for (QLabel* l : {m_verdict, m_truth, m_account})
        column->addWidget(l);
    column->addSpacing(look::kGap);
    auto* row = new QHBoxLayout;
    row->setSpacing(look::kMargin);
    auto* left = new QVBoxLayout;
    left->addWidget(label(tr("What you did, and what was likeliest after it"), look::Size::Small, false, true));
    m_steps = new ListTable("debrief-steps", tr("What you did, and what was likeliest after it"),
                            {{{}, 28, true},
                             {tr("Step"), 0},
                             {tr("Note"), 100},
                             {tr("Work"), 76, true},
                             {tr("Likeliest then"), 0},
                             {tr("%"), 44, true}});
    left->addWidget(m_steps, 1);
    row->addLayout(left, 1);
    auto* right = new QVBoxLayout;
    right->addWidget(label(tr("The finder's way, from the same complaint"), look::Size::Small, false, true));
    m_best = new ListTable("debrief-best", tr("The finder's way"), {{{}, 28, true}, {tr("Step"), 0}});
    m_best->setMaximumWidth(kSide);
    right->addWidget(m_best, 1);
    row->addLayout(right);
    column->addLayout(row, 1);
    auto* keys = new QHBoxLayout;
    keys->setSpacing(look::kGap);
    const auto button = [&](const char* name, const QString& words, Qt::Key key, bool primary) {
        auto* out = new KeyButton(words, QKeySequence(key).toString(QKeySequence::NativeText), primary);
        out->setObjectName(QLatin1String(name));
        connect(new QShortcut(QKeySequence(key), out), &QShortcut::activated, out, [out] { out->click(); });
        keys->addWidget(out);
        return out;
    };
    connect(button("practice-another", tr("Another like it"), Qt::Key_N, true), &QAbstractButton::clicked, this,
            [this] { emit beginAsked(m_desk.practice.round()->level); });
    connect(button("practice-over", tr("Back to my job"), Qt::Key_B, false), &QAbstractButton::clicked, this,
            &PracticePage::overAsked);
    keys->addStretch();
    column->addLayout(keys);
    return page;
}

void PracticePage::choose(const QString& car)
{
    m_car->setText(tr("Practice bench: %1").arg(car));
    showReturning();
    m_faces->setCurrentIndex(kChoice);
    setFocus();
}

void PracticePage::showReturning()
{
    const practice::Record& record = m_desk.practice.record();
    m_returning->setText(tr("Rounds played: %1. Now: %2.")
                             .arg(record.rounds)
                             .arg(said(practice::levelName(practice::suggested(record)))));
    std::vector<QStringList> rows;
    for (const auto& [family, kind] : record.kinds) {
        const int in = kind.due - record.rounds;
        rows.push_back({text(practice::kindName(family)), QString::number(kind.right), QString::number(kind.wrong),
                        practice::isDue(record, family) ? tr("now") : tr("in %1").arg(in)});
    }
    m_kinds->setVisible(!rows.empty());
    m_kinds->fill(rows);
}

void PracticePage::name()
{
    const auto analysis = m_desk.store.analysis();
    const job::CircuitId circuit = m_desk.selection.circuit();
    const job::Circuit* of = job::find(*analysis->job, circuit);
    m_of->setText(of == nullptr ? tr("No circuit is selected") : tr("Wrong with %1").arg(text(of->name)));
    m_all.clear();
    m_filter->clear();
    fillCandidates();
    m_worked.ask([analysis, circuit, parts = std::make_shared<parts::Library>(library())] {
        return practice::candidates(*analysis, circuit, *faultFamilies(), *parts);
    });
    m_faces->setCurrentIndex(kNaming);
    m_filter->setFocus();
}

/// Those that hold every word, in any order.
void PracticePage::fillCandidates()
{
    const QStringList words = m_filter->text().simplified().split(u' ', Qt::SkipEmptyParts);
    m_shown.clear();
    std::vector<QStringList> rows;
    for (const diagnosis::Suspect& s : m_all) {
        const QString line = text(practice::candidateText(s));
        if (!std::ranges::all_of(words, [&](const QString& w) { return line.contains(w, Qt::CaseInsensitive); }))
            continue;
        m_shown.push_back(s);
        rows.push_back({line});
    }
    m_candidates->fill(rows);
    if (!rows.empty())
        m_candidates->setCurrentCell(0, 0);
}

void PracticePage::mend()
{
    const int row = m_candidates->currentRow();
    if (row < 0 || static_cast<size_t>(row) >= m_shown.size())
        return;
    if (!keepMend(m_desk, m_shown[static_cast<size_t>(row)]))
        return;
    if (m_desk.practice.state() == Practice::State::Playing)
        emit left();
}

void PracticePage::debrief()
{
    m_faces->setCurrentIndex(kTold);
    setFocus();
    if (const practice::Debrief* told = m_desk.practice.debrief())
        showDebrief(*told);
    else
        m_verdict->setText(tr("Going through what was done ..."));
}

void PracticePage::showDebrief(const practice::Debrief& told)
{
    m_verdict->setText(told.clean() ? tr("Found in %1 of work").arg(secondsText(told.seconds))
                       : told.found ? tr("Mended after %1 of work").arg(secondsText(told.seconds))
                                    : tr("Not found this time"));
    setInk(m_verdict, told.clean() ? look::colours().done : look::colours().ink);
    QStringList truth;
    for (const std::string& t : told.truth)
        truth << text(t) + QLatin1Char('.');
    m_truth->setText(truth.join(QLatin1Char(' ')));
    m_account->setText(tr("The finder needs %1. Readings: %2, of which told nothing: %3. Sound parts mended: %4. "
                          "Hints: %5.")
                           .arg(secondsText(told.best_s))
                           .arg(told.readings)
                           .arg(told.idle)
                           .arg(told.soundMended)
                           .arg(told.hints));
    std::vector<QStringList> rows;
    for (const practice::Step& s : told.steps)
        rows.push_back({QString::number(rows.size() + 1), text(s.what), text(s.remark), secondsText(s.seconds),
                        text(s.believed), s.share > 0 ? QString::number(qRound(100 * s.share)) : QString()});
    m_steps->fill(rows);
    for (int r = 0; r < m_steps->rowCount(); ++r)
        if (!told.steps[static_cast<size_t>(r)].remark.empty())
            m_steps->item(r, 2)->setForeground(look::colours().stale);
    std::vector<QStringList> best;
    for (const std::string& s : told.bestSteps)
        best.push_back({QString::number(best.size() + 1), text(s)});
    m_best->fill(best);
}

void PracticePage::keyPressEvent(QKeyEvent* event)
{
    if (event->key() != Qt::Key_Escape) {
        QWidget::keyPressEvent(event);
        return;
    }
    if (m_faces->currentIndex() == kTold)
        emit overAsked();
    else
        emit left();
}

} // namespace vicegrip::app
