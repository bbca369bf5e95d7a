#include "app/stages/links/told_view.h"

#include "app/look/look.h"
#include "app/widgets/circuit_text.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "app/widgets/typed_field.h"
#include "core/base/phrase.h"

#include <QAbstractListModel>
#include <QComboBox>
#include <QCompleter>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace vicegrip::app {
namespace {

constexpr int kNameColumn = 0, kInputColumn = 1, kValueFrom = 2, kValueNow = 3, kReadingFrom = 4, kReadingNow = 5;
constexpr look::Px kBox{240}, kUnit{90}, kToldTable{130};

bool isValue(const job::Told& told)
{
    return told.tells == job::Tells::Value;
}

/// What it is told by, seated where it is now; null: nothing.
const job::Told* toldOf(const job::Circuit& circuit, bool value)
{
    const auto found = std::ranges::find_if(
        circuit.told, [&](const job::Told& t) { return isValue(t) == value && t.tells != job::Tells::LowTime; });
    return found == circuit.told.end() ? nullptr : &*found;
}

QString entry(const stream::Candidate& c)
{
    const QString unit = c.signal->unit.empty() ? ToldView::tr("no unit") : text(c.signal->unit);
    return QStringLiteral("%1  (%2, %3)").arg(text(c.signal->name), text(c.message->name), unit);
}

/// Nothing, and what is offered after it. A database may have tens of thousands of signals: their texts are made when
/// they are looked at.
class Offers : public QAbstractListModel
{
  public:
    using QAbstractListModel::QAbstractListModel;

    void show(std::vector<stream::Candidate> offered)
    {
        beginResetModel();
        m_offered = std::move(offered);
        endResetModel();
    }
    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override
    {
        return parent.isValid() ? 0 : static_cast<int>(m_offered.size()) + 1;
    }
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override
    {
        if (role != Qt::DisplayRole && role != Qt::EditRole)
            return {};
        return index.row() == 0 ? ToldView::tr("nothing") : entry(m_offered[static_cast<size_t>(index.row()) - 1]);
    }

  private:
    std::vector<stream::Candidate> m_offered;
};

QComboBox* box(const char* objectName, const QString& spoken)
{
    auto* out = new QComboBox;
    out->setObjectName(QLatin1String(objectName));
    out->setAccessibleName(spoken);
    out->setFont(look::textFont(look::Size::Small));
    out->setFixedHeight(look::kField);
    out->setMinimumWidth(kBox);
    out->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    out->setModel(new Offers(out));
    out->setEditable(true);
    out->lineEdit()->setFont(out->font());
    out->setInsertPolicy(QComboBox::NoInsert);
    out->completer()->setCompletionMode(QCompleter::PopupCompletion);
    out->completer()->setFilterMode(Qt::MatchContains);
    return out;
}

} // namespace

ToldView::ToldView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_says(label({}, look::Size::Small, false, true)),
      m_of(label({}, look::Size::Small, true)),
      m_table(new ListTable("told", tr("What the ECU tells of each circuit"),
                            {{tr("Circuit"), 0, false},
                             {tr("Input"), 80, true},
                             {tr("Value from"), 0, false},
                             {tr("now"), 120, true},
                             {tr("Reading from"), 0, false},
                             {tr("now"), 120, true}})),
      m_value{box("told-value", tr("Value from")), {}},
      m_reading{box("told-reading", tr("Reading from")), {}},
      m_unit(new TypedField(tr("Unit of the value"),
                            [this](const QString& typed) -> Result<QString> {
                                const job::Circuit* c = chosen();
                                const parts::Part* s = c == nullptr ? nullptr : job::sensorOf(*m_desk.store.job(), *c);
                                if (s == nullptr || typed.trimmed().isEmpty() ||
                                    units::measures(typed.trimmed().toStdString(), s->measures))
                                    return typed.trimmed();
                                return fail(ErrorCode::Range, phrase("expected a unit of its value, such as {}",
                                                                     units::everydayUnit(s->measures)));
                            })),
      m_worked([this](const std::shared_ptr<const Offered>& offered) { show(offered); })
{
    m_says->setObjectName(QStringLiteral("told-says"));
    m_table->setMinimumHeight(kToldTable);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6_px);
    column->addWidget(m_says);
    column->addWidget(m_table, 1);
    column->addWidget(buildBelow());
    connect(m_table, &QTableWidget::currentCellChanged, this, &ToldView::fillChoices);
    connect(m_value.box, &QComboBox::activated, this, [this](int index) { take(m_value, true, index); });
    connect(m_reading.box, &QComboBox::activated, this, [this](int index) { take(m_reading, false, index); });
    connect(m_unit, &TypedField::entered, this, &ToldView::takeUnit);
    connect(&desk.live, &Live::sampled, this, &ToldView::refreshLive);
    connect(&desk.linking, &Linking::changed, this, &ToldView::refresh);
    connect(&desk.live, &Live::linksChanged, this, &ToldView::sayHow);
}

QWidget* ToldView::buildBelow()
{
    auto* below = new QWidget;
    m_below = new QBoxLayout(QBoxLayout::LeftToRight, below);
    m_below->setContentsMargins(0, 0, 0, 0);
    m_below->setSpacing(look::kGap);
    const auto captioned = [&](QHBoxLayout* row, const QString& name, QWidget* of) {
        auto* l = label(name, look::Size::Small, false, true);
        l->setWordWrap(false);
        l->setBuddy(of);
        row->addWidget(l);
        row->addWidget(of);
    };
    m_unit->edit()->setObjectName(QStringLiteral("told-unit"));
    m_unit->setFixedWidth(kUnit);
    m_of->setWordWrap(false);
    m_below->addWidget(m_of);
    auto *value = new QHBoxLayout, *reading = new QHBoxLayout;
    captioned(value, tr("Value from"), m_value.box);
    captioned(value, tr("in"), m_unit);
    captioned(reading, tr("Reading from"), m_reading.box);
    for (QHBoxLayout* row : {value, reading}) {
        row->setSpacing(look::kGap);
        row->addStretch();
        m_below->addLayout(row);
    }
    return below;
}

void ToldView::arrange(bool beside)
{
    m_below->setDirection(beside ? QBoxLayout::LeftToRight : QBoxLayout::TopToBottom);
    for (const int column : {kInputColumn, kReadingFrom, kReadingNow})
        m_table->setColumnHidden(column, !beside && column != kReadingNow);
}

const job::Circuit* ToldView::chosen() const
{
    const int row = m_table->currentRow();
    return row >= 0 && static_cast<size_t>(row) < m_rows.size()
               ? job::find(*m_desk.store.job(), m_rows[static_cast<size_t>(row)])
               : nullptr;
}

QString ToldView::sourceText(const job::Circuit& circuit, bool value) const
{
    const job::Told* told = toldOf(circuit, value);
    if (told == nullptr)
        return QStringLiteral("–");
    if (told->input != circuit.input)
        return tr("%1, on %2 before").arg(text(told->signal), text(told->input.value));
    const QString name = text(told->message + "." + told->signal);
    return m_desk.live.missingSignals().contains(name) ? tr("%1: not in the database").arg(text(told->signal))
                                                       : text(told->signal);
}

QString ToldView::nowText(const job::Circuit& circuit, bool value) const
{
    const auto job = m_desk.store.job();
    const parts::Part& sensor = *job::sensorOf(*job, circuit);
    const int input = inputIndex(*job, circuit.id);
    const auto told = m_desk.live.sample(input);
    const auto number = value ? (told ? told->value : std::nullopt) : m_desk.live.reading(*job, circuit);
    if (!number && toldOf(circuit, value) == nullptr && m_desk.live.stream())
        return QStringLiteral("–");
    if (!number)
        return m_desk.live.missing(*job, circuit, value ? proof::StationKind::Value : proof::StationKind::Input,
                                   QStringLiteral("–"));
    if (value)
        return text(job::readingText(job::Reading::of(*number, sensor.measures, job::Condition::KeyOn), sensor.unit));
    return parts::countsValue(sensor) ? text(units::format(*number, units::Dimension::Frequency, "Hz", 1))
                                      : voltsText(*number);
}

void ToldView::refresh()
{
    const auto job = m_desk.store.job();
    std::vector<QStringList> rows;
    m_rows.clear();
    int told = 0;
    for (const job::Circuit& c : job->circuits) {
        if (job::sensorOf(*job, c) == nullptr || c.input.empty())
            continue;
        m_rows.push_back(c.id);
        told += c.told.empty() ? 0 : 1;
        rows.push_back({text(c.name), text(c.input.value), sourceText(c, true), nowText(c, true), sourceText(c, false),
                        nowText(c, false)});
    }
    m_table->fill(rows);
    m_toldOf = told;
    sayHow();
    if (m_table->currentRow() < 0 && !m_rows.empty())
        m_table->setCurrentCell(0, kNameColumn);
    fillChoices();
}

void ToldView::sayHow()
{
    m_says->setText(m_desk.live.replay() ? tr("A recording tells it.")
                    : m_desk.live.bench().isReady() && !m_desk.live.stream()
                        ? tr("The bench tells of every input by itself.")
                        : tr("%1 of %2 circuits are told of. Choose a line, then its signal below where the words did "
                             "not say it.")
                              .arg(m_toldOf)
                              .arg(m_rows.size()));
}

void ToldView::refreshLive()
{
    if (!isVisible())
        return;
    const auto job = m_desk.store.job();
    for (size_t i = 0; i < m_rows.size(); ++i)
        if (const job::Circuit* c = job::find(*job, m_rows[i]); c != nullptr && job::sensorOf(*job, *c) != nullptr)
            for (const auto& [column, value] : {std::pair(kValueNow, true), {kReadingNow, false}})
                if (auto* item = m_table->item(static_cast<int>(i), column))
                    item->setText(nowText(*c, value));
}

void ToldView::fillChoices()
{
    const job::Circuit* c = chosen();
    const auto matcher = m_desk.linking.matcher();
    m_of->setText(c == nullptr ? QString() : text(c->name));
    // Those of another circuit are not to be chosen from; the same one's may go on.
    if (c == nullptr || !m_offered || c->id != m_offered->circuit || matcher != m_offered->of)
        for (QWidget* w : std::initializer_list<QWidget*>{m_value.box, m_reading.box, m_unit})
            w->setEnabled(false);
    if (c != nullptr && matcher)
        m_worked.ask([job = m_desk.store.job(), id = c->id, matcher] {
            return std::make_shared<const Offered>(
                Offered{id, matcher, matcher->candidates(*job, *job::find(*job, id))});
        });
}

/// A database of tens of thousands of signals takes longer than a frame to be gone through.
void ToldView::show(const std::shared_ptr<const Offered>& offered)
{
    const job::Circuit* c = chosen();
    if (c == nullptr || c->id != offered->circuit || m_desk.linking.matcher() != offered->of)
        return;
    m_offered = offered;
    fill(m_value, *c, *offered, true);
    fill(m_reading, *c, *offered, false);
    for (QWidget* w : std::initializer_list<QWidget*>{m_value.box, m_reading.box})
        w->setEnabled(true);
    const job::Told* value = toldOf(*c, true);
    m_unit->setText(value == nullptr ? QString() : text(value->unit));
    m_unit->setEnabled(value != nullptr);
    const auto of = std::ranges::find_if(m_value.offered, [&](const stream::Candidate& o) {
        return value != nullptr && o.message->name == value->message && o.signal->name == value->signal;
    });
    m_unit->edit()->setPlaceholderText(of == m_value.offered.end() ? QString() : text(of->signal->unit));
}

void ToldView::fill(Choice& slot, const job::Circuit& circuit, const Offered& offered, bool value)
{
    slot.offered.clear();
    std::ranges::copy_if(offered.all, std::back_inserter(slot.offered), [&](const stream::Candidate& c) {
        return (c.tells == job::Tells::Value) == value && c.tells != job::Tells::LowTime;
    });
    const job::Told* told = toldOf(circuit, value);
    const auto now = std::ranges::find_if(slot.offered, [&](const stream::Candidate& c) {
        return told != nullptr && told->message == c.message->name && told->signal == c.signal->name;
    });
    const QSignalBlocker quiet(slot.box);
    static_cast<Offers*>(slot.box->model())->show(slot.offered);
    slot.box->setCurrentIndex(now == slot.offered.end() ? 0 : static_cast<int>(now - slot.offered.begin()) + 1);
}

void ToldView::take(const Choice& slot, bool value, int index)
{
    const job::Circuit* c = chosen();
    if (c == nullptr)
        return;
    const job::Told* before = toldOf(*c, value);
    const auto tells = before != nullptr ? before->tells : value ? job::Tells::Value : job::Tells::Volts;
    if (index <= 0)
        m_desk.linking.tell(c->id, tells, std::nullopt);
    else
        m_desk.linking.tell(c->id, tells, stream::toldBy(*c, slot.offered[static_cast<size_t>(index - 1)]));
}

void ToldView::takeUnit(const QString& unit)
{
    const job::Circuit* c = chosen();
    const job::Told* before = c == nullptr ? nullptr : toldOf(*c, true);
    if (before == nullptr)
        return;
    job::Told told = *before;
    told.unit = unit.trimmed().toStdString();
    m_desk.linking.tell(c->id, told.tells, told);
}

} // namespace vicegrip::app
