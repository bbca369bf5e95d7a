#include "app/widgets/list_table.h"

#include "app/look/look.h"

#include <QHeaderView>
#include <QSignalBlocker>
#include <QStyledItemDelegate>

#include <algorithm>

namespace vicegrip::app {
namespace {

/// Sentences of several lines, with room between one and the next.
class SentenceDelegate : public QStyledItemDelegate
{
  public:
    using QStyledItemDelegate::QStyledItemDelegate;
    [[nodiscard]] QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override
    {
        return QStyledItemDelegate::sizeHint(option, index) + QSize(0, 10_px);
    }
};

} // namespace

ListTable::ListTable(const char* objectName, const QString& spoken, const std::vector<Column>& columns, QWidget* parent)
    : QTableWidget(0, static_cast<int>(columns.size()), parent), m_columns(columns)
{
    for (Column& c : m_columns)
        c.width = look::px(c.width);
    setObjectName(QLatin1String(objectName));
    setAccessibleName(spoken);
    setFont(look::textFont(look::Size::Small));
    verticalHeader()->hide();
    verticalHeader()->setDefaultSectionSize(28_px);
    horizontalHeader()->setHighlightSections(false);
    horizontalHeader()->setSectionsClickable(false);
    horizontalHeader()->setFont(look::textFont(look::Size::Small));
    horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    for (size_t i = 0; i < m_columns.size(); ++i) {
        setHorizontalHeaderItem(static_cast<int>(i), new QTableWidgetItem(m_columns[i].name));
        if (m_columns[i].width > 0)
            setColumnWidth(static_cast<int>(i), m_columns[i].width);
        else
            horizontalHeader()->setSectionResizeMode(static_cast<int>(i), QHeaderView::Stretch);
    }
    setShowGrid(false);
    setEditTriggers(QAbstractItemView::NoEditTriggers);
    setSelectionBehavior(QAbstractItemView::SelectRows);
    setSelectionMode(QAbstractItemView::SingleSelection);
    setTabKeyNavigation(false);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
}

void ListTable::growRows()
{
    setItemDelegate(new SentenceDelegate(this));
    setWordWrap(true);
    verticalHeader()->setDefaultSectionSize(40_px);
    m_grows = true;
}

void ListTable::fill(const std::vector<QStringList>& rows, const std::vector<int>& strong)
{
    constexpr size_t kMostGrown = 400;
    const QSignalBlocker quiet(this);
    if (m_grows)
        verticalHeader()->setSectionResizeMode(rows.size() <= kMostGrown ? QHeaderView::ResizeToContents
                                                                         : QHeaderView::Fixed);
    setRowCount(static_cast<int>(rows.size()));
    std::vector<QString> longest(m_columns.size());
    for (int row = 0; row < rowCount(); ++row) {
        const bool heading = std::ranges::find(strong, row) != strong.end();
        for (int column = 0; column < columnCount(); ++column) {
            QTableWidgetItem* cell = item(row, column);
            if (cell == nullptr)
                setItem(row, column, cell = new QTableWidgetItem);
            const QString words = rows[static_cast<size_t>(row)].value(column);
            cell->setText(words);
            QString& before = longest[static_cast<size_t>(column)];
            before = words.size() > before.size() ? words : before;
            cell->setToolTip(words);
            cell->setFont(m_columns[static_cast<size_t>(column)].figures ? look::numbers(look::Size::Small)
                                                                         : look::textFont(look::Size::Small, heading));
        }
    }
    for (int column = 0; column < columnCount(); ++column)
        widen(column, longest[static_cast<size_t>(column)]);
}

/// Figures have letters of one width: the one with most letters is the widest.
void ListTable::widen(int column, const QString& longest)
{
    constexpr look::Px kAround{10};
    const Column& c = m_columns[static_cast<size_t>(column)];
    if (c.figures && c.width > 0)
        setColumnWidth(
            column,
            std::max(c.width, kAround + QFontMetrics(look::numbers(look::Size::Small)).horizontalAdvance(longest)));
}

} // namespace vicegrip::app
