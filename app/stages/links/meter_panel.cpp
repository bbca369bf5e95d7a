#include "app/stages/links/meter_panel.h"

#include "app/look/look.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"

#include <QComboBox>
#include <QLineEdit>
#include <QSerialPortInfo>
#include <QVBoxLayout>

namespace vicegrip::app {

MeterPanel::MeterPanel(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_where(new QComboBox),
      m_status(label({}, look::Size::Body)),
      m_wrong(label({}, look::Size::Small, false, true)),
      m_use(new KeyButton(tr("Use it for this job"), {}, true)),
      m_none(new KeyButton(tr("None"), {}, false)),
      m_forget(new KeyButton(tr("Forget"), {}, false)),
      m_ports([this](const QStringList& ports) {
          m_found = ports;
          list();
      })
{
    m_where->setEditable(true);
    m_where->setObjectName(QStringLiteral("meter-where"));
    m_where->setAccessibleName(tr("Where the meter is"));
    m_where->setFont(look::textFont(look::Size::Small));
    m_where->setFixedHeight(look::kField);
    m_where->lineEdit()->setFont(m_where->font());
    m_where->lineEdit()->setPlaceholderText(tr("such as: 192.168.1.20, or ttyUSB0 9600"));
    m_status->setObjectName(QStringLiteral("meter-status"));
    m_wrong->setObjectName(QStringLiteral("meter-wrong"));
    m_use->setObjectName(QStringLiteral("meter-use"));
    m_none->setObjectName(QStringLiteral("meter-none"));
    m_forget->setObjectName(QStringLiteral("meter-forget"));
    connect(m_use, &QAbstractButton::clicked, this, &MeterPanel::use);
    connect(m_none, &QAbstractButton::clicked, this, [this] { m_desk.linking.useMeter({}); });
    connect(m_forget, &QAbstractButton::clicked, this,
            [this] { m_desk.linking.forgetMeter(m_where->currentText().simplified()); });
    connect(m_where->lineEdit(), &QLineEdit::returnPressed, this, &MeterPanel::use);
    connect(&desk.live, &Live::linksChanged, this, &MeterPanel::refreshStatus);
    connect(&desk.linking, &Linking::changed, this, &MeterPanel::refresh);

    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6_px);
    column->addWidget(label(tr("The multimeter"), look::Size::Body, true));
    column->addWidget(m_status);
    column->addWidget(m_where);
    column->addWidget(m_wrong);
    auto* row = new QHBoxLayout;
    for (KeyButton* b : {m_use, m_none, m_forget})
        row->addWidget(b);
    row->addStretch();
    column->addLayout(row);
    column->addWidget(label(tr("It answers SCPI. A reading is taken when three in a row agree within its own error."),
                            look::Size::Small, false, true));
    column->addStretch();
}

void MeterPanel::refresh()
{
    list();
    m_ports.ask([] {
        QStringList out;
        for (const QSerialPortInfo& port : QSerialPortInfo::availablePorts())
            out += port.portName() + QStringLiteral(" 9600");
        return out;
    });
    refreshStatus();
}

void MeterPanel::list()
{
    const QString typed = m_where->currentText();
    m_where->clear();
    for (const QString& place : m_desk.linking.profiles().meters())
        m_where->addItem(place);
    for (const QString& port : m_found)
        if (m_where->findText(port) < 0)
            m_where->addItem(port);
    const QString used = text(m_desk.store.job()->instrument);
    m_where->setCurrentText(typed.isEmpty() ? used : typed);
}

void MeterPanel::use()
{
    const QString typed = m_where->currentText().simplified();
    if (!link::addressOf(typed)) {
        m_wrong->setText(
            tr("Expected a host such as 192.168.1.20 or meter:5025, or a serial port and its speed such as "
               "ttyUSB0 9600."));
        setInk(m_wrong, look::colours().failing);
        m_wrong->show();
        m_where->setFocus();
        return;
    }
    m_wrong->clear();
    m_desk.linking.useMeter(typed);
}

void MeterPanel::refreshStatus()
{
    const auto& c = look::colours();
    m_wrong->setVisible(!m_wrong->text().isEmpty());
    const QString place = m_desk.live.hasMeter() ? text(m_desk.store.job()->instrument) : tr("the simulated bench");
    const link::ScpiMeter& meter = m_desk.live.meter();
    using State = link::ScpiMeter::State;
    m_status->setText(meter.state() == State::Off          ? tr("Not connected.")
                      : meter.state() == State::Connecting ? tr("Connecting to %1").arg(place)
                      : meter.state() == State::Failed     ? meter.sentence()
                                                           : tr("Ready at %1.").arg(place));
    setInk(m_status, meter.state() == State::Failed                                  ? c.failing
                     : meter.state() == State::Ready || meter.state() == State::Busy ? c.done
                                                                                     : c.inkSoft);
    m_none->setEnabled(m_desk.live.hasMeter());
    m_forget->setEnabled(m_where->findText(m_where->currentText()) >= 0);
}

} // namespace vicegrip::app
