#include "app/stages/start/column_list.h"

#include "app/look/look.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "app/widgets/text.h"
#include "app/widgets/typed_field.h"
#include "core/base/phrase.h"
#include "core/stream/stream.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QSignalBlocker>
#include <QVBoxLayout>

namespace vicegrip::app {
namespace {

constexpr int kNameCell = 0;
constexpr look::Px kInWide{110};

/// What an entry of the box says of a column.
constexpr int kCircuitRole = Qt::UserRole, kHoldsRole = Qt::UserRole + 1;

} // namespace

ColumnList::ColumnList(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_list(new ListTable("log-columns", tr("Columns of the log"),
                           {{tr("Column"), 0}, {tr("Unit"), 64}, {tr("Taken for"), 0}, {tr("by"), 64}})),
      m_is(new QComboBox),
      m_in(new TypedField(tr("Unit of its numbers"), [this](const QString& typed) -> Result<QString> {
          const auto at = column();
          const QString unit = typed.trimmed();
          if (!at || unit.isEmpty())
              return QString();
          const log_columns::Meaning& m = m_of->meanings[*at];
          if (stream::toSi(m.tells, m.measures, unit.toStdString()))
              return unit;
          return fail(ErrorCode::Range,
                      phrase("expected a unit of its value, such as {}", units::everydayUnit(m.measures)));
      }))
{
    m_is->setObjectName(QStringLiteral("log-column-is"));
    m_is->setAccessibleName(tr("Taken for"));
    m_is->setFont(look::textFont(look::Size::Small));
    m_is->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_is->setFixedHeight(look::kField);
    m_in->edit()->setObjectName(QStringLiteral("log-column-in"));
    m_in->setFixedWidth(kInWide);
    m_in->leaveLettersWhileEmpty();
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6_px);
    column->addWidget(m_list, 1);
    auto* row = new QHBoxLayout;
    row->setSpacing(look::kGap);
    const auto caption = [&](const QString& words) {
        auto* out = label(words, look::Size::Small, false, true);
        out->setFixedHeight(look::kField); // in line with the field, whatever it says beneath itself
        row->addWidget(out, 0, Qt::AlignTop);
    };
    caption(tr("It is"));
    row->addWidget(m_is, 1, Qt::AlignTop);
    caption(tr("in"));
    row->addWidget(m_in, 0, Qt::AlignTop);
    column->addLayout(row);
    connect(m_list, &QTableWidget::currentCellChanged, this, [this](int now, int, int before, int) {
        if (now == before)
            return;
        fillChoices();
        emit chosen();
    });
    connect(m_is, &QComboBox::activated, this, &ColumnList::take);
    connect(m_in, &TypedField::entered, this, &ColumnList::takeUnit);
}

std::optional<size_t> ColumnList::column() const
{
    const int row = m_list->currentRow();
    return m_of && row >= 0 && row < static_cast<int>(m_of->meanings.size()) ? std::optional(static_cast<size_t>(row))
                                                                             : std::nullopt;
}

QString ColumnList::wordsOf(const log_columns::Meaning& meaning) const
{
    if (meaning.circuit)
        if (const job::Circuit* c = job::find(*m_of->of->job, *meaning.circuit))
            return meaning.tells == job::Tells::Value ? text(c->name) : tr("%1, its input").arg(text(c->name));
    return meaning.quantity == log_columns::Quantity::Other ? QStringLiteral("–")
                                                            : said(log_columns::nameOf(meaning.quantity).words);
}

void ColumnList::show(std::shared_ptr<const ReviewedLog> of)
{
    m_of = std::move(of);
    std::vector<QStringList> rows;
    for (size_t c = 0; m_of && c < m_of->meanings.size(); ++c) {
        const log_columns::Meaning& m = m_of->meanings[c];
        rows.push_back({text(m_of->read->log.columns[c].name), text(m.unit), wordsOf(m),
                        m.byHand                            ? tr("hand")
                        : wordsOf(m) == QStringLiteral("–") ? QString()
                                                            : tr("words")});
    }
    m_list->fill(rows);
    if (m_list->currentRow() < 0 && !rows.empty())
        m_list->setCurrentCell(0, kNameCell);
    fillChoices();
}

void ColumnList::fillChoices()
{
    const QSignalBlocker quiet(m_is);
    m_is->clear();
    const auto at = column();
    m_is->setEnabled(at.has_value());
    m_in->setEnabled(at.has_value());
    m_in->setText({});
    if (!at)
        return;
    const log::Column& of = m_of->read->log.columns[*at];
    const job::LogColumn* hand = log_columns::saidOf(*m_of->of->job, of);
    int now = 0;
    const auto offer = [&](const QString& words, const std::string& circuit, std::string_view holds) {
        m_is->addItem(words);
        const int last = m_is->count() - 1;
        m_is->setItemData(last, text(circuit), kCircuitRole);
        m_is->setItemData(last, text(std::string(holds)), kHoldsRole);
        if (hand != nullptr && hand->circuit.value == circuit && hand->holds == holds)
            now = last;
    };
    offer(tr("what its words say"), {}, {});
    for (const job::Circuit& c : m_of->of->job->circuits)
        if (job::sensorOf(*m_of->of->job, c) != nullptr)
            offer(text(c.name), c.id.value, {});
    for (const log_columns::QuantityName& q : log_columns::quantities())
        offer(said(q.words), {}, q.name);
    m_is->setCurrentIndex(now);
    m_in->setText(hand == nullptr ? QString() : text(hand->in));
    m_in->edit()->setPlaceholderText(text(of.unit));
}

/// Keeps what is known of this column with something changed in it.
void ColumnList::say(const std::function<void(job::LogColumn&)>& change)
{
    const auto at = column();
    if (!at)
        return;
    const log::Column& of = m_of->read->log.columns[*at];
    const job::LogColumn* before = log_columns::saidOf(*m_desk.store.job(), of);
    job::LogColumn now = before == nullptr ? job::LogColumn{of.name, of.unit, {}, {}, {}} : *before;
    change(now);
    m_desk.store.editOrSay(tr("What column %1 is").arg(text(of.name)),
                           [&](job::Job& job) { log_columns::say(job, now); });
}

void ColumnList::take(int index)
{
    say([&](job::LogColumn& c) {
        c.circuit = job::CircuitId{m_is->itemData(index, kCircuitRole).toString().toStdString()};
        c.holds = m_is->itemData(index, kHoldsRole).toString().toStdString();
    });
}

void ColumnList::takeUnit(const QString& unit)
{
    say([&](job::LogColumn& c) { c.in = unit.trimmed().toStdString(); });
}

} // namespace vicegrip::app
