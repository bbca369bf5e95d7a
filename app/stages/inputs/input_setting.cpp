#include "app/stages/inputs/input_setting.h"

#include "app/widgets/labels.h"
#include "core/electrics/wiring.h"
#include "core/seating/pull_up.h"

#include <QComboBox>
#include <QGridLayout>

#include <algorithm>

namespace vicegrip::app {
namespace {

constexpr double kOff = 0;

QString modeText(parts::InputMode mode)
{
    switch (mode) {
    case parts::InputMode::Analog:
        return InputSetting::tr("analog, volts");
    case parts::InputMode::Frequency:
        return InputSetting::tr("frequency, edges");
    case parts::InputMode::Switch:
        break;
    }
    return InputSetting::tr("switch, on and off");
}

} // namespace

InputSetting::InputSetting(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_modeName(label(tr("Mode"), look::Size::Small, false, true)),
      m_pullUpName(label(tr("Pull-up"), look::Size::Small, false, true)),
      m_effect(label({}, look::Size::Small, false, true)),
      m_mode(new QComboBox),
      m_pullUp(new QComboBox)
{
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(look::kGap);
    grid->setVerticalSpacing(4_px);
    grid->setColumnStretch(1, 1);
    grid->addWidget(label(tr("As set in the ECU"), look::Size::Body, true), 0, 0, 1, 2);
    const auto add = [&](QLabel* name, QComboBox* box, const char* objectName, const QString& spoken) {
        const int row = grid->rowCount();
        name->setWordWrap(false);
        grid->addWidget(name, row, 0);
        grid->addWidget(box, row, 1);
        box->setObjectName(QLatin1String(objectName));
        box->setAccessibleName(spoken);
        box->setFont(look::textFont(look::Size::Small));
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    };
    add(m_modeName, m_mode, "input-mode", tr("Mode the input is set to in the ECU"));
    add(m_pullUpName, m_pullUp, "input-pull-up", tr("Pull-up that is switched on in the ECU"));
    m_effect->setObjectName(QStringLiteral("pull-up-effect"));
    grid->addWidget(m_effect, grid->rowCount(), 0, 1, 2);
    connect(m_mode, &QComboBox::activated, this, &InputSetting::setMode);
    connect(m_pullUp, &QComboBox::activated, this, &InputSetting::setPullUp);
}

void InputSetting::refresh()
{
    const auto job = m_desk.store.job();
    const job::Circuit* c = job::find(*job, m_desk.selection.circuit());
    const parts::EcuInput* input = c == nullptr ? nullptr : job::findInput(*job, c->input);
    const bool modes = input != nullptr && input->modes.size() > 1;
    const bool pullUps = input != nullptr && !input->pullUpFixed &&
                         (!input->pullUpChoices_ohm.empty() || input->pull_up_ohm.has_value());
    setVisible(modes || pullUps);
    for (QWidget* w : {static_cast<QWidget*>(m_modeName), static_cast<QWidget*>(m_mode)})
        w->setVisible(modes);
    for (QWidget* w : {static_cast<QWidget*>(m_pullUpName), static_cast<QWidget*>(m_pullUp)})
        w->setVisible(pullUps);
    m_effect->hide();
    if (modes) {
        m_mode->clear();
        if (!input->setTo)
            m_mode->addItem(tr("not said"));
        for (parts::InputMode mode : input->modes) {
            m_mode->addItem(modeText(mode), static_cast<int>(mode));
            if (input->setTo == mode)
                m_mode->setCurrentIndex(m_mode->count() - 1);
        }
    }
    if (pullUps)
        refreshPullUp(*job, *c, *input);
}

void InputSetting::refreshPullUp(const job::Job& job, const job::Circuit& circuit, const parts::EcuInput& input)
{
    const parts::Part* sensor = job::sensorOf(job, circuit);
    std::vector<double> values = input.pullUpChoices_ohm;
    if (input.pull_up_ohm && std::ranges::find(values, *input.pull_up_ohm) == values.end())
        values.push_back(*input.pull_up_ohm); // typed at Scale, or from before
    const bool resistive = sensor != nullptr && electrics::Wiring(job).pullUp(circuit) == nullptr &&
                           seating::ohmsAt(*sensor, circuit.scaling.low).has_value();
    m_pullUp->clear();
    m_pullUp->addItem(tr("off"), kOff);
    for (double ohm : values) {
        QString words = text(units::formatOhms(ohm));
        if (resistive) {
            const seating::PullUpChoice choice =
                seating::withPullUp(*sensor, circuit.scaling.low, circuit.scaling.high, input,
                                    job::unitOf(job, input.id)->supply.volts, ohm, input.pull_up_tolerance);
            words += tr(": %1 at worst").arg(text(seating::fineness(choice, *sensor)));
            if (input.pull_up_ohm == ohm) {
                m_effect->setText(text(seating::described(choice, *sensor)));
                m_effect->show();
            }
        }
        m_pullUp->addItem(words, ohm);
        if (input.pull_up_ohm == ohm)
            m_pullUp->setCurrentIndex(m_pullUp->count() - 1);
    }
}

void InputSetting::setMode(int index)
{
    const QVariant chosen = m_mode->itemData(index);
    if (chosen.isValid())
        edit(m_mode->itemText(index),
             [mode = static_cast<parts::InputMode>(chosen.toInt())](parts::EcuInput& input) { input.setTo = mode; });
}

void InputSetting::setPullUp(int index)
{
    const double ohm = m_pullUp->itemData(index).toDouble();
    edit(ohm == kOff ? tr("no pull-up") : text(units::formatOhms(ohm)) + tr(" pull-up"),
         [ohm](parts::EcuInput& input) { input.pull_up_ohm = ohm == kOff ? std::nullopt : std::optional(ohm); });
}

void InputSetting::edit(const QString& description, const std::function<void(parts::EcuInput&)>& change)
{
    const auto job = m_desk.store.job();
    const job::Circuit* c = job::find(*job, m_desk.selection.circuit());
    if (c == nullptr)
        return;
    m_desk.store.editOrSay(tr("Input %1 to %2").arg(text(c->input.value), description), [&](job::Job& changed) {
        if (parts::EcuInput* input = job::findInput(changed, c->input))
            change(*input);
    });
}

} // namespace vicegrip::app
