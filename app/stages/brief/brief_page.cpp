#include "app/stages/brief/brief_page.h"

#include "app/desk/part_library.h"
#include "app/desk/price.h"
#include "app/stages/brief/air_methods.h"
#include "app/stages/brief/consequence_list.h"
#include "app/stages/brief/facts_form.h"
#include "app/stages/brief/questions_form.h"
#include "app/stages/brief/range_chart.h"
#include "app/widgets/caution.h"
#include "app/widgets/compare_grid.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "core/brief/harness_kind.h"
#include "core/brief/siting.h"
#include "core/harness/edits.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <QShortcut>
#include <QVBoxLayout>

namespace vicegrip::app {
namespace {

constexpr look::Px kFacts{320}, kBesideFacts{16}; ///< the bar that scrolls them

constexpr const char* kPressures[] = {"map", "charge-pressure", "fuel-pressure", "oil-pressure", "baro"};

} // namespace

BriefPage::BriefPage(Desk& desk, QWidget* parent)
    : StagePage(desk, parent),
      m_facts(new FactsForm(desk)),
      m_scroll(new QScrollArea),
      m_column(new QVBoxLayout),
      m_index(new QWidget),
      m_consequences(new ConsequenceList(desk)),
      m_air(new AirMethods(desk)),
      m_range(new RangeChart),
      m_rangeTitle(label({}, look::Size::Small, false, true)),
      m_rangeVerdict(label({}, look::Size::Small)),
      m_fit(new KeyButton(tr("Fit this sensor"), tr("Enter"), false)),
      m_harness(new CompareGrid({tr("Connectors added"), tr("Joints added"), tr("Wire"), tr("Hours, typical"),
                                 tr("Money, your prices"), tr("Chance of going back"), tr("Reversible"), tr("Here")},
                                3)),
      m_sitingTitle(label({}, look::Size::Small, true)),
      m_siting(label({}, look::Size::Small)),
      m_caution(new Caution),
      m_questions(new QuestionsForm(desk))
{
    auto* facts = new QScrollArea;
    facts->setFocusPolicy(Qt::NoFocus); // its fields take the keys
    facts->setWidget(m_facts);
    facts->setWidgetResizable(true);
    facts->setFrameShape(QFrame::NoFrame);
    facts->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    facts->setFixedWidth(std::max<int>(kFacts, m_facts->minimumSizeHint().width() + kBesideFacts)); // longer languages

    auto* index = new QHBoxLayout(m_index);
    index->setContentsMargins(0, 0, 0, 0);
    index->setSpacing(4_px);
    auto* page = new QWidget;
    m_column = new QVBoxLayout(page);
    m_column->setContentsMargins(0, 0, look::kGap, 0);
    m_column->setSpacing(look::kGap);
    m_scroll->setAccessibleName(tr("What follows from the facts"));
    m_scroll->setWidget(page);
    m_scroll->setWidgetResizable(true);
    m_scroll->setFrameShape(QFrame::NoFrame);
    m_scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);

    addSection(tr("Circuits"), "section-circuits")->layout()->addWidget(m_consequences);
    addSection(tr("Air method"), "section-air")->layout()->addWidget(m_air);
    buildRange(qobject_cast<QVBoxLayout*>(addSection(tr("Range"), "section-range")->layout()));
    addSection(tr("Harness"), "section-harness")->layout()->addWidget(m_harness);
    auto* siting = addSection(tr("Siting"), "section-siting")->layout();
    for (QWidget* w :
         {static_cast<QWidget*>(m_sitingTitle), static_cast<QWidget*>(m_siting), static_cast<QWidget*>(m_caution)})
        siting->addWidget(w);
    addSection(tr("Questions"), "section-questions", tr("Questions for the tuner"))->layout()->addWidget(m_questions);
    m_column->addStretch();
    index->addStretch();
    m_harness->setAccessibleName(tr("Adapter lead, tap or full harness"));
    m_harness->setObjectName(QStringLiteral("harness-kinds"));
    m_siting->setObjectName(QStringLiteral("siting"));

    auto* right = new QVBoxLayout;
    right->setSpacing(look::kGap);
    right->addWidget(m_index);
    right->addWidget(m_scroll, 1);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(look::kMargin, look::kMargin, look::kMargin, look::kGap);
    row->setSpacing(24_px);
    row->addWidget(facts);
    row->addLayout(right, 1);

    m_sections.front().link->setChecked(true);
    connect(m_scroll->verticalScrollBar(), &QScrollBar::valueChanged, this, &BriefPage::markWhere);
    connect(m_facts, &FactsForm::describeEcuAsked, this, [this] { emit describePart(PartKind::Ecu); });
    connect(m_consequences, &ConsequenceList::selectionMoved, this, [this] {
        const QRect chosen = m_consequences->selectedRect();
        const int top = m_consequences->mapTo(m_scroll->widget(), chosen.topLeft()).y();
        m_scroll->ensureVisible(0, top + chosen.height() / 2, 0, chosen.height());
        refreshRange();
        refreshSiting();
    });
    for (const auto& keys : {QKeySequence(Qt::CTRL | Qt::Key_Return), QKeySequence(Qt::CTRL | Qt::Key_Enter)})
        connect(new QShortcut(keys, this), &QShortcut::activated, m_consequences, &ConsequenceList::applyBrief);
}

/// A part of the page with its name, which the index above jumps to.
QWidget* BriefPage::addSection(const QString& name, const char* objectName, const QString& title)
{
    auto* section = new QWidget;
    section->setObjectName(QLatin1String(objectName));
    auto* column = new QVBoxLayout(section);
    column->setContentsMargins(0, 0, 0, look::kGap);
    column->addWidget(label(title.isEmpty() ? name : title, look::Size::Title, true));
    m_column->addWidget(section);
    auto* link = new QPushButton(name);
    link->setProperty("view", true);
    link->setCheckable(true);
    link->setAutoExclusive(true);
    link->setFont(look::textFont(look::Size::Small));
    link->setObjectName(QLatin1String("go-") + QLatin1String(objectName));
    m_index->layout()->addWidget(link);
    m_sections.push_back({section, link});
    connect(link, &QPushButton::clicked, this, [this, at = m_sections.back()] { goToSection(at); });
    return section;
}

/// The section to the top, as far as the page goes; its link stays marked where others end up above it.
void BriefPage::goToSection(const Section& section)
{
    m_scroll->verticalScrollBar()->setValue(section.part->y());
    section.link->setChecked(true);
}

/// Marks the link of what is being read: the line where one reads goes from the top of the view to its foot as the
/// page goes from its beginning to its end, so that every section has its turn.
void BriefPage::markWhere()
{
    const QScrollBar* bar = m_scroll->verticalScrollBar();
    const double along = bar->maximum() > 0 ? double(bar->value()) / bar->maximum() : 0;
    const double reading = bar->value() + along * m_scroll->viewport()->height();
    for (const Section& s : m_sections)
        if (&s == &m_sections.front() || s.part->y() <= reading)
            s.link->setChecked(true);
}

void BriefPage::buildRange(QVBoxLayout* column)
{
    column->addWidget(m_rangeTitle);
    column->addWidget(m_range);
    auto* row = new QHBoxLayout;
    m_fit->setObjectName(QStringLiteral("fit-sensor"));
    m_rangeVerdict->setObjectName(QStringLiteral("range-verdict"));
    row->addWidget(m_fit);
    auto* own = new QPushButton(tr("Describe your own"));
    own->setObjectName(QStringLiteral("describe-sensor"));
    own->setFont(look::textFont(look::Size::Small));
    connect(own, &QPushButton::clicked, this, [this] { emit describePart(PartKind::Sensor); });
    row->addWidget(own);
    row->addWidget(m_rangeVerdict, 1);
    column->addLayout(row);
    connect(m_fit, &KeyButton::clicked, this, &BriefPage::takeChosen);
    connect(m_range, &RangeChart::takeAsked, this, &BriefPage::takeChosen);
    connect(m_range, &RangeChart::chosenChanged, this, &BriefPage::refreshRange);
}

std::vector<StagePage::Spot> BriefPage::spots() const
{
    std::vector<Spot> out;
    for (const FactsForm::Field& field : m_facts->fields())
        out.push_back({field.key, field.name});
    for (const Section& section : m_sections)
        out.push_back({section.link->objectName(), section.link->text()});
    return out;
}

void BriefPage::goToSpot(const QString& key)
{
    if (m_facts->goTo(key))
        return;
    for (const Section& section : m_sections)
        if (section.link->objectName() == key)
            goToSection(section);
}

void BriefPage::refresh()
{
    m_facts->refresh();
    m_consequences->refresh();
    m_air->refresh();
    refreshRange();
    refreshHarness();
    refreshSiting();
    m_questions->refresh();
}

/// The selected pressure; the manifold's while something else is selected.
job::FunctionId BriefPage::rangeFunction() const
{
    const job::FunctionId selected = m_consequences->selected();
    for (const char* p : kPressures)
        if (selected.value == p)
            return selected;
    return {"map"};
}

void BriefPage::refreshRange()
{
    const auto job = m_desk.store.job();
    const job::FunctionId function = rangeFunction();
    const job::Circuit* circuit = nullptr;
    for (const job::Circuit& c : job->circuits)
        if (c.function == function)
            circuit = &c;
    const brief::Advice advice = brief::adviseRange(function, *job, circuit, library());
    const bool fluid = function.value == "fuel-pressure" || function.value == "oil-pressure";
    m_range->show(advice, fluid ? QStringLiteral("bar") : QStringLiteral("kPa"));
    m_rangeTitle->setText(tr("%1 on %2, best first. Select another pressure above to see its own.")
                              .arg(said(brief::findFunction(function)->name), text(advice.inputText)));
    QString verdict;
    bool fitted = true;
    for (const auto& c : advice.ranking)
        if (m_range->chosen() != nullptr && c.sensor.id == m_range->chosen()->id) {
            verdict = text(c.verdict);
            fitted = c.current;
        }
    m_rangeVerdict->setText(verdict + (advice.split.empty() ? QString() : QLatin1Char('\n') + text(advice.split)));
    m_fit->setEnabled(circuit != nullptr && !fitted);
}

void BriefPage::takeChosen()
{
    const parts::Part* chosen = m_range->chosen();
    const job::FunctionId function = rangeFunction();
    if (chosen == nullptr)
        return;
    const parts::Part sensor = *chosen;
    m_desk.store.editOrSay(tr("Fit %1").arg(text(sensor.name)), [&](job::Job& job) -> Result<void> {
        for (const job::Circuit& c : job.circuits)
            if (c.function == function)
                return harness::setSensor(job, job::CircuitId(c.id), sensor).map([&] {
                    harness::proposeFaces(job, library().layouts);
                });
        return {};
    });
}

void BriefPage::refreshHarness()
{
    const auto job = m_desk.store.job();
    const auto options = brief::harnessOptions(*job, job->brief.value_or(job::Brief{}));
    for (int column = 0; const brief::HarnessOption& o : options)
        m_harness->show(column++,
                        {text(o.name),
                         {QString::number(o.connectors), QString::number(o.joints),
                          text(units::format(o.wire_m, units::Dimension::Length, "m", 1)),
                          text(units::formatNumber(o.hours, 1)) + tr(" h"), priceText(m_desk, o.money, 0),
                          text(units::formatNumber(100 * o.rework, 0)) + tr(" %: %1").arg(text(o.reworkSource)),
                          text(o.reversible), text(o.verdict)},
                         o.chosen});
}

void BriefPage::refreshSiting()
{
    const job::FunctionId selected = m_consequences->selected();
    const auto* function = brief::findFunction(selected);
    const brief::SitingCard card = brief::sitingOf(selected);
    m_sitingTitle->setText(function == nullptr ? tr("Select a circuit above to see where its sensor goes.")
                                               : tr("Where the sensor of %1 goes").arg(said(function->name)));
    QStringList lines;
    for (const std::string& place : card.places)
        lines << QStringLiteral("–  ") + text(place);
    if (!card.question.empty()) {
        lines << QString() << text(card.question) + tr("  People differ:");
        for (const auto& school : card.schools)
            lines << QStringLiteral("–  ") + text(school.says) + QStringLiteral(": ") + text(school.because) +
                         QLatin1Char('.');
    }
    m_siting->setText(lines.join(QLatin1Char('\n')));
    m_caution->setText(text(card.caution));
    m_caution->setVisible(!card.caution.empty());
}

} // namespace vicegrip::app
