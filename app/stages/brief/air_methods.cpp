#include "app/stages/brief/air_methods.h"

#include "app/desk/part_library.h"
#include "app/widgets/compare_grid.h"
#include "app/widgets/labels.h"
#include "core/brief/air_method.h"

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
        out << (function == nullptr ? text(f.value) : said(function->name)) +
                   (missing ? AirMethods::tr(" (missing)") : AirMethods::tr(" (there)"));
    }
    return out.join(QStringLiteral(", "));
}

} // namespace

AirMethods::AirMethods(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_methods(new CompareGrid({tr("How"), tr("For"), tr("Against"), tr("Here"), tr("Asks for")}, 4)),
      m_errors(label({}, look::Size::Small))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(look::kGap);
    column->addWidget(m_methods);
    column->addWidget(
        label(tr("What a sensor's own error costs in fuel, under the chosen method"), look::Size::Small, true));
    m_errors->setObjectName(QStringLiteral("fuelling-errors"));
    column->addWidget(m_errors);
}

void AirMethods::refresh()
{
    const auto job = m_desk.store.job();
    const job::Brief facts = job->brief.value_or(job::Brief{});
    for (int column = 0; const auto& v : brief::airMethods(*job, facts))
        m_methods->show(
            column++,
            {text(v.name), {text(v.how), text(v.forIt), text(v.againstIt), text(v.here), circuitsText(v)}, v.chosen});
    QStringList lines;
    for (const auto& e : brief::fuellingErrors(*job, facts, library()))
        lines << tr("%1: %2 at %3 is %4 % of the fuel")
                     .arg(text(e.sensor), text(e.error), text(e.at), text(units::formatNumber(100 * e.share, 1)));
    m_errors->setText(lines.join(QLatin1Char('\n')));
}

} // namespace vicegrip::app
