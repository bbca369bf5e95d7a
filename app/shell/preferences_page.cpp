#include "app/shell/preferences_page.h"

#include "app/widgets/hand_focus.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/typed_field.h"
#include "app/widgets/value_row.h"
#include "core/base/phrase.h"

#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QKeyEvent>
#include <QLineEdit>
#include <QScrollArea>
#include <QVBoxLayout>

#include <cmath>

namespace vicegrip::app {
namespace {

using units::Dimension;

constexpr look::Px kCaption{170}, kChoice{150}, kSheet{1060}, kTwoColumns{960};

/// What is shown of each dimension beside its choice.
struct Sample
{
    Dimension dimension;
    const char* name;
    double si;
    const char* unit;
    int decimals;
};

constexpr Sample kSamples[] = {
    {Dimension::Temperature, QT_TRANSLATE_NOOP("PreferencesPage", "Temperature"), 358.15, "°C", 1},
    {Dimension::AbsolutePressure, QT_TRANSLATE_NOOP("PreferencesPage", "Absolute pressure"), 98.4e3, "kPa", 1},
    {Dimension::GaugePressure, QT_TRANSLATE_NOOP("PreferencesPage", "Gauge pressure"), 3.2e5, "bar", 2},
    {Dimension::Length, QT_TRANSLATE_NOOP("PreferencesPage", "Length"), 1.03, "m", 2},
    {Dimension::Area, QT_TRANSLATE_NOOP("PreferencesPage", "Conductor"), 0.75e-6, "mm²", 2},
    {Dimension::Volume, QT_TRANSLATE_NOOP("PreferencesPage", "Fuel"), 0.055, "l", 1},
    {Dimension::Speed, QT_TRANSLATE_NOOP("PreferencesPage", "Speed"), 100 / 3.6, "km/h", 0},
    {Dimension::MassFlow, QT_TRANSLATE_NOOP("PreferencesPage", "Air mass"), 240 / 3600., "kg/h", 0},
    {Dimension::Lambda, QT_TRANSLATE_NOOP("PreferencesPage", "Mixture"), 0.95, "λ", 3}};

/// Lines that might wrap ask for the height they would have in a narrow column.
QLabel* oneLine(const QString& text, look::Size size, bool strong = false)
{
    QLabel* line = label(text, size, strong, !strong);
    line->setWordWrap(false);
    return line;
}

QGridLayout* gridIn(QVBoxLayout* column, const QString& heading)
{
    if (column->count() > 0)
        column->addSpacing(look::kMargin);
    column->addWidget(oneLine(heading, look::Size::Body, true));
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(look::kGap);
    grid->setVerticalSpacing(6_px);
    grid->setColumnMinimumWidth(0, kCaption);
    grid->setColumnStretch(2, 1);
    column->addLayout(grid);
    return grid;
}

QComboBox* choiceIn(QGridLayout* grid, const QString& name, const char* objectName)
{
    auto* box = new QComboBox;
    box->setObjectName(QLatin1String(objectName));
    box->setAccessibleName(name);
    box->setFont(look::textFont(look::Size::Small));
    box->setFixedSize(kChoice, look::kField);
    const int row = grid->rowCount();
    grid->addWidget(oneLine(name, look::Size::Small), row, 0);
    grid->addWidget(box, row, 1);
    return box;
}

} // namespace

PreferencesPage::PreferencesPage(Desk& desk, QWidget* parent) : QWidget(parent), m_desk(desk)
{
    setObjectName(QStringLiteral("preferences"));
    setAccessibleName(tr("Preferences"));
    auto* sheet = new QWidget;
    sheet->setMaximumWidth(kSheet);
    auto *left = new QVBoxLayout, *middle = new QVBoxLayout;
    for (QVBoxLayout* column : {left, middle})
        column->setSpacing(4_px);
    buildUnits(left);
    buildWindow(left);
    buildCutting(middle);
    buildMeter(middle);
    for (QVBoxLayout* column : {left, middle})
        column->addStretch(1);
    m_columns = new QBoxLayout(QBoxLayout::LeftToRight);
    m_columns->setSpacing(3 * look::kMargin);
    m_columns->addLayout(left, 1);
    m_columns->addLayout(middle, 1);

    auto* done = new KeyButton(tr("Done"), tr("Esc"), true);
    done->setObjectName(QStringLiteral("preferences-done"));
    connect(done, &QAbstractButton::clicked, this, &PreferencesPage::left);
    auto* top = new QHBoxLayout;
    top->addWidget(label(tr("Preferences"), look::Size::Title, true), 1);
    top->addWidget(done);
    auto* down = new QVBoxLayout(sheet);
    down->setContentsMargins(look::kMargin, look::kMargin, look::kMargin, look::kMargin);
    down->setSpacing(look::kMargin);
    down->addLayout(top);
    down->addLayout(m_columns, 1);
    auto* scroll = new QScrollArea;
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setWidgetResizable(true);
    scroll->setWidget(sheet);
    scroll->setAlignment(Qt::AlignHCenter);
    auto* whole = new QVBoxLayout(this);
    whole->setContentsMargins(0, 0, 0, 0);
    whole->addWidget(scroll);
    handFocus(this, m_system);
    refresh();
}

void PreferencesPage::buildUnits(QVBoxLayout* column)
{
    QGridLayout* grid = gridIn(column, tr("Units"));
    m_system = choiceIn(grid, tr("Everything"), "units-system");
    m_system->addItems({tr("metric"), tr("US")});
    connect(m_system, &QComboBox::activated, this, [this](int index) {
        change([index](Preferred& p) { p.shown.system = index == 1 ? units::System::US : units::System::Metric; });
    });
    grid->addWidget(oneLine(tr("typed, any unit is understood"), look::Size::Small), 1, 2);
    for (const Sample& s : kSamples) {
        const std::string name(units::name(s.dimension));
        QComboBox* box = choiceIn(grid, tr(s.name), ("units-" + name).c_str());
        box->addItem(QString()); // as the system has it
        for (const units::Choice& c : units::choices(s.dimension))
            box->addItem(text(std::string(c.name)));
        auto* example = figure({}, look::Size::Body);
        example->setObjectName(text("example-" + name));
        grid->addWidget(example, grid->rowCount() - 1, 2);
        m_units.push_back({s.dimension, box, example});
        connect(box, &QComboBox::activated, this, [this, box, dimension = s.dimension](int index) {
            change([&](Preferred& p) {
                if (index == 0)
                    p.shown.own.erase(dimension);
                else
                    p.shown.own[dimension] = box->itemText(index).toStdString();
            });
        });
    }
}

void PreferencesPage::buildWindow(QVBoxLayout* column)
{
    QGridLayout* grid = gridIn(column, tr("Window"));
    m_paper = choiceIn(grid, tr("Colours"), "paper");
    m_paper->addItems({tr("day"), tr("night"), tr("as the desktop")});
    connect(m_paper, &QComboBox::activated, this,
            [this](int index) { change([index](Preferred& p) { p.paper = static_cast<Paper>(index); }); });
    m_textSize = choiceIn(grid, tr("Text size"), "text-size");
    for (const int percent : look::kTextSizes)
        m_textSize->addItem(tr("%1 %").arg(percent), percent);
    grid->addWidget(oneLine(tr("Ctrl and + or −"), look::Size::Small), grid->rowCount() - 1, 2);
    connect(m_textSize, &QComboBox::activated, this,
            [this](int index) { change([index](Preferred& p) { p.textSize = look::kTextSizes[index]; }); });
    m_callOut = new QCheckBox(tr("Pins are spoken as they come"));
    m_callOut->setObjectName(QStringLiteral("call-out-always"));
    m_callOut->setFont(look::textFont(look::Size::Small));
    grid->addWidget(m_callOut, grid->rowCount(), 0, 1, 3);
    connect(m_callOut, &QCheckBox::toggled, this, [this](bool on) { change([on](Preferred& p) { p.callOut = on; }); });
    m_currency = new TypedField(tr("Currency"), [](const QString& typed) -> Result<QString> {
        constexpr int kLongest = 8;
        if (typed.trimmed().size() > kLongest)
            return fail(ErrorCode::Range, phrase("expected a sign or a few letters, such as € or CHF"));
        return typed.trimmed();
    });
    m_currency->setFixedWidth(kChoice);
    addCaptioned(grid, tr("Currency beside prices"), "currency", m_currency);
    connect(m_currency, &TypedField::entered, this,
            [this](const QString& typed) { change([&](Preferred& p) { p.currency = typed.trimmed(); }); });
}

void PreferencesPage::buildCutting(QVBoxLayout* column)
{
    using materials::Habits;
    QGridLayout* grid = gridIn(column, tr("Cutting and buying"));
    const auto add = [&](const QString& name, const char* objectName, const ReadsValue& read,
                         const std::function<QString(double)>& say, double Habits::*member) {
        auto* field = addValueRow(grid, name, objectName, read, say,
                                  [this, member](double v) { change([&](Preferred& p) { p.habits.*member = v; }); });
        m_showers.emplace_back(
            [this, field, say, member] { field->setText(say(m_desk.preferences.now().habits.*member)); });
    };
    add(tr("Slack of a drawn length"), "habit-slack", readsValue(Dimension::Ratio, "%", 0, 0.5),
        saysValue(Dimension::Ratio, "%", 1), &Habits::slack);
    add(tr("Service loop at a plug"), "habit-loop", readsValue(Dimension::Length, "mm", 0, 2),
        saysValue(Dimension::Length, "mm", 0), &Habits::serviceLoop_m);
    add(tr("From splice to splice"), "habit-stagger", readsValue(Dimension::Length, "mm", 0, 1),
        saysValue(Dimension::Length, "mm", 0), &Habits::stagger_m);
    add(tr("Spare of each wire"), "habit-wire", readsValue(Dimension::Length, "m", 0, 100),
        saysValue(Dimension::Length, "m", 2), &Habits::spareWire_m);
    const auto read = [](const QString& typed) {
        return units::parse(typed.toStdString(), Dimension::Counts).and_then([](double n) -> Result<double> {
            if (n != std::round(n) || n < 0 || n > 100)
                return fail(ErrorCode::Range, phrase("expected a whole number from 0 (none) to 100"));
            return n;
        });
    };
    const auto say = [](double n) { return n > 0 ? QString::number(n) : PreferencesPage::tr("0, no spares"); };
    auto* spare = addValueRow(grid, tr("One terminal more for each"), "habit-spare", read, say, [this](double n) {
        change([&](Preferred& p) { p.habits.spareForEach = static_cast<int>(n); });
    });
    m_showers.emplace_back([this, spare, say] { spare->setText(say(m_desk.preferences.now().habits.spareForEach)); });
}

void PreferencesPage::buildMeter(QVBoxLayout* column)
{
    using job::Meter;
    QGridLayout* grid = gridIn(column, tr("Own meter, for new jobs"));
    const auto add = [&](const QString& name, const char* objectName, Dimension dimension, const char* unit,
                         double high, int decimals, double Meter::*member) {
        const auto say = saysValue(dimension, unit, decimals);
        auto* field = addValueRow(grid, name, objectName, readsValue(dimension, unit, 0, high), say,
                                  [this, member](double v) { change([&](Preferred& p) { p.meter.*member = v; }); });
        m_showers.emplace_back(
            [this, field, say, member] { field->setText(say(m_desk.preferences.now().meter.*member)); });
    };
    add(tr("Volts ±, of the reading"), "meter-volts-share", Dimension::Ratio, "%", 0.2, 2, &Meter::voltsShare);
    add(tr("and as much more"), "meter-volts", Dimension::Voltage, "mV", 1, 1, &Meter::volts_v);
    add(tr("Ohms ±, of the reading"), "meter-ohms-share", Dimension::Ratio, "%", 0.2, 2, &Meter::ohmsShare);
    add(tr("and as much more"), "meter-ohms", Dimension::Resistance, "Ω", 10, 2, &Meter::ohms_ohm);
    add(tr("Both leads together"), "meter-leads", Dimension::Resistance, "Ω", 10, 2, &Meter::lead_ohm);
    column->addWidget(
        label(tr("Its sheet says so: \"± (0.5 % + 3 digits)\" in the 6 V range of a 6000 count meter is 0.5 % and "
                 "3 mV."),
              look::Size::Small, false, true));
    m_useMeter = new KeyButton(tr("Use it in this job"), QString(), false);
    m_useMeter->setObjectName(QStringLiteral("use-meter"));
    connect(m_useMeter, &QAbstractButton::clicked, this, &PreferencesPage::takeMeter);
    column->addWidget(m_useMeter, 0, Qt::AlignLeft);
}

void PreferencesPage::change(const std::function<void(Preferred&)>& how)
{
    Preferred preferred = m_desk.preferences.now();
    how(preferred);
    m_desk.preferences.set(preferred);
    refresh();
}

/// What is promised was bounded by another meter: a change of the job like any other, that can be undone.
void PreferencesPage::takeMeter()
{
    const job::Meter own = m_desk.preferences.now().meter;
    m_desk.store.editOrSay(tr("Own meter"), [own](job::Job& job) {
        const auto extra = job.meter.extra;
        job.meter = own;
        job.meter.extra = extra;
    });
    refresh();
}

void PreferencesPage::refresh()
{
    const Preferred& p = m_desk.preferences.now();
    const bool us = p.shown.system == units::System::US;
    m_system->setCurrentIndex(us ? 1 : 0);
    for (const UnitRow& row : m_units) {
        row.choice->setItemText(0, us ? tr("as US") : tr("as metric"));
        const auto own = p.shown.own.find(row.dimension);
        row.choice->setCurrentIndex(own == p.shown.own.end() ? 0 : row.choice->findText(text(own->second)));
    }
    showExamples();
    m_paper->setCurrentIndex(static_cast<int>(p.paper));
    m_textSize->setCurrentIndex(m_textSize->findData(p.textSize)); // none of these: a file may say 93
    {
        const QSignalBlocker quiet(m_callOut);
        m_callOut->setChecked(p.callOut);
    }
    m_currency->setText(p.currency);
    for (const auto& show : m_showers)
        show();
    job::Meter own = p.meter;
    own.extra = m_desk.store.job()->meter.extra;
    m_useMeter->setVisible(m_desk.store.hasJob());
    m_useMeter->setEnabled(own != m_desk.store.job()->meter);
}

void PreferencesPage::showExamples()
{
    for (size_t i = 0; i < m_units.size(); ++i) {
        const Sample& s = kSamples[i];
        m_units[i].example->setText(text(units::format(s.si, s.dimension, s.unit, s.decimals)));
        m_units[i].choice->setAccessibleDescription(m_units[i].example->text());
    }
}

/// Where there is no room for two columns, one is under the other.
void PreferencesPage::resizeEvent(QResizeEvent* event)
{
    QWidget::resizeEvent(event);
    m_columns->setDirection(width() < kTwoColumns ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
}

void PreferencesPage::keyPressEvent(QKeyEvent* event)
{
    if (event->key() == Qt::Key_Escape)
        emit left();
    else
        QWidget::keyPressEvent(event);
}

} // namespace vicegrip::app
