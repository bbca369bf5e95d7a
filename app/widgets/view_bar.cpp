#include "app/widgets/view_bar.h"

#include "app/look/look.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QShortcut>

namespace vicegrip::app {

ViewBar::ViewBar(const std::vector<View>& views, QWidget* parent) : QWidget(parent), m_row(new QHBoxLayout(this))
{
    m_row->setContentsMargins(0, 0, 0, 0);
    for (const View& v : views) {
        const int index = static_cast<int>(m_buttons.size());
        auto* button = new QPushButton(v.name);
        button->setObjectName(QLatin1String(v.objectName));
        button->setCheckable(true);
        button->setAutoExclusive(true);
        button->setProperty("view", true);
        button->setFont(look::textFont(look::Size::Small));
        m_row->addWidget(button);
        m_buttons.push_back(button);
        connect(button, &QPushButton::clicked, this, [this, index] { choose(index); });
        connect(new QShortcut(QKeySequence(tr("Alt+%1").arg(index + 1)), this), &QShortcut::activated, this,
                [this, index] { chooseNth(index); });
    }
    m_row->addStretch();
    m_buttons.front()->setChecked(true);
    tellKeys();
}

/// Alt+1 is the first that is offered here, whatever is not.
void ViewBar::chooseNth(int place)
{
    for (size_t i = 0; i < m_buttons.size(); ++i)
        if (!m_buttons[i]->isHidden() && place-- == 0) {
            choose(static_cast<int>(i));
            return;
        }
}

void ViewBar::tellKeys()
{
    int place = 0;
    for (QPushButton* b : m_buttons)
        if (!b->isHidden())
            b->setToolTip(tr("Alt+%1").arg(++place));
}

void ViewBar::choose(int view)
{
    m_chosen = view;
    m_buttons[static_cast<size_t>(view)]->setChecked(true);
    emit changed(view);
}

std::vector<std::pair<QString, QString>> ViewBar::offered() const
{
    std::vector<std::pair<QString, QString>> out;
    for (const QPushButton* b : m_buttons)
        if (!b->isHidden())
            out.emplace_back(b->objectName(), b->text());
    return out;
}

void ViewBar::choose(const QString& objectName)
{
    for (size_t i = 0; i < m_buttons.size(); ++i)
        if (m_buttons[i]->objectName() == objectName && !m_buttons[i]->isHidden())
            choose(static_cast<int>(i));
}

QString ViewBar::chosenName() const
{
    return m_buttons[static_cast<size_t>(m_chosen)]->objectName();
}

void ViewBar::offer(const std::vector<bool>& offered)
{
    for (size_t i = 0; i < m_buttons.size(); ++i)
        m_buttons[i]->setVisible(offered[i]);
    tellKeys();
    if (!offered[static_cast<size_t>(m_chosen)])
        chooseNth(0);
}

void ViewBar::addAtEnd(QWidget* widget)
{
    m_row->addWidget(widget);
}

} // namespace vicegrip::app
