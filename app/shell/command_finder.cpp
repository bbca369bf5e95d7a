#include "app/shell/command_finder.h"

#include "app/look/look.h"

#include <QAction>
#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QPainter>
#include <QVBoxLayout>

namespace vicegrip::app {
namespace {

constexpr int kFinderWidth = 520, kFinderHeight = 360, kActionRole = Qt::UserRole;

/// Every typed word must occur, in any order.
bool matches(const QString& name, const QString& typed)
{
    for (const QString& word : typed.split(QLatin1Char(' '), Qt::SkipEmptyParts))
        if (!name.contains(word, Qt::CaseInsensitive))
            return false;
    return true;
}

} // namespace

CommandFinder::CommandFinder(QWidget* parent) : QFrame(parent), m_typed(new QLineEdit), m_list(new QListWidget)
{
    setObjectName(QStringLiteral("finder"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 14, 14, 14);
    m_typed->setPlaceholderText(tr("What do you want to do?"));
    m_typed->setAccessibleName(tr("Find an action"));
    m_typed->installEventFilter(this);
    m_list->setFont(look::textFont(look::Size::Body));
    m_list->setFocusPolicy(Qt::NoFocus);
    column->addWidget(m_typed);
    column->addWidget(m_list);
    connect(m_typed, &QLineEdit::textChanged, this, &CommandFinder::filter);
    connect(m_typed, &QLineEdit::returnPressed, this, &CommandFinder::run);
    connect(m_list, &QListWidget::itemClicked, this, &CommandFinder::run);
    hide();
}

void CommandFinder::open(const QList<QAction*>& actions)
{
    m_actions = actions;
    m_typed->clear();
    filter({});
    const int width = std::min(kFinderWidth, parentWidget()->width() - 40);
    setGeometry((parentWidget()->width() - width) / 2, look::kHeader + 20, width, kFinderHeight);
    show();
    raise();
    m_typed->setFocus();
}

void CommandFinder::filter(const QString& typed)
{
    m_list->clear();
    for (qsizetype i = 0; i < m_actions.size(); ++i) {
        const QAction* action = m_actions[i];
        if (!action->isEnabled() || action->text().isEmpty() || !matches(action->text(), typed))
            continue;
        const QString key = action->shortcut().toString(QKeySequence::NativeText);
        auto* item =
            new QListWidgetItem(key.isEmpty() ? action->text() : action->text() + QStringLiteral("    ") + key, m_list);
        item->setData(kActionRole, static_cast<int>(i));
    }
    m_list->setCurrentRow(0);
}

void CommandFinder::run()
{
    const QListWidgetItem* item = m_list->currentItem();
    hide();
    if (item != nullptr)
        m_actions[item->data(kActionRole).toInt()]->trigger();
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
