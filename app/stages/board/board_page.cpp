#include "app/stages/board/board_page.h"

#include "app/desk/fault_families.h"
#include "app/desk/part_library.h"
#include "app/stages/board/board_model.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/state_glyph.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QPainter>
#include <QShortcut>
#include <QStyledItemDelegate>
#include <QTableView>

#include <QVBoxLayout>
#include <functional>

namespace vicegrip::app {
namespace {

constexpr look::Px kBoardSide{272}, kTightSide{220}, kNarrowBoard{1000}, kTightBoard{800};
constexpr int kMostThen = 6;

/// What is cut off would be its zero, and that it is wrong.
int roomForValue()
{
    return QFontMetrics(look::numbers(look::Size::Small)).horizontalAdvance(QStringLiteral("12.34 bar gauge ✗")) +
           14_px;
}

/// Rows with a rule beneath, and glyphs in the stages' cells.
class Cell : public QStyledItemDelegate
{
  public:
    using QStyledItemDelegate::QStyledItemDelegate;

    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override
    {
        const auto& c = look::colours();
        const bool selected = (option.state & QStyle::State_Selected) != 0;
        if (selected)
            p->fillRect(option.rect, c.selected);
        p->setPen(c.line);
        p->drawLine(option.rect.bottomLeft(), option.rect.bottomRight());
        const int state = index.data(BoardModel::StateRole).toInt();
        if (state >= 0) {
            const QPointF middle = QRectF(option.rect).center();
            drawState(*p, QRectF(middle.x() - 9_px, middle.y() - 9_px, 18_px, 18_px), static_cast<proof::State>(state));
            return;
        }
        QFont font = index.data(Qt::FontRole).value<QFont>();
        if (selected && index.column() == BoardModel::Name)
            font.setWeight(QFont::DemiBold);
        p->setFont(font);
        const QVariant ink = index.data(Qt::ForegroundRole);
        p->setPen(ink.isValid() ? ink.value<QColor>() : c.ink);
        const QVariant align = index.data(Qt::TextAlignmentRole);
        const QRect inside = option.rect.adjusted(6_px, 0, -6_px, 0);
        p->drawText(inside, align.isValid() ? align.toInt() : int(Qt::AlignVCenter | Qt::AlignLeft),
                    p->fontMetrics().elidedText(index.data().toString(), Qt::ElideRight, inside.width()));
    }
};

/// The next thing to do, framed.
class Card : public QWidget
{
  public:
    using QWidget::QWidget;

  protected:
    void paintEvent(QPaintEvent*) override
    {
        const auto& c = look::colours();
        QPainter p(this);
        p.fillRect(rect(), c.card);
        p.setPen(QPen(c.accent, 2));
        p.drawRect(rect().adjusted(1, 1, -1, -1));
    }
};

class Legend : public QWidget
{
  public:
    explicit Legend(QWidget* parent) : QWidget(parent) { setFixedHeight(kLegendRow); }

  protected:
    void resizeEvent(QResizeEvent*) override
    {
        setFixedHeight(kLegendRow * (1 + lines([](const QPoint&, proof::State, const QString&) {})));
    }
    void paintEvent(QPaintEvent*) override
    {
        QPainter p(this);
        p.setFont(look::textFont(look::Size::Small));
        lines([&p](const QPoint& at, proof::State state, const QString& words) {
            drawState(p, QRectF(at.x(), at.y() + 6_px, 14_px, 14_px), state);
            p.setPen(look::colours().inkSoft);
            p.drawText(at.x() + 20_px, at.y() + 18_px, words);
        });
    }

  private:
    static constexpr look::Px kLegendRow{26};

    /// Goes through the words as they stand beside one another, and says the last line.
    int lines(const std::function<void(const QPoint&, proof::State, const QString&)>& put) const
    {
        const QFontMetrics letters(look::textFont(look::Size::Small));
        QPoint at(6_px, 0);
        int line = 0;
        for (const auto& [state, words] : {std::pair(proof::State::Untouched, BoardPage::tr("untouched")),
                                           {proof::State::Done, BoardPage::tr("done")},
                                           {proof::State::Failing, BoardPage::tr("failing")},
                                           {proof::State::Stale, BoardPage::tr("stale: its basis has changed")},
                                           {proof::State::NotNeeded, BoardPage::tr("not needed")}}) {
            const int wide = 20_px + letters.horizontalAdvance(words);
            if (at.x() + wide > width() && at.x() > 6_px)
                at = QPoint(6_px, ++line * kLegendRow);
            put(at, state, words);
            at.rx() += wide + 18_px;
        }
        return line;
    }
};

} // namespace

BoardPage::BoardPage(Desk& desk, QWidget* parent)
    : StagePage(desk, parent),
      m_model(new BoardModel(desk, this)),
      m_table(new QTableView),
      m_worked([this](const std::optional<diagnosis::Shared>& found) {
          if (!m_desk.practice.finderSpeaks())
              return;
          m_shared->setText(
              found ? tr("One fault explains %n circuits: %1", nullptr, static_cast<int>(found->circuits.size()))
                          .arg(text(found->suspect.what))
                    : QString());
          m_shared->setVisible(found.has_value());
      })
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(look::kMargin, look::kMargin, look::kMargin, look::kGap);
    row->setSpacing(look::kMargin);

    auto* left = new QVBoxLayout;
    m_table->setObjectName(QStringLiteral("board"));
    m_table->setAccessibleName(tr("Circuits and their states"));
    m_table->setModel(m_model);
    m_table->setItemDelegate(new Cell(m_table));
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setSelectionMode(QAbstractItemView::SingleSelection);
    m_table->setShowGrid(false);
    m_table->setTabKeyNavigation(false);
    m_table->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_table->verticalHeader()->hide();
    m_table->verticalHeader()->setDefaultSectionSize(look::kRow);
    m_table->horizontalHeader()->setHighlightSections(false);
    m_table->horizontalHeader()->setSectionsClickable(false);
    m_table->horizontalHeader()->setSectionResizeMode(BoardModel::Signal, QHeaderView::Stretch);
    m_table->setSizeAdjustPolicy(QAbstractScrollArea::AdjustToContents);
    m_table->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Maximum);
    left->addWidget(m_table);
    auto* foot = new QHBoxLayout;
    foot->addWidget(new Legend(this), 1, Qt::AlignTop);
    left->addLayout(foot);
    left->addStretch(1);
    m_practise = new KeyButton(tr("Practise on it"), tr("P"), false);
    m_practise->setObjectName(QStringLiteral("practise"));
    foot->addWidget(m_practise, 0, Qt::AlignTop);
    connect(m_practise, &QAbstractButton::clicked, this, &BoardPage::practiceAsked);
    connect(new QShortcut(QKeySequence(Qt::Key_P), this), &QShortcut::activated, m_practise,
            [this] { m_practise->click(); });
    row->addLayout(left, 1);

    auto* side = new QVBoxLayout;
    m_card = new Card;
    auto* inCard = new QVBoxLayout(m_card);
    inCard->setContentsMargins(18_px, 14_px, 18_px, 16_px);
    inCard->addWidget(label(tr("Next"), look::Size::Small, false, true));
    m_nextTitle = label({}, look::Size::Title, true);
    m_nextTitle->setObjectName(QStringLiteral("next"));
    m_nextDetail = label({}, look::Size::Body, false, true);
    m_go = new KeyButton(tr("Go"), tr("Enter"), true);
    m_go->setObjectName(QStringLiteral("go"));
    inCard->addWidget(m_nextTitle);
    inCard->addWidget(m_nextDetail);
    inCard->addSpacing(6_px);
    inCard->addWidget(m_go);
    side->addWidget(m_card);
    side->addSpacing(look::kGap);
    m_shared = label({}, look::Size::Body, true);
    m_shared->setObjectName(QStringLiteral("shared-fault"));
    m_shared->setWordWrap(true);
    m_shared->hide();
    side->addWidget(m_shared);
    m_then = new QVBoxLayout;
    m_then->setSpacing(6_px);
    side->addLayout(m_then);
    side->addStretch();
    row->addLayout(side);

    connect(m_go, &QAbstractButton::clicked, this, &BoardPage::go);
    for (const auto key : {Qt::Key_Return, Qt::Key_Enter})
        connect(new QShortcut(QKeySequence(key), this), &QShortcut::activated, this, &BoardPage::go);
    connect(m_table->selectionModel(), &QItemSelectionModel::currentRowChanged, this, [this](const QModelIndex& now) {
        if (now.isValid())
            m_desk.selection.setCircuit({now.data(BoardModel::CircuitRole).toString().toStdString()});
    });
}

void BoardPage::refresh()
{
    const QSignalBlocker quiet(m_table->selectionModel());
    m_model->refresh();
    const int row = m_model->rowOf(m_desk.selection.circuit());
    if (row >= 0)
        m_table->selectRow(row);
    showTasks();
    m_practise->setVisible(m_desk.practice.state() == Practice::State::Off);
    m_practise->setEnabled(!m_desk.store.analysis()->circuits.empty());
    askForShared();
}

/// Worked out beside the window: what several wrong circuits have in common.
void BoardPage::askForShared()
{
    const AnalysisPtr analysis = m_desk.store.analysis();
    if (!m_desk.practice.finderSpeaks()) {
        m_of.reset();
        m_shared->hide();
        return;
    }
    if (analysis == m_of || !faultFamilies())
        return;
    m_of = analysis;
    m_shared->hide(); // what was said of the job before is not of this one
    setInk(m_shared, look::colours().failing);
    m_worked.ask([analysis, parts = std::make_shared<parts::Library>(library())] {
        return diagnosis::sharedFault(*analysis, *faultFamilies(), *parts);
    });
}

void BoardPage::refreshLive()
{
    m_model->refreshLive();
}

void BoardPage::showTasks()
{
    const auto& tasks = m_desk.store.analysis()->tasks;
    while (QLayoutItem* item = m_then->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    m_go->setEnabled(!tasks.empty());
    if (tasks.empty()) {
        m_nextTitle->setText(tr("All proved"));
        m_nextDetail->setText(tr("Every circuit is measured and scaled, and nothing has changed since."));
        return;
    }
    m_nextTitle->setText(text(tasks.front().title));
    m_nextDetail->setText(text(tasks.front().detail));
    if (tasks.size() > 1)
        m_then->addWidget(label(tr("Then"), look::Size::Small, false, true));
    for (size_t i = 1; i < tasks.size() && i <= kMostThen; ++i)
        m_then->addWidget(label(text(tasks[i].title), look::Size::Body));
    if (tasks.size() > kMostThen + 1)
        m_then->addWidget(label(tr("and %1 more").arg(tasks.size() - kMostThen - 1), look::Size::Small, false, true));
}

void BoardPage::go()
{
    const auto analysis = m_desk.store.analysis();
    if (analysis->tasks.empty())
        return;
    const analysis::Task task = analysis->tasks.front();
    if (!task.circuit.empty()) // a task of the whole job leaves the selection where it is
        m_desk.selection.setCircuit(task.circuit);
    if (task.condition)
        m_desk.selection.setCondition(*task.condition);
    if (!task.station.empty())
        m_desk.selection.setStation(task.station);
    emit goTo(task.stage);
}

/// On a narrow window the signal's kind, which the thread tells too, gives way to the states; on a tight one the volts
/// do as well.
void BoardPage::resizeEvent(QResizeEvent* event)
{
    StagePage::resizeEvent(event);
    const bool narrow = width() < kNarrowBoard;
    const bool tight = width() < kTightBoard;
    m_table->setColumnHidden(BoardModel::Signal, narrow);
    m_table->setColumnHidden(BoardModel::Volts, tight);
    m_card->setFixedWidth(tight ? kTightSide : kBoardSide);
    m_shared->setFixedWidth(tight ? kTightSide : kBoardSide);
    m_table->horizontalHeader()->setSectionResizeMode(BoardModel::Name,
                                                      narrow ? QHeaderView::Stretch : QHeaderView::Interactive);
    for (const auto& [column, width] : {std::pair(BoardModel::Name, 152_px),
                                        {BoardModel::Input, narrow ? 52_px : 56_px},
                                        {BoardModel::Volts, narrow ? 76_px : 94_px},
                                        {BoardModel::Value, roomForValue()},
                                        {BoardModel::Pins, narrow ? 44_px : 54_px},
                                        {BoardModel::Meter, narrow ? 50_px : 58_px},
                                        {BoardModel::Scale, narrow ? 48_px : 56_px}})
        m_table->setColumnWidth(column, width);
}

} // namespace vicegrip::app
