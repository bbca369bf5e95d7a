#include "app/shell/command_finder.h"

#include "app/look/look.h"
#include "app/widgets/text.h"

#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QPainter>
#include <QStyledItemDelegate>
#include <QVBoxLayout>

#include <cmath>

namespace vicegrip::app {
namespace {

constexpr look::Px kFinderWidth{720}, kFinderHeight{470}, kRowHeight{44}, kInset{10};
enum Role { kOfferRole = Qt::UserRole, kDetailRole, kWhereRole, kKeyRole };
constexpr size_t kShown = 40;
constexpr int kLongest = 200; ///< letters; nobody looks for more

/// Two lines an entry: what it is called and where it leads; what else there is to say of it.
class OfferPainter : public QStyledItemDelegate
{
  public:
    using QStyledItemDelegate::QStyledItemDelegate;

    [[nodiscard]] QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override
    {
        return {100_px, kRowHeight};
    }

    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override
    {
        const auto& c = look::colours();
        p->save();
        if (option.state.testFlag(QStyle::State_Selected))
            p->fillRect(option.rect, c.selected);
        QRect line = option.rect.adjusted(kInset, 0, -kInset, 0);
        const QString detail = index.data(kDetailRole).toString(), key = index.data(kKeyRole).toString();
        const int upper = detail.isEmpty() ? Qt::AlignVCenter : Qt::AlignTop;
        if (!detail.isEmpty())
            line.adjust(0, 5_px, 0, -5_px);
        p->setFont(look::textFont(look::Size::Small));
        p->setPen(c.inkSoft);
        const QString where = index.data(kWhereRole).toString();
        int room = p->fontMetrics().horizontalAdvance(where);
        p->drawText(line, Qt::AlignRight | upper, where);
        if (!key.isEmpty()) {
            p->setFont(look::numbers(look::Size::Small));
            p->setPen(c.ink);
            p->drawText(line, Qt::AlignRight | upper, key);
            room = p->fontMetrics().horizontalAdvance(key);
        }
        QRect name = line.adjusted(0, 0, -room - kInset, 0);
        p->setFont(look::textFont(look::Size::Body));
        p->setPen(c.ink);
        p->drawText(name, Qt::AlignLeft | upper,
                    p->fontMetrics().elidedText(index.data(Qt::DisplayRole).toString(), Qt::ElideRight, name.width()));
        p->setFont(look::textFont(look::Size::Small));
        p->setPen(c.inkSoft);
        p->drawText(line, Qt::AlignLeft | Qt::AlignBottom,
                    p->fontMetrics().elidedText(detail, Qt::ElideRight, line.width()));
        p->restore();
    }
};

/// What was taken often is worth up to three tenths of a word.
int favourOf(int times)
{
    constexpr int kMost = 30;
    return std::min(kMost, static_cast<int>(6 * std::log2(1.0 + times)));
}

} // namespace

CommandFinder::CommandFinder(Taken& counts, QWidget* parent)
    : QFrame(parent), m_typed(new QLineEdit), m_list(new QListWidget), m_taken(counts)
{
    setObjectName(QStringLiteral("finder"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14_px, 14_px, 14_px, 14_px);
    m_typed->setPlaceholderText(tr("A7, w12, blue white, coolant, altitude, save ..."));
    m_typed->setAccessibleName(tr("Find anything"));
    m_typed->setMaxLength(kLongest);
    m_typed->installEventFilter(this);
    m_list->setAccessibleName(tr("Found"));
    m_list->setFocusPolicy(Qt::NoFocus);
    m_list->setUniformItemSizes(true);
    m_list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_list->setItemDelegate(new OfferPainter(m_list));
    column->addWidget(m_typed);
    column->addWidget(m_list);
    connect(m_typed, &QLineEdit::textChanged, this, &CommandFinder::filter);
    connect(m_typed, &QLineEdit::returnPressed, this, &CommandFinder::run);
    connect(m_list, &QListWidget::itemClicked, this, &CommandFinder::run);
    hide();
}

void CommandFinder::open(std::vector<Offer> offers)
{
    m_offers = std::move(offers);
    std::vector<lookup::Entry> entries;
    for (const Offer& o : m_offers)
        entries.push_back(o.entry);
    m_search = std::make_unique<lookup::Search>(std::move(entries));
    m_typed->clear();
    filter({});
    const int width = std::min<int>(kFinderWidth, parentWidget()->width() - 40_px);
    const int height = std::min<int>(kFinderHeight, parentWidget()->height() - look::kHeader - 40_px);
    setGeometry((parentWidget()->width() - width) / 2, look::kHeader + 20_px, width, height);
    show();
    raise();
    m_typed->setFocus();
}

void CommandFinder::filter(const QString& typed)
{
    m_list->clear();
    const auto favour = [this](const lookup::Entry& e) { return favourOf(m_taken.times(e.key())); };
    for (const size_t i : m_search->find(typed.toStdString(), kShown, favour)) {
        const Offer& offer = m_offers[i];
        auto* item = new QListWidgetItem(text(offer.entry.text), m_list);
        item->setData(kOfferRole, static_cast<qulonglong>(i));
        item->setData(kDetailRole, text(offer.entry.detail));
        item->setData(kWhereRole, offer.where);
        item->setData(kKeyRole, offer.key);
        QStringList spoken{item->text(), text(offer.entry.detail), offer.where, offer.key};
        spoken.removeAll(QString());
        item->setData(Qt::AccessibleTextRole, spoken.join(QStringLiteral(", ")));
    }
    if (m_list->count() == 0) {
        auto* none = new QListWidgetItem(tr("Nothing here is called that"), m_list);
        none->setFlags(Qt::NoItemFlags);
    }
    m_list->setCurrentRow(0);
}

void CommandFinder::run()
{
    const QListWidgetItem* item = m_list->currentItem();
    if (item == nullptr || !item->data(kOfferRole).isValid())
        return;
    const lookup::Entry entry = m_offers[item->data(kOfferRole).toULongLong()].entry;
    hide();
    m_taken.add(entry.key());
    emit taken(entry);
}

bool CommandFinder::eventFilter(QObject* watched, QEvent* event)
{
    if (event->type() == QEvent::ShortcutOverride) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Return || key == Qt::Key_Enter) { // ours, not the stage's next action
            event->accept();
            return true;
        }
    }
    if (event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Escape) {
            hide();
            return true;
        }
        if (key == Qt::Key_Down || key == Qt::Key_Up) {
            const int step = key == Qt::Key_Down ? 1 : -1;
            m_list->setCurrentRow(std::clamp(m_list->currentRow() + step, 0, std::max(0, m_list->count() - 1)));
            return true;
        }
    }
    return QFrame::eventFilter(watched, event);
}

void CommandFinder::paintEvent(QPaintEvent*)
{
    const auto& c = look::colours();
    QPainter p(this);
    p.fillRect(rect(), c.card);
    p.setPen(QPen(c.accent, 2));
    p.drawRect(rect().adjusted(1, 1, -1, -1));
}

} // namespace vicegrip::app
