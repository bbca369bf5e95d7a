#include "app/stages/pins/remap_view.h"

#include "app/widgets/caution.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "app/widgets/paste_panel.h"
#include "core/remap/remap.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QPainter>
#include <QShortcut>
#include <QSignalBlocker>
#include <QStackedWidget>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {
namespace {

using remap::Fate;

enum Column { Function, OldCavity, OldColour, Happens, NewCavity, NewColour };

QString fateText(const remap::Remapped& r)
{
    switch (r.fate) {
    case Fate::Stays:
        return r.otherColour ? RemapView::tr("stays, other colour") : RemapView::tr("stays");
    case Fate::Moves:
        return RemapView::tr("moves  →");
    case Fate::Exchanged:
        return RemapView::tr("exchanged  ⇄");
    case Fate::New:
        return RemapView::tr("new");
    case Fate::Goes:
        return RemapView::tr("goes");
    }
    return {};
}

/// A wire as it looks, for a table's cell.
QIcon swatch(const std::string& colours)
{
    if (colours.empty())
        return {};
    const QStringList both = text(colours).split(QLatin1Char('/'));
    QPixmap image(22_px, 10_px);
    image.fill(look::colours().inkSoft); // a rim, so that a white wire shows on paper
    QPainter p(&image);
    p.fillRect(1, 1, 20_px, 8_px, look::wire(both.first()));
    if (both.size() > 1)
        p.fillRect(1, 4_px, 20_px, 2, look::wire(both.last()));
    return QIcon(image);
}

} // namespace

RemapView::RemapView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_stack(new QStackedWidget),
      m_list(new PastePanel("old-plug", tr("The old plug's list, a cavity a line"),
                            tr("The list the old plug came with: cavity, function, colour, between tabs, semicolons or "
                               "wide gaps. Functions in its own words: coolant temp, sensor earth, 12V battery.")))
{
    m_stack->addWidget(buildComparison());
    m_stack->addWidget(m_list);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(m_stack);
    handFocus(this, m_rows);
    connect(m_list, &PastePanel::typed, this, &RemapView::read);
    connect(m_list, &PastePanel::taken, this, &RemapView::take);
    connect(m_list, &PastePanel::left, this, [this] { m_stack->setCurrentIndex(0); });
}

QWidget* RemapView::buildComparison()
{
    m_connectors = new QComboBox;
    m_connectors->setObjectName(QStringLiteral("remap-connector"));
    m_connectors->setAccessibleName(tr("Plug that takes the old one's place"));
    m_connectors->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_repinned = new QCheckBox(tr("The housing stays, wires move within it"));
    m_repinned->setObjectName(QStringLiteral("remap-repinned"));
    m_repinned->setFont(look::textFont(look::Size::Small));
    m_verdict = label({}, look::Size::Body, true);
    m_verdict->setObjectName(QStringLiteral("remap-verdict"));
    m_empty = label(tr("Nobody has written down what the old plug held. With its list the two stand side by side by "
                       "function, and an exchanged pair stands out."),
                    look::Size::Body, false, true);
    m_write = new KeyButton(tr("The old plug's list"), QStringLiteral("L"), false);
    m_write->setObjectName(QStringLiteral("remap-write"));
    m_rows = new ListTable("remap", tr("Old and new by function"),
                           {{tr("Function"), 0, false},
                            {tr("Old"), 42, true},
                            {tr("Wire"), 86, true},
                            {tr("What happens"), 138, false},
                            {tr("New"), 42, true},
                            {tr("Wire"), 86, true}});
    m_rows->setIconSize(QSize(22_px, 10_px));
    m_work = new ListTable("remap-work", tr("The order of hands at this plug"), {{{}, 30, true}, {tr("Do"), 0, false}});
    m_work->setWordWrap(true);
    auto* page = new QWidget;
    auto* top = new QHBoxLayout;
    top->addWidget(m_connectors, 1);
    top->addWidget(m_repinned);
    top->addWidget(m_write);
    auto* both = new QHBoxLayout;
    both->setSpacing(look::kMargin);
    both->addWidget(m_rows, 8);
    both->addWidget(m_work, 5);
    auto* caution = new Caution;
    caution->setText(tr("Battery negative lead off before any terminal is moved (both leads where the maker says so). "
                        "Local rules and licensed practice come first."));
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 0, 0, 0);
    column->addLayout(top);
    column->addWidget(m_verdict);
    column->addWidget(m_empty);
    column->addLayout(both, 1);
    column->addWidget(caution);
    connect(m_connectors, &QComboBox::activated, this, [this](int index) {
        m_connector = m_connectors->itemData(index).toString().toStdString();
        refresh();
    });
    connect(m_repinned, &QCheckBox::clicked, this, &RemapView::setRepinned);
    connect(m_write, &KeyButton::clicked, this, &RemapView::write);
    connect(new QShortcut(QKeySequence(Qt::Key_L), page), &QShortcut::activated, this, &RemapView::write);
    return page;
}

const job::OldPlug* RemapView::old() const
{
    const auto& all = m_desk.store.job()->oldPlugs;
    const auto it = std::ranges::find(all, m_connector, &job::OldPlug::connector);
    return it == all.end() ? nullptr : &*it;
}

void RemapView::edit(const QString& description, const Change& change)
{
    const auto done = m_desk.store.edit(description, change);
    refresh();
    if (!done)
        m_verdict->setText(QString::fromStdString(done.error().sentence));
}

void RemapView::refresh()
{
    const auto job = m_desk.store.job(); // old() points into it
    if (job::findConnector(*job, m_connector) == nullptr)
        m_connector = !job->oldPlugs.empty()    ? job->oldPlugs.front().connector
                      : job->connectors.empty() ? std::string()
                                                : job->connectors.front().id;
    {
        const QSignalBlocker quiet(m_connectors);
        m_connectors->clear();
        for (const job::Connector& c : job->connectors) {
            const bool has = std::ranges::find(job->oldPlugs, c.id, &job::OldPlug::connector) != job->oldPlugs.end();
            m_connectors->addItem(has ? tr("%1, %2: old list noted").arg(text(c.id), text(c.label))
                                      : tr("%1, %2").arg(text(c.id), text(c.label)),
                                  text(c.id));
            if (c.id == m_connector)
                m_connectors->setCurrentIndex(m_connectors->count() - 1);
        }
    }
    const job::OldPlug* plug = old();
    m_empty->setVisible(plug == nullptr);
    m_repinned->setEnabled(plug != nullptr);
    m_repinned->setChecked(plug == nullptr || plug->repinned);
    m_verdict->setVisible(plug != nullptr);
    for (ListTable* table : {m_rows, m_work})
        table->setVisible(plug != nullptr);
    if (plug == nullptr)
        return;
    const remap::Remap remap = remap::remap(*job, *plug);
    m_verdict->setText((plug->label.empty() ? QString() : text(plug->label) + QStringLiteral(": ")) +
                       text(remap.verdict));
    showRows(remap);
}

void RemapView::showRows(const remap::Remap& remap)
{
    std::vector<QStringList> rows;
    for (const remap::Remapped& r : remap.rows)
        rows.push_back({text(r.function), text(r.oldCavity), text(r.oldColour), fateText(r),
                        text(r.newPlug.empty() ? r.newCavity : r.newPlug + "." + r.newCavity), text(r.newColour)});
    m_rows->fill(rows);
    const auto& c = look::colours();
    for (int row = 0; row < m_rows->rowCount(); ++row) {
        const remap::Remapped& r = remap.rows[static_cast<size_t>(row)];
        m_rows->item(row, OldColour)->setIcon(swatch(r.oldColour));
        m_rows->item(row, NewColour)->setIcon(swatch(r.newColour));
        if (!r.asListed.empty())
            m_rows->item(row, Function)->setToolTip(tr("The old list says: %1").arg(text(r.asListed)));
        m_rows->item(row, Happens)->setFont(look::textFont(look::Size::Small, r.fate != Fate::Stays));
        m_rows->item(row, Happens)
            ->setForeground(r.fate == Fate::Exchanged || r.otherColour ? c.failing
                            : r.fate == Fate::Stays                    ? c.inkSoft
                                                                       : c.accent);
    }
    std::vector<QStringList> work;
    int number = 0;
    for (const remap::RemapStep& s : remap.work)
        work.push_back({QString::number(++number),
                        s.why.empty() ? text(s.what) : text(s.what) + QStringLiteral(".\n") + text(s.why)});
    m_work->fill(work);
    m_work->resizeRowsToContents();
    constexpr look::Px kAir{8};
    for (int row = 0; row < m_work->rowCount(); ++row)
        m_work->setRowHeight(row, m_work->rowHeight(row) + kAir);
}

void RemapView::setRepinned(bool on)
{
    edit(on ? tr("The housing stays") : tr("Another housing"), [&](job::Job& job) {
        for (job::OldPlug& p : job.oldPlugs)
            if (p.connector == m_connector)
                p.repinned = on;
    });
}

void RemapView::write()
{
    const job::OldPlug* plug = old();
    m_list->setText(plug == nullptr ? QString() : text(remap::textOf(plug->pins)));
    read();
    m_stack->setCurrentWidget(m_list);
    m_list->setFocus();
}

void RemapView::read()
{
    const auto read = remap::pasteOldPins(m_list->text().toStdString());
    if (!read) {
        m_list->show({}, QString::fromStdString(read.error().sentence), {});
        return;
    }
    std::vector<PastePanel::Line> lines;
    for (const remap::PastedPin& p : read->lines)
        lines.push_back({p.line, text(p.trouble.empty() ? p.text : p.trouble), p.trouble.empty()});
    const int good = static_cast<int>(read->pins.size());
    m_list->show(lines, lines.empty() ? tr("Nothing written yet.") : tr("%1 understood").arg(good),
                 good == 0 ? QString() : tr("Compare"));
}

void RemapView::take()
{
    const auto read = remap::pasteOldPins(m_list->text().toStdString());
    if (!read || read->pins.empty())
        return;
    edit(tr("Old plug of %1").arg(text(m_connector)), [&](job::Job& job) {
        const auto it = std::ranges::find(job.oldPlugs, m_connector, &job::OldPlug::connector);
        if (it != job.oldPlugs.end())
            it->pins = read->pins;
        else
            job.oldPlugs.push_back({m_connector, {}, true, read->pins});
    });
    m_stack->setCurrentIndex(0);
}

} // namespace vicegrip::app
