#include "app/stages/library/part_page.h"

#include "app/desk/part_library.h"
#include "app/widgets/connector_face.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "core/seating/compatibility.h"
#include "core/seating/drivers.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QShortcut>
#include <QTableWidget>
#include <QTextBlock>
#include <QVBoxLayout>

#include <map>

namespace vicegrip::app {
namespace {

constexpr int kLineRole = Qt::UserRole;

const char* const kSensorStart = "name: \nkind: fluid temperature\nrange: -40 to 150 °C\npins: 1 signal, 2 ground\n"
                                 "tolerance: 3 %\ntable:\n";
const char* const kEcuStart = "name: \nsupply: 5 V, 200 mA\nplug A: 1-26\nfeed: A1\nground: A2\nsensor supply: A3\n"
                              "sensor ground: A4\nAN1: A5, analog, 0-5 V, 12 bits\n";

const char* const kConnectorStart = "name: \nterminal: blade-1.5-sealed\npitch: 4 mm\nrow pitch: 5 mm\n"
                                    "rows: 1-13; 14-26\nprint: corners\nkey: top\n";

QString words(const std::vector<std::string>& all)
{
    QStringList out;
    for (const std::string& w : all)
        out << text(w);
    return out.join(QStringLiteral(", "));
}

} // namespace

PartPage::PartPage(Desk& desk, QWidget* parent)
    : StagePage(desk, parent),
      m_texts{text(kSensorStart), text(kEcuStart), text(kConnectorStart)},
      m_title(label({}, look::Size::Title, true)),
      m_verdict(label({}, look::Size::Body, true)),
      m_start(new QComboBox),
      m_text(new QPlainTextEdit(text(kSensorStart))),
      m_complaints(new QListWidget),
      m_understood(new QTableWidget),
      m_keep(new KeyButton(tr("Keep in my library"), QStringLiteral("Ctrl+Enter"), true)),
      m_back(new KeyButton(tr("Back"), QStringLiteral("Esc"), false)),
      m_face(new ConnectorFace)
{
    m_text->setObjectName(QStringLiteral("part-text"));
    m_text->setFont(look::numbers(look::Size::Body));
    m_text->setTabChangesFocus(false);
    m_text->setLineWrapMode(QPlainTextEdit::WidgetWidth);
    m_start->setObjectName(QStringLiteral("part-start"));
    m_start->setAccessibleName(tr("Start from a part of the library"));
    m_start->setFont(look::textFont(look::Size::Small));
    m_verdict->setObjectName(QStringLiteral("part-verdict"));
    m_complaints->setObjectName(QStringLiteral("part-complaints"));
    m_complaints->setAccessibleName(tr("What is wrong, by line"));
    m_complaints->setFont(look::textFont(look::Size::Small));
    m_complaints->setWordWrap(true);
    m_complaints->setFrameShape(QFrame::NoFrame);
    m_understood->setObjectName(QStringLiteral("part-understood"));
    m_understood->setAccessibleName(tr("What was understood"));
    m_understood->setFont(look::textFont(look::Size::Small));
    m_understood->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_understood->setSelectionMode(QAbstractItemView::NoSelection);
    m_understood->setShowGrid(false);
    m_understood->setFrameShape(QFrame::NoFrame);
    m_understood->verticalHeader()->hide();
    m_understood->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    m_understood->horizontalHeader()->setFont(look::textFont(look::Size::Small));
    m_keep->setObjectName(QStringLiteral("part-keep"));
    m_back->setObjectName(QStringLiteral("part-back"));

    for (QLabel* fixed : {m_title, m_verdict})
        fixed->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Maximum);
    auto* hint = label(tr("One fact a line, as on the sheet. A table is pasted as it comes. Start from a part that is "
                          "like it:"),
                       look::Size::Small, false, true);
    hint->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Maximum);
    auto* left = new QVBoxLayout;
    left->addWidget(m_title);
    left->addWidget(hint);
    left->addWidget(m_start);
    left->addWidget(m_text, 1);
    auto* right = new QVBoxLayout;
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(m_keep);
    buttons->addWidget(m_back);
    buttons->addStretch();
    right->addLayout(buttons);
    right->addWidget(m_verdict);
    right->addWidget(m_complaints, 1);
    right->addWidget(m_face);
    right->addWidget(m_understood, 2);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(look::kMargin, look::kMargin, look::kMargin, look::kGap);
    row->setSpacing(24_px);
    row->addLayout(left, 1);
    row->addLayout(right, 1);

    connect(m_text, &QPlainTextEdit::textChanged, this, &PartPage::check);
    connect(m_start, &QComboBox::activated, this, [this](int index) { startFrom(index); });
    connect(m_complaints, &QListWidget::itemActivated, this,
            [this](const QListWidgetItem* item) { goToLine(item->data(kLineRole).toInt()); });
    connect(m_complaints, &QListWidget::itemClicked, this,
            [this](const QListWidgetItem* item) { goToLine(item->data(kLineRole).toInt()); });
    connect(m_keep, &KeyButton::clicked, this, &PartPage::keep);
    connect(m_back, &KeyButton::clicked, this, &PartPage::left);
    for (const auto& keys : {QKeySequence(Qt::CTRL | Qt::Key_Return), QKeySequence(Qt::CTRL | Qt::Key_Enter)})
        connect(new QShortcut(keys, this), &QShortcut::activated, this, &PartPage::keep);
    handFocus(this, m_text);
}

void PartPage::describe(PartKind what)
{
    if (what != m_what) {
        m_texts[static_cast<size_t>(m_what)] = m_text->toPlainText();
        m_what = what;
        m_text->setPlainText(m_texts[static_cast<size_t>(what)]);
    }
    const QString title = what == PartKind::Ecu         ? tr("Your own ECU")
                          : what == PartKind::Connector ? tr("Your own connector")
                                                        : tr("Your own sensor or actuator");
    m_title->setText(title);
    m_text->setAccessibleName(title + tr(", a fact a line"));
    offerStarts();
    check();
    m_text->setFocus();
}

void PartPage::takeOver(const PartPage& before)
{
    m_texts = before.m_texts;
    m_what = before.m_what;
    m_text->setPlainText(before.m_text->toPlainText());
    describe(m_what);
    m_start->setCurrentIndex(before.m_start->currentIndex()); // what it was started from; it is not begun again
}

void PartPage::offerStarts()
{
    m_start->clear();
    m_start->addItem(tr("–"));
    const auto offer = [this](const auto& all) {
        for (const auto& part : all)
            m_start->addItem(text(part.name), text(part.id.value));
    };
    if (m_what == PartKind::Ecu)
        offer(library().ecus);
    else if (m_what == PartKind::Connector)
        offer(library().layouts);
    else
        offer(library().parts);
}

void PartPage::startFrom(const QString& id)
{
    const int index = m_start->findData(id);
    m_start->setCurrentIndex(index);
    startFrom(index);
}

void PartPage::startFrom(int index)
{
    const std::string id = m_start->itemData(index).toString().toStdString();
    const auto start = [this](const auto* part) {
        if (part != nullptr)
            m_text->setPlainText(text(parts::textOf(*part)));
    };
    if (m_what == PartKind::Ecu)
        start(parts::find(library(), parts::EcuId{id}));
    else if (m_what == PartKind::Connector)
        start(parts::find(library(), parts::LayoutId{id}));
    else
        start(parts::find(library(), parts::PartId{id}));
}

/// Lines say which cavities a plug has, not how its face looks: that comes from the unit it was started from.
void PartPage::takeFaces(parts::EcuProfile& profile) const
{
    const auto* like = parts::find(library(), parts::EcuId{m_start->currentData().toString().toStdString()});
    for (parts::EcuPlug& plug : profile.plugs)
        for (const parts::EcuPlug& known : like == nullptr ? std::vector<parts::EcuPlug>{} : like->plugs)
            if (known.id == plug.id && known.cavities == plug.cavities)
                plug.layout = known.layout;
}

void PartPage::check()
{
    const std::string typed = m_text->toPlainText().toStdString();
    m_part = {};
    if (m_what == PartKind::Ecu) {
        auto read = parts::ecuFromText(typed);
        showComplaints(read.complaints);
        if (read.part) {
            takeFaces(*read.part);
            showEcu(*read.part);
            m_part = std::move(*read.part);
        }
    } else if (m_what == PartKind::Connector) {
        auto read = parts::layoutFromText(typed, library().terminals);
        showComplaints(read.complaints);
        if (read.part) {
            showLayout(*read.part);
            m_part = std::move(*read.part);
        }
    } else {
        auto read = parts::partFromText(typed);
        showComplaints(read.complaints);
        if (read.part) {
            showSensor(*read.part);
            m_part = std::move(*read.part);
        }
    }
    const bool sense = !std::holds_alternative<std::monostate>(m_part);
    m_keep->setEnabled(sense);
    m_face->setVisible(std::holds_alternative<parts::Layout>(m_part));
    if (!sense)
        m_understood->setRowCount(0);
}

void PartPage::showComplaints(const std::vector<parts::LineComplaint>& complaints)
{
    const auto& c = look::colours();
    m_complaints->clear();
    QList<QTextEdit::ExtraSelection> marks;
    for (const parts::LineComplaint& complaint : complaints) {
        const QString where = complaint.line > 0 ? tr("Line %1: ").arg(complaint.line) : QString();
        auto* item = new QListWidgetItem(where + text(complaint.sentence), m_complaints);
        item->setData(kLineRole, complaint.line);
        if (complaint.line <= 0)
            continue;
        QTextEdit::ExtraSelection mark;
        mark.format.setBackground(c.failingFill);
        mark.format.setProperty(QTextFormat::FullWidthSelection, true);
        mark.cursor = QTextCursor(m_text->document()->findBlockByNumber(complaint.line - 1));
        marks.push_back(mark);
    }
    m_text->setExtraSelections(marks);
    m_complaints->setVisible(!complaints.empty());
    m_verdict->setText(complaints.empty()       ? tr("Understood, and it makes sense.")
                       : complaints.size() == 1 ? tr("One thing to mend")
                                                : tr("%1 things to mend").arg(complaints.size()));
    setInk(m_verdict, complaints.empty() ? c.done : c.failing);
}

void PartPage::showRows(const QStringList& headers, const std::vector<QStringList>& rows)
{
    m_understood->setColumnCount(static_cast<int>(headers.size()));
    m_understood->setHorizontalHeaderLabels(headers);
    m_understood->setRowCount(static_cast<int>(rows.size()));
    for (size_t r = 0; r < rows.size(); ++r)
        for (int column = 0; column < rows[r].size(); ++column)
            m_understood->setItem(static_cast<int>(r), column, new QTableWidgetItem(rows[r][column]));
    m_understood->resizeColumnsToContents();
    m_understood->horizontalHeader()->setStretchLastSection(true);
}

void PartPage::showSensor(const parts::Part& s)
{
    const auto in = [&](double si) { return text(units::format(si, s.measures, s.unit, 1)); };
    std::vector<QStringList> rows = {
        {tr("Kept as"), text(s.id.value)},
        {tr("Kind"), said(fields::enumName(s.kind))},
        {parts::isDriven(s) ? tr("Asks of an output") : tr("Asks of an input"), words(seating::demands(s))}};
    if (!parts::isDriven(s))
        rows.insert(rows.begin() + 2, {tr("Range"), text(units::formatRange(s.low, s.high, s.measures, s.unit, 1))});
    for (const auto& [cavity, role] : s.pins)
        rows.push_back({tr("Plug cavity %1").arg(text(cavity)), text(parts::roleWords(s, role))});
    if (const auto* curve = parts::curveOf(s))
        for (double share : {0.0, 0.25, 0.5, 0.75, 1.0}) {
            const double kelvin = s.low + share * (s.high - s.low);
            rows.push_back({tr("At %1").arg(in(kelvin)),
                            text(units::formatNumber(parts::ohms(*curve, kelvin), 1)) + QStringLiteral(" Ω")});
        }
    showRows({tr("What"), tr("Understood as")}, rows);
}

void PartPage::showEcu(const parts::EcuProfile& p)
{
    std::vector<QStringList> rows;
    const auto add = [&](const auto& seat, const QString& at) {
        QString only;
        for (const std::string& f : seat.functions)
            only += QLatin1Char(' ') + text(f);
        rows.push_back({text(seat.id.value), at,
                        words(seating::capabilities(seat)) + (only.isEmpty() ? only : tr("; only for") + only)});
    };
    for (const parts::EcuInput& i : p.ecu.inputs) {
        QString at;
        for (const parts::EcuPin& pin : p.ecu.pins)
            if (pin.role == parts::EcuPinRole::Input && pin.input == i.id)
                at = text(pin.at);
        add(i, at);
    }
    for (const parts::EcuOutput& o : p.ecu.outputs) {
        QStringList at;
        for (const std::string& cavity : parts::cavitiesOf(p.ecu, o.id))
            at << text(cavity);
        add(o, at.join(QStringLiteral(", ")));
    }
    showRows({tr("Seat"), tr("Cavity"), tr("Takes or drives")}, rows);
}

/// The face as it would be drawn at Pins, and how its rows are counted.
void PartPage::showLayout(const parts::Layout& layout)
{
    std::vector<ConnectorFace::Cell> cells;
    std::vector<QStringList> rows;
    std::map<int, std::vector<const parts::Cavity*>> byRow;
    const std::vector<parts::Cavity> all = parts::cavities(layout);
    for (const parts::Cavity& c : all) {
        cells.push_back({text(c.name), {}, pinning::PinState::Open, false, text(c.name)});
        byRow[c.row].push_back(&c);
    }
    for (const auto& [row, places] : byRow)
        rows.push_back({tr("Row %1").arg(row + 1), text(places.front()->name) + tr(" to ") + text(places.back()->name),
                        tr("%1 cavities").arg(places.size())});
    for (const parts::TerminalFamily& t : layout.terminals)
        rows.push_back({tr("Terminal"), text(t.name),
                        text(units::formatRange(t.leastArea_m2, t.mostArea_m2, units::Dimension::Area, "mm²", 3))});
    m_face->show(layout, std::move(cells), parts::Face::Wire, -1);
    showRows({tr("Wire side"), tr("From left to right"), {}}, rows);
}

void PartPage::goToLine(int line)
{
    if (line <= 0)
        return;
    m_text->setTextCursor(QTextCursor(m_text->document()->findBlockByNumber(line - 1)));
    m_text->setFocus();
}

void PartPage::keep()
{
    Result<std::filesystem::path> kept = fail(ErrorCode::Reference, {});
    if (const auto* sensor = std::get_if<parts::Part>(&m_part))
        kept = parts::keep(*sensor, ownLibrary());
    else if (const auto* ecu = std::get_if<parts::EcuProfile>(&m_part))
        kept = parts::keep(*ecu, ownLibrary());
    else if (const auto* layout = std::get_if<parts::Layout>(&m_part))
        kept = parts::keep(*layout, ownLibrary());
    else
        return;
    if (!kept) {
        emit notice(QString::fromStdString(kept.error().text()));
        return;
    }
    readLibraryAgain();
    offerStarts();
    emit notice(tr("Kept in %1").arg(QString::fromStdString(kept->string())));
}

void PartPage::keyPressEvent(QKeyEvent* event)
{
    if (event->key() == Qt::Key_Escape)
        emit left();
    else
        StagePage::keyPressEvent(event);
}

} // namespace vicegrip::app
