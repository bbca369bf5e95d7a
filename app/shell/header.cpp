#include "app/shell/header.h"

#include "app/desk/when.h"
#include "app/widgets/labels.h"

#include <QButtonGroup>
#include <QEvent>
#include <QHBoxLayout>
#include <QPainter>
#include <QPushButton>

namespace vicegrip::app {
namespace {

/// Dressing a widget costs more than drawing it: only when the dress is another.
void dress(QWidget* widget, const QString& style)
{
    if (const QString dressed = look::scaled(style); widget->styleSheet() != dressed)
        widget->setStyleSheet(dressed);
}

constexpr look::Px kChip{30}, kLongestName{240}, kWithTitle{1180};

QString chipStyle(Live::Chip chip)
{
    const auto& c = look::colours();
    const bool bad = chip == Live::Chip::Bad;
    return QStringLiteral(
               "QPushButton { color: %1; background: %2; border: 1px solid %3; border-radius: 2px; padding: 0 8px; }"
               "QPushButton:focus { border: 2px solid %4; padding: 0 7px; }")
        .arg((bad                       ? c.failing
              : chip == Live::Chip::Off ? c.bandLine.lighter(160)
                                        : c.bandInk)
                 .name(),
             bad ? c.failingFill.name() : QStringLiteral("transparent"), (bad ? c.failing : c.bandLine).name(),
             c.bandInk.name());
}

QString buttonStyle(const QColor& ink, const QColor& fill, const QColor& line)
{
    const auto& c = look::colours();
    return QStringLiteral(
               "QPushButton { color: %1; background: %2; border: 1px solid %3; padding: 5px 10px; border-radius: 2px; }"
               "QPushButton:checked { background: %4; color: %5; }"
               "QPushButton:focus { border: 2px solid %4; padding: 4px 9px; }")
        .arg(ink.name(), fill.name(QColor::HexArgb), line.name(), c.bandInk.name(), c.band.name());
}

/// The job's name is a heading that can be pressed.
QString jobStyle()
{
    const auto& c = look::colours();
    return QStringLiteral(
               "QPushButton { color: %1; background: transparent; border: 1px solid transparent; padding: 5px 8px; "
               "margin-left: -9px; border-radius: 2px; text-align: left; }"
               "QPushButton:hover { border: 1px solid %2; }"
               "QPushButton:focus { border: 2px solid %1; padding: 4px 7px; }")
        .arg(c.bandInk.name(), c.bandLine.name());
}

struct ConditionName
{
    job::Condition condition;
    QString name, brief;
};

std::array<ConditionName, 4> conditionNames()
{
    using job::Condition;
    return {{{Condition::BatteryOff, Header::tr("Battery off"), Header::tr("Off")},
             {Condition::KeyOn, Header::tr("Key on"), Header::tr("Key")},
             {Condition::Cranking, Header::tr("Cranking"), Header::tr("Crank")},
             {Condition::Running, Header::tr("Running"), Header::tr("Run")}}};
}

} // namespace

Header::Header(Desk& desk, QWidget* parent) : QWidget(parent), m_desk(desk)
{
    setFixedHeight(look::kHeader);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(look::kMargin, 0, look::kMargin, 0);
    row->setSpacing(look::kGap);
    m_job = new QPushButton;
    m_job->setObjectName(QStringLiteral("job"));
    m_job->setFont(look::textFont(look::Size::Body, true));
    connect(m_job, &QPushButton::clicked, this, &Header::menuAsked);
    m_title = label({}, look::Size::Small);
    m_saved = label({}, look::Size::Small);
    m_saved->setObjectName(QStringLiteral("saved"));
    for (QLabel* l : {m_title, m_saved})
        l->setWordWrap(false);
    row->addWidget(m_job);
    row->addWidget(m_title);
    row->addSpacing(6_px);
    row->addWidget(m_saved);
    row->addStretch();

    m_condition = new QButtonGroup(this);
    for (const auto& [condition, name, brief] : conditionNames()) {
        auto* button = new QPushButton(brief);
        button->setCheckable(true);
        button->setObjectName(QStringLiteral("condition-") + text(fields::enumName(condition)));
        button->setAccessibleName(tr("Condition: %1").arg(name));
        m_condition->addButton(button, static_cast<int>(condition));
        row->addWidget(button);
    }
    connect(m_condition, &QButtonGroup::idClicked, this,
            [this](int id) { m_desk.selection.setCondition(static_cast<job::Condition>(id)); });
    row->addSpacing(6_px);
    m_ecu = new QPushButton;
    m_ecu->setObjectName(QStringLiteral("chip-ecu"));
    m_meter = new QPushButton;
    m_meter->setObjectName(QStringLiteral("chip-meter"));
    for (QPushButton* chip : {m_ecu, m_meter}) {
        chip->setFont(look::numbers(look::Size::Small));
        chip->setFixedHeight(kChip);
        connect(chip, &QPushButton::clicked, this, &Header::linksAsked);
        row->addWidget(chip);
    }
    m_findings = new QPushButton;
    m_findings->setObjectName(QStringLiteral("findings"));
    m_finder = new QPushButton(tr("Find"));
    connect(m_findings, &QPushButton::clicked, this, &Header::findingsAsked);
    connect(m_finder, &QPushButton::clicked, this, &Header::finderAsked);
    row->addWidget(m_findings);
    row->addWidget(m_finder);
    refresh();
}

void Header::refresh()
{
    const job::Job& job = *m_desk.store.job();
    const bool any = m_desk.store.hasJob();
    const QString name = any ? text(job.name) : tr("Vicegrip");
    const QString fitting = m_job->fontMetrics().elidedText(name, Qt::ElideRight, kLongestName);
    m_job->setText(QString(fitting).replace(QLatin1Char('&'), QLatin1String("&&")) + // no key of its own
                   QStringLiteral("  \u25be")); // a small triangle: there is more under it
    m_job->setToolTip(fitting == name ? QString() : name);
    m_job->setAccessibleName(any ? tr("Job: %1").arg(name) : tr("Job menu"));
    for (QAbstractButton* b : m_condition->buttons())
        b->setVisible(any);
    for (QWidget* w : std::initializer_list<QWidget*>{m_ecu, m_meter, m_findings})
        w->setVisible(any);
    m_title->setText(text(job.title));
    m_saved->setText(m_desk.store.path().isEmpty()              ? QString()
                     : !m_desk.store.readOnlyReason().isEmpty() ? tr("read only")
                     : m_desk.store.isSaved()                   ? tr("saved")
                                                                : tr("not saved"));
    m_saved->setToolTip(m_desk.store.readOnlyReason());
    m_condition->button(static_cast<int>(m_desk.selection.condition()))->setChecked(true);

    const auto count = static_cast<int>(m_desk.store.analysis()->findings.size());
    m_findings->setText(count == 0 ? tr("No findings") : count == 1 ? tr("1 finding") : tr("%1 findings").arg(count));
    restyle();
}

void Header::refreshChips()
{
    const QHash<Live::Chip, QString> kEcu = {{Live::Chip::Off, tr("no ECU")},
                                             {Live::Chip::Waiting, tr("ECU quiet")},
                                             {Live::Chip::Good, tr("ECU 50 Hz")},
                                             {Live::Chip::Bad, tr("ECU lost")}};
    const QHash<Live::Chip, QString> kMeter = {{Live::Chip::Off, tr("no meter")},
                                               {Live::Chip::Waiting, tr("meter ...")},
                                               {Live::Chip::Good, tr("meter ready")},
                                               {Live::Chip::Bad, tr("meter lost")}};
    const auto ecu = m_desk.live.ecuChip();
    const auto& played = m_desk.live.ecu().played();
    const Recorder& recorder = m_desk.live.recorder();
    QString said = ecu == Live::Chip::Good && m_desk.live.stream() ? tr("ECU heard") : kEcu.value(ecu);
    if (m_desk.live.replay() && played)
        said = tr("replay %1").arg(clockText(played->now_s));
    if (recorder.isRecording())
        said = tr("recording %1").arg(clockText(recorder.seconds()));
    m_ecu->setText(said);
    m_ecu->setToolTip(m_desk.live.ecu().sentence());
    m_meter->setText(kMeter.value(m_desk.live.meterChip()));
    m_meter->setToolTip(m_desk.live.meter().sentence());
    for (QPushButton* chip : {m_ecu, m_meter})
        chip->setAccessibleName(tr("%1: links").arg(chip->text()));
    dress(m_ecu, chipStyle(ecu));
    dress(m_meter, chipStyle(m_desk.live.meterChip()));
}

QPoint Header::menuPlace() const
{
    return m_job->mapTo(window(), QPoint(0, m_job->height() + 2));
}

void Header::restyle()
{
    const auto& c = look::colours();
    dress(m_job, jobStyle());
    setInk(m_title, c.bandInk);
    setInk(m_saved, c.bandInk);
    for (QAbstractButton* b : m_condition->buttons())
        dress(b, buttonStyle(c.bandInk, Qt::transparent, c.bandLine));
    dress(m_finder, buttonStyle(c.bandInk, Qt::transparent, c.bandLine));
    const bool any = !m_desk.store.analysis()->findings.empty();
    dress(m_findings, any ? buttonStyle(c.failing, c.failingFill, c.failingFill)
                          : buttonStyle(c.bandInk, Qt::transparent, c.bandLine));
    refreshChips();
}

/// In a small window what the engine is gives way, and words are short.
void Header::fit()
{
    const bool roomy = width() >= kWithTitle;
    m_title->setVisible(roomy);
    for (const ConditionName& c : conditionNames())
        m_condition->button(static_cast<int>(c.condition))->setText(roomy ? c.name : c.brief);
    m_finder->setText(roomy ? tr("Find  Ctrl+K") : tr("Find"));
}

void Header::resizeEvent(QResizeEvent*)
{
    fit();
}

void Header::paintEvent(QPaintEvent*)
{
    QPainter(this).fillRect(rect(), look::colours().band);
}

} // namespace vicegrip::app
