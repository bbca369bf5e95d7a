#include "app/stages/links/stream_panel.h"

#include "app/look/look.h"
#include "app/widgets/caution.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"

#include <QCanBus>
#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QGridLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>
#include <span>

namespace vicegrip::app {
namespace {

constexpr look::Px kCaption{76}, kLeast{190};
constexpr int kRates[] = {0, 50'000, 83'333, 100'000, 125'000, 250'000, 500'000, 800'000, 1'000'000};

enum Fixed { kNone, kBench, kNew, kFirstKept };

/// Every interface that a plugin of this machine sees. Some ask their hardware, and take their time.
std::vector<std::pair<QString, QString>> adapters()
{
    std::vector<std::pair<QString, QString>> out;
    for (const QString& plugin : QCanBus::instance()->plugins())
        for (const QCanBusDeviceInfo& device : QCanBus::instance()->availableDevices(plugin))
            out.emplace_back(plugin, device.name());
    return out;
}

QString rateText(int rate)
{
    constexpr double kKilo = 1000;
    return rate == 0 ? StreamPanel::tr("as it is set up") : StreamPanel::tr("%1 kbit/s").arg(rate / kKilo);
}

/// A caption and its field in a grid of such pairs.
void add(QGridLayout* grid, int row, int pair, const QString& name, const char* objectName, QWidget* field,
         int span = 1)
{
    auto* caption = label(name, look::Size::Small, false, true);
    caption->setWordWrap(false);
    caption->setBuddy(field);
    field->setObjectName(QLatin1String(objectName));
    field->setAccessibleName(name);
    field->setFont(look::textFont(look::Size::Small));
    field->setFixedHeight(look::kField);
    field->setMinimumWidth(kLeast);
    grid->addWidget(caption, row, 2 * pair);
    grid->addWidget(field, row, 2 * pair + 1, 1, span);
}

} // namespace

StreamPanel::StreamPanel(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_link(new QComboBox),
      m_adapter(new QComboBox),
      m_rate(new QComboBox),
      m_file(new QLineEdit),
      m_name(new QLineEdit),
      m_status(label({}, look::Size::Body)),
      m_health(label({}, look::Size::Small, false, true)),
      m_remarks(label({}, look::Size::Small, false, true)),
      m_wrong(label({}, look::Size::Small)),
      m_use(new KeyButton(tr("Use it for this job"), {}, true)),
      m_try(new KeyButton(tr("Try"), {}, false)),
      m_forget(new KeyButton(tr("Forget"), {}, false)),
      m_adapters([this](const std::vector<std::pair<QString, QString>>& all) {
          const QString typed = m_adapter->currentText();
          m_adapter->clear();
          for (const auto& [plugin, interface] : all)
              m_adapter->addItem(plugin + u' ' + interface);
          m_adapter->setCurrentText(typed);
      })
{
    build();
    connect(&desk.live, &Live::healthChanged, this, &StreamPanel::refreshStatus);
    connect(&desk.live, &Live::linksChanged, this, &StreamPanel::refreshStatus);
    connect(&desk.linking, &Linking::changed, this, &StreamPanel::refresh);
}

void StreamPanel::build()
{
    m_status->setObjectName(QStringLiteral("stream-status"));
    m_health->setObjectName(QStringLiteral("stream-health"));
    m_remarks->setObjectName(QStringLiteral("stream-remarks"));
    m_wrong->setObjectName(QStringLiteral("stream-wrong"));
    m_adapter->setEditable(true);
    m_adapter->lineEdit()->setPlaceholderText(tr("such as: socketcan can0"));
    m_file->setPlaceholderText(tr("a database (DBC); none: it is asked over OBD"));
    m_name->setPlaceholderText(tr("what you call it"));
    for (const int rate : kRates)
        m_rate->addItem(rateText(rate), rate);

    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(look::kGap);
    grid->setVerticalSpacing(6_px);
    grid->setColumnMinimumWidth(0, kCaption);
    grid->setColumnStretch(1, 1);
    grid->setColumnStretch(3, 1);
    add(grid, 0, 0, tr("Heard over"), "stream-link", m_link);
    add(grid, 0, 1, tr("Name"), "stream-name", m_name);
    add(grid, 1, 0, tr("Adapter"), "stream-adapter", m_adapter);
    add(grid, 1, 1, tr("Bit rate"), "stream-rate", m_rate);
    m_adapter->lineEdit()->setFont(m_adapter->font());
    add(grid, 2, 0, tr("Frames"), "stream-file", m_file, 2);
    auto* open = new QPushButton(tr("Open"));
    open->setObjectName(QStringLiteral("stream-open"));
    open->setAccessibleName(tr("Open a database of frames"));
    open->setFixedHeight(look::kField);
    grid->addWidget(open, 2, 3, Qt::AlignLeft);
    connect(open, &QAbstractButton::clicked, this, &StreamPanel::chooseFile);
    connect(m_link, &QComboBox::activated, this, &StreamPanel::choose);

    auto* caution = new Caution;
    caution->setText(tr("Nothing is sent on this bus but questions over OBD: when you ask, or where no database says "
                        "what the frames are. An adapter still acknowledges what others send, unless it was set up to "
                        "listen only: do that on a bus that a moving car depends on."));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6_px);
    column->addWidget(label(tr("The ECU"), look::Size::Body, true));
    column->addWidget(m_status);
    column->addWidget(m_health);
    column->addWidget(m_remarks);
    column->addLayout(grid);
    column->addWidget(m_wrong);
    buildButtons();
    auto* row = new QHBoxLayout;
    for (KeyButton* b : {m_use, m_try, m_forget})
        row->addWidget(b);
    row->addStretch();
    column->addLayout(row);
    column->addWidget(caution);
    column->addStretch();
}

void StreamPanel::buildButtons()
{
    m_use->setObjectName(QStringLiteral("stream-use"));
    m_try->setObjectName(QStringLiteral("stream-try"));
    m_forget->setObjectName(QStringLiteral("stream-forget"));
    connect(m_use, &QAbstractButton::clicked, this, [this] { act(true); });
    connect(m_try, &QAbstractButton::clicked, this, [this] { act(false); });
    connect(m_forget, &QAbstractButton::clicked, this, [this] {
        const QString name = std::exchange(m_shown, {});
        show({});
        m_desk.linking.forget(name);
    });
}

QWidget* StreamPanel::first() const
{
    return m_link;
}

void StreamPanel::fillLinks()
{
    const QSignalBlocker quiet(m_link);
    m_link->clear();
    m_link->addItem(tr("nothing"));
    m_link->addItem(tr("the simulated bench"));
    m_link->addItem(tr("another CAN adapter"));
    for (const StreamProfile& p : m_desk.linking.profiles().streams())
        m_link->addItem(p.name);
}

void StreamPanel::refresh()
{
    const int was = m_link->currentIndex();
    fillLinks();
    if (const QString used = text(m_desk.store.job()->stream); used != m_used) {
        m_used = used;
        if (const StreamProfile* profile = m_desk.linking.profiles().stream(used))
            show(*profile);
    }
    const auto& kept = m_desk.linking.profiles().streams();
    const auto shown = std::ranges::find(kept, m_shown, &StreamProfile::name);
    m_link->setCurrentIndex(shown != kept.end()                   ? kFirstKept + static_cast<int>(shown - kept.begin())
                            : m_desk.live.bench().isReady()       ? kBench
                            : was == kNew || m_desk.live.stream() ? kNew
                                                                  : kNone);
    if (m_adapter->count() == 0)
        m_adapters.ask(adapters);
    showRemarks();
    refreshStatus();
}

/// What in the database cannot be meant: the first of it, the rest where the pointer rests.
void StreamPanel::showRemarks()
{
    constexpr size_t kMostInTip = 20;
    const std::vector<Error>& remarks = m_desk.linking.remarks();
    m_remarks->setVisible(!remarks.empty());
    if (remarks.empty())
        return;
    QStringList tip;
    for (Error remark : std::span(remarks).first(std::min(remarks.size(), kMostInTip))) {
        remark.place.file = QFileInfo(text(remark.place.file)).fileName().toStdString(); // for its folder is no room
        tip << text(remark.text());
    }
    const QString more = remarks.size() > 1 ? tr(" Remarks in all: %1.").arg(remarks.size()) : QString();
    m_remarks->setText(tr("In the database: %1.").arg(tip.front()) + more);
    m_remarks->setToolTip(tip.join(u'\n'));
}

void StreamPanel::choose(int index)
{
    m_wrong->clear();
    if (index >= kFirstKept) {
        show(*m_desk.linking.profiles().stream(m_link->itemText(index)));
    } else {
        m_shown.clear();
        if (index == kNew)
            show({});
    }
    refreshStatus();
}

void StreamPanel::show(const StreamProfile& profile)
{
    m_shown = profile.name;
    m_adapter->setCurrentText(profile.plugin.isEmpty() ? QString() : profile.plugin + u' ' + profile.interface);
    m_rate->setCurrentIndex(std::max(0, m_rate->findData(profile.bitRate)));
    m_file->setText(profile.from);
    m_name->setText(profile.name);
}

/// What the fields say; none, and what is missing is said.
std::optional<StreamProfile> StreamPanel::typed()
{
    const auto missing = [this](QWidget* field, const QString& sentence) {
        m_wrong->setText(sentence);
        m_wrong->show();
        setInk(m_wrong, look::colours().failing);
        field->setFocus();
        return std::nullopt;
    };
    const QString adapter = m_adapter->currentText().simplified();
    StreamProfile out;
    out.plugin = adapter.section(QLatin1Char(' '), 0, 0);
    out.interface = adapter.section(QLatin1Char(' '), 1);
    out.bitRate = m_rate->currentData().toInt();
    out.from = out.database = m_file->text().trimmed();
    out.name = m_name->text().trimmed();
    if (out.interface.isEmpty())
        return missing(m_adapter, tr("Say the adapter: its plugin and the interface, such as \"socketcan can0\"."));
    if (out.name.isEmpty())
        out.name = out.isObd() ? tr("OBD over %1").arg(adapter) : QFileInfo(out.database).completeBaseName();
    if (const StreamProfile* before = m_desk.linking.profiles().stream(out.name)) {
        out.told = before->told;
        if (before->from == out.from && !QFileInfo::exists(out.from))
            out.database = before->database; // the copy that was kept
    }
    if (!out.isObd() && !QFileInfo::exists(out.database))
        return missing(m_file, tr("Open the database that describes this ECU's frames (DBC); its maker has it."));
    m_wrong->clear();
    return out;
}

void StreamPanel::chooseFile()
{
    const QString path = QFileDialog::getOpenFileName(this, tr("Open a database of frames"), m_file->text(),
                                                      tr("Databases (*.dbc);;All files (*)"));
    if (!path.isEmpty())
        m_file->setText(path);
}

void StreamPanel::act(bool keep)
{
    switch (m_link->currentIndex()) {
    case kNone:
        m_desk.linking.useNone();
        return;
    case kBench:
        m_desk.linking.useNone();
        emit benchAsked();
        return;
    default:
        break;
    }
    const auto profile = typed();
    if (!profile)
        return;
    m_shown = keep ? profile->name : m_shown;
    if (keep)
        m_desk.linking.use(*profile);
    else
        m_desk.linking.tryOut(*profile);
}

QString StreamPanel::status() const
{
    const Linking& linking = m_desk.linking;
    if (linking.isReading())
        return tr("Reading the database");
    if (!linking.trouble().isEmpty())
        return linking.trouble();
    const link::CanEcu& ecu = m_desk.live.ecu();
    if (m_desk.live.replay())
        return tr("A recording is played.");
    const QString over = m_desk.live.stream() ? m_desk.live.stream()->name : tr("the simulated bench");
    switch (ecu.state()) {
    case link::CanEcu::State::Off:
        return tr("Not connected.");
    case link::CanEcu::State::Connecting:
        return tr("Connecting to %1").arg(over);
    case link::CanEcu::State::Live:
        return tr("Heard over %1.").arg(over);
    case link::CanEcu::State::Silent:
    case link::CanEcu::State::Failed:
        return ecu.sentence();
    }
    return {};
}

QString StreamPanel::health() const
{
    const link::CanEcu& ecu = m_desk.live.ecu();
    if (ecu.state() == link::CanEcu::State::Off || ecu.state() == link::CanEcu::State::Failed)
        return {};
    const link::CanHealth& h = ecu.health();
    QStringList out{tr("%1 frames/s").arg(std::lround(h.framesPerSecond))};
    if (h.load)
        out << tr("bus load about %1 %").arg(std::lround(*h.load * 100));
    out << tr("%1 error frames").arg(h.errors);
    if (h.bus == link::CanHealth::Bus::Off)
        out << tr("the adapter has left the bus");
    else if (h.bus == link::CanHealth::Bus::Warning)
        out << tr("the adapter counts many errors");
    if (h.lost > 0)
        out << tr("%1 lost: they came too fast").arg(h.lost);
    if (!h.outside.isEmpty())
        out << tr("%1 was outside its own range").arg(h.outside);
    if (!h.tooShort.isEmpty())
        out << tr("%1 is shorter than the database says").arg(h.tooShort);
    return out.join(QStringLiteral(", ")) + u'.';
}

void StreamPanel::refreshStatus()
{
    const auto& c = look::colours();
    m_status->setText(status());
    const auto chip = m_desk.live.ecuChip();
    setInk(m_status, !m_desk.linking.trouble().isEmpty() || chip == Live::Chip::Bad ? c.failing
                     : chip == Live::Chip::Good                                     ? c.done
                                                                                    : c.inkSoft);
    m_health->setText(health());
    m_health->setVisible(!m_health->text().isEmpty());
    m_wrong->setVisible(!m_wrong->text().isEmpty());
    const bool adapter = m_link->currentIndex() >= kNew;
    for (QWidget* w : std::initializer_list<QWidget*>{m_adapter, m_rate, m_file, m_name, m_try})
        w->setEnabled(adapter);
    m_forget->setEnabled(m_link->currentIndex() >= kFirstKept);
    m_use->setText(m_link->currentIndex() == kNone    ? tr("Disconnect")
                   : m_link->currentIndex() == kBench ? tr("Connect the bench")
                                                      : tr("Use it for this job"));
    m_use->updateGeometry();
    m_use->setEnabled(m_link->currentIndex() == kNone    ? chip != Live::Chip::Off
                      : m_link->currentIndex() == kBench ? !m_desk.live.bench().isReady()
                                                         : true);
}

} // namespace vicegrip::app
