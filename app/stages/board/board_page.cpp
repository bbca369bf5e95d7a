#include "app/stages/board/board_page.h"

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

namespace vicegrip::app {
namespace {

constexpr int kBoardSide = 272, kMostThen = 6, kNarrowBoard = 1000;
constexpr int kLongestValue = 140; ///< "12.34 bar gauge ✗": what is cut off would be its zero, and that it is wrong

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
            drawState(*p, QRectF(middle.x() - 9, middle.y() - 9, 18, 18), static_cast<proof::State>(state));
            return;
        }
        QFont font = index.data(Qt::FontRole).value<QFont>();
        if (selected && index.column() == BoardModel::Name)
            font.setWeight(QFont::DemiBold);
        p->setFont(font);
        const QVariant ink = index.data(Qt::ForegroundRole);
        p->setPen(ink.isValid() ? ink.value<QColor>() : c.ink);
        const QVariant align = index.data(Qt::TextAlignmentRole);
        const QRect inside = option.rect.adjusted(6, 0, -6, 0);
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
    explicit Legend(QWidget* parent) : QWidget(parent) { setFixedHeight(26); }

  protected:
    void paintEvent(QPaintEvent*) override
    {
        QPainter p(this);
        p.setFont(look::textFont(look::Size::Small));
        int x = 6;
        for (const auto& [state, words] : {std::pair(proof::State::Untouched, BoardPage::tr("untouched")),
                                           {proof::State::Done, BoardPage::tr("done")},
                                           {proof::State::Failing, BoardPage::tr("failing")},
                                           {proof::State::Stale, BoardPage::tr("stale: its basis has changed")},
                                           {proof::State::NotNeeded, BoardPage::tr("not needed")}}) {
            drawState(p, QRectF(x, 6, 14, 14), state);
            p.setPen(look::colours().inkSoft);
            p.drawText(x + 20, 18, words);
            x += 20 + p.fontMetrics().horizontalAdvance(words) + 18;
        }
    }
};

} // namespace

BoardPage::BoardPage(Desk& desk, QWidget* parent)
    : StagePage(desk, parent), m_model(new BoardModel(desk, this)), m_table(new QTableView)
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
    left->addWidget(new Legend(this));
    left->addStretch(1);
    row->addLayout(left, 1);

    auto* side = new QVBoxLayout;
    auto* card = new Card;
    card->setFixedWidth(kBoardSide);
    auto* inCard = new QVBoxLayout(card);
    inCard->setContentsMargins(18, 14, 18, 16);
    inCard->addWidget(label(tr("Next"), look::Size::Small, false, true));
    m_nextTitle = label({}, look::Size::Title, true);
    m_nextTitle->setObjectName(QStringLiteral("next"));
    m_nextDetail = label({}, look::Size::Body, false, true);
    m_go = new KeyButton(tr("Go"), tr("Enter"), true);
    m_go->setObjectName(QStringLiteral("go"));
    inCard->addWidget(m_nextTitle);
    inCard->addWidget(m_nextDetail);
    inCard->addSpacing(6);
    inCard->addWidget(m_go);
    side->addWidget(card);
    side->addSpacing(look::kGap);
    m_then = new QVBoxLayout;
    m_then->setSpacing(6);
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
    if (!task.station.empty())
        m_desk.selection.setStation(task.station);
    emit goTo(task.stage);
}

/// On a narrow window the signal's kind, which the thread tells too, gives way to the states.
void BoardPage::resizeEvent(QResizeEvent* event)
{
    StagePage::resizeEvent(event);
    const bool narrow = width() < kNarrowBoard;
    m_table->setColumnHidden(BoardModel::Signal, narrow);
    m_table->horizontalHeader()->setSectionResizeMode(BoardModel::Name,
                                                      narrow ? QHeaderView::Stretch : QHeaderView::Interactive);
    for (const auto& [column, width] : {std::pair(BoardModel::Name, 152),
                                        {BoardModel::Input, narrow ? 52 : 56},
                                        {BoardModel::Volts, narrow ? 76 : 88},
                                        {BoardModel::Value, kLongestValue},
                                        {BoardModel::Pins, narrow ? 44 : 54},
                                        {BoardModel::Meter, narrow ? 50 : 58},
                                        {BoardModel::Scale, narrow ? 48 : 56}})
        m_table->setColumnWidth(column, width);
}

} // namespace vicegrip::app
