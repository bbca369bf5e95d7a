#include "app/shell/start_page.h"

#include "app/shell/jobs.h"
#include "app/widgets/choice_button.h"
#include "app/widgets/labels.h"

#include <QDir>
#include <QHBoxLayout>
#include <QLocale>
#include <QShortcut>
#include <QVBoxLayout>

namespace vicegrip::app {
namespace {

constexpr look::Px kStartWidest{1000}, kBetween{48};
constexpr size_t kShown = 7; ///< of the last ones

/// "today 14:05", "Tue 14:05", "3 Feb 2026".
QString whenText(const QDateTime& utc)
{
    const QDateTime when = utc.toLocalTime();
    const qint64 days = when.date().daysTo(QDate::currentDate());
    const QLocale locale;
    if (!when.isValid())
        return {};
    if (days == 0)
        return StartPage::tr("today %1").arg(locale.toString(when.time(), QStringLiteral("HH:mm")));
    return days > 0 && days < 7 ? locale.toString(when, QStringLiteral("ddd HH:mm"))
                                : locale.toString(when.date(), QStringLiteral("d MMM yyyy"));
}

/// A path as people write it: from their home on.
QString fromHome(const QString& path)
{
    const QString home = QDir::homePath() + QLatin1Char('/');
    return QDir::toNativeSeparators(path.startsWith(home) ? QStringLiteral("~/") + path.mid(home.size()) : path);
}

} // namespace

StartPage::StartPage(Jobs& jobs, QWidget* parent) : QWidget(parent), m_jobs(jobs)
{
    setObjectName(QStringLiteral("start"));
    QVBoxLayout* ways = nullptr;
    auto* left = column(tr("Begin"), ways);
    auto* right = column(tr("Opened last"), m_last);
    const auto add = [&](const QString& name, const QString& detail, const QString& key, const char* objectName,
                         const std::function<void()>& what) {
        auto* way = new ChoiceButton(name, detail, key);
        way->setObjectName(QLatin1String(objectName));
        connect(way, &QAbstractButton::clicked, this, what);
        ways->addWidget(way);
        return way;
    };
    m_begin = add(tr("A new job"), tr("Starts at the brief: what the engine is, and what it needs."), tr("Ctrl+N"),
                  "start-new", [this] { m_jobs.begin(); });
    add(tr("Open a job"), tr("A .vicegrip file, from wherever it lies."), tr("Ctrl+O"), "start-open",
        [this] { m_jobs.ask(); });
    ways->addSpacing(14_px);
    ways->addWidget(label(tr("Or look at one that is under way"), look::Size::Small, false, true));
    for (const Jobs::Demo& demo : Jobs::demos())
        add(demo.name, demo.about, {}, qPrintable(QStringLiteral("start-") + demo.file),
            [this, file = demo.file] { m_jobs.openDemo(file); });
    ways->addStretch();

    auto* sheet = new QWidget;
    sheet->setMaximumWidth(kStartWidest);
    auto* columns = new QHBoxLayout;
    columns->setSpacing(kBetween);
    columns->addWidget(left, 1);
    columns->addWidget(right, 1);
    auto* down = new QVBoxLayout(sheet);
    down->setContentsMargins(0, 0, 0, 0);
    down->setSpacing(look::kMargin);
    down->addWidget(label(tr("Wire it, prove it, scale it"), look::Size::Title, true));
    down->addLayout(columns, 1);
    auto* whole = new QHBoxLayout(this);
    whole->setContentsMargins(look::kMargin, 3 * look::kMargin, look::kMargin, look::kMargin);
    whole->addStretch(1);
    whole->addWidget(sheet, 20);
    whole->addStretch(1);
    for (const auto key : {Qt::Key_Return, Qt::Key_Enter})
        connect(new QShortcut(QKeySequence(key), this), &QShortcut::activated, this, [this] {
            auto* button = qobject_cast<QAbstractButton*>(window()->focusWidget());
            if (button == nullptr || !isAncestorOf(button))
                button = m_first;
            button->click();
        });
    refresh();
}

QWidget* StartPage::column(const QString& heading, QVBoxLayout*& into)
{
    auto* widget = new QWidget;
    into = new QVBoxLayout(widget);
    into->setContentsMargins(0, 0, 0, 0);
    into->setSpacing(look::kGap);
    into->addWidget(label(heading, look::Size::Small, false, true));
    return widget;
}

void StartPage::refresh()
{
    while (m_last->count() > 1) { // under the heading
        QLayoutItem* item = m_last->takeAt(1);
        if (QWidget* gone = item->widget(); gone != nullptr) { // it may be the one that was clicked just now
            gone->hide();
            gone->deleteLater();
        }
        delete item;
    }
    const auto& entries = m_jobs.recent().entries();
    m_first = m_begin;
    m_begin->setNext(entries.empty());
    for (size_t i = 0; i < std::min(entries.size(), kShown); ++i) {
        const Recent::Entry& e = entries[i];
        const QString name = e.title.isEmpty() ? e.name : e.name + QStringLiteral("  ·  ") + e.title;
        const QString when = whenText(e.when);
        const QString path = fromHome(e.path);
        auto* way = new ChoiceButton(name, when.isEmpty() ? path : when + QStringLiteral("  ·  ") + path,
                                     i == 0 ? tr("Enter") : QString());
        way->setObjectName(QStringLiteral("recent-%1").arg(i));
        connect(way, &QAbstractButton::clicked, this, [this, path = e.path] { m_jobs.open(path); });
        m_last->addWidget(way);
        way->setNext(i == 0);
        if (i == 0)
            m_first = way;
    }
    if (entries.empty())
        m_last->addWidget(label(tr("None yet: the jobs you open stand here."), look::Size::Body, false, true));
    m_last->addStretch();
    m_first->setFocus();
}

} // namespace vicegrip::app
