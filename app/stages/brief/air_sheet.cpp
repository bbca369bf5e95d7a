#include "app/stages/brief/air_sheet.h"

#include "app/desk/library.h"
#include "app/widgets/labels.h"
#include "core/brief/air_method.h"

#include <QGridLayout>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {
namespace {

QString circuitsText(const brief::AirMethodView& v)
{
    QStringList out;
    for (const job::FunctionId& f : v.needs) {
        const auto* function = brief::findFunction(f);
        const bool missing = std::ranges::find(v.missing, f) != v.missing.end();
        out << (function == nullptr ? text(f.value) : text(function->name)) +
                   (missing ? AirSheet::tr(" (missing)") : AirSheet::tr(" (there)"));
    }
    return out.join(QStringLiteral(", "));
}

} // namespace

AirSheet::AirSheet(Desk& desk, QWidget* parent) : QWidget(parent), m_desk(desk), m_errors(label({}, look::Size::Small))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(18);
    grid->setVerticalSpacing(6);
    column->addLayout(grid);
    column->addWidget(
        label(tr("What a sensor's own error costs in fuel, under the chosen method"), look::Size::Small, true));
    m_errors->setObjectName(QStringLiteral("fuelling-errors"));
    column->addWidget(m_errors);
    for (int method = 0; method < 4; ++method) {
        std::vector<QLabel*> labels;
        for (int row = 0; row < 6; ++row) {
            labels.push_back(label({}, row == 0 ? look::Size::Body : look::Size::Small, row == 0, row == 1));
            grid->addWidget(labels.back(), row, method, Qt::AlignTop);
        }
        grid->setColumnStretch(method, 1);
        m_columns.push_back(std::move(labels));
    }
}

void AirSheet::refresh()
{
    const auto job = m_desk.store.job();
    const job::Brief facts = job->brief.value_or(job::Brief{});
    const auto views = brief::airMethods(*job, facts);
    for (size_t i = 0; i < views.size() && i < m_columns.size(); ++i) {
        const auto& v = views[i];
        auto& l = m_columns[i];
        l[0]->setText(text(v.name) + (v.chosen ? tr("  – chosen") : QString()));
        l[1]->setText(text(v.how));
        l[2]->setText(tr("For: ") + text(v.forIt));
        l[3]->setText(tr("Against: ") + text(v.againstIt));
        l[4]->setText(tr("Here: ") + text(v.here));
        l[5]->setText(tr("Asks for: ") + circuitsText(v));
        for (QLabel* each : l)
            setInk(each, v.chosen ? look::colours().ink : look::colours().inkSoft);
    }
    QStringList lines;
    for (const auto& e : brief::fuellingErrors(*job, facts, library()))
        lines << tr("%1: %2 at %3 is %4 % of the fuel")
                     .arg(text(e.sensor), text(e.error), text(e.at), text(units::formatNumber(100 * e.share, 1)));
    m_errors->setText(lines.join(QLatin1Char('\n')));
}

} // namespace vicegrip::app
