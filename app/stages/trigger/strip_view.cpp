#include "app/stages/trigger/strip_view.h"

#include "app/stages/trigger/setup.h"
#include "app/widgets/labels.h"
#include "app/widgets/typed_field.h"
#include "app/widgets/value_row.h"

#include <QGridLayout>
#include <QLineEdit>
#include <QVBoxLayout>

#include <array>
#include <cmath>
#include <numeric>

namespace vicegrip::app {
namespace {

using units::Dimension;

constexpr double kMostStrip_m = 50e-3, kMostAcross_m = 1, kMostThick_m = 0.2, kTurn_deg = 360;

QString millimetres(double m, int decimals)
{
    return text(units::format(m, Dimension::Length, "mm", decimals));
}

QString degrees(double deg)
{
    return text(units::formatNumber(deg, 0)) + u'°';
}

} // namespace

StripView::StripView(Desk& desk, QWidget* parent) : QWidget(parent), m_desk(desk)
{
    m_verdict = label({}, look::Size::Title, true);
    m_verdict->setObjectName(QStringLiteral("strip-verdict"));
    m_why = label({}, look::Size::Body);
    m_why->setObjectName(QStringLiteral("strip-why"));
    std::array<QGridLayout*, 3> columns{};
    auto* fields = new QHBoxLayout;
    fields->setSpacing(look::kGap);
    for (QGridLayout*& grid : columns) {
        grid = new QGridLayout;
        grid->setHorizontalSpacing(6_px);
        grid->setVerticalSpacing(4_px);
        grid->setColumnStretch(1, 1);
        fields->addLayout(grid, 1);
    }
    const auto length = [&](size_t column, const QString& name, const char* objectName, double most,
                            const QString& taken, auto member) {
        auto* field = addValueRow(
            columns[column], name, objectName, readsValue(Dimension::Length, "mm", 0, most),
            [](double v) { return millimetres(v, 1); },
            [this, name, member](double v) {
                changeSetup(m_desk, name, [=](job::TriggerSetup& s) { s.*member = v; });
            });
        field->edit()->setPlaceholderText(taken);
        return field;
    };
    const trigger::Strip usual;
    const QString lies = tr("Strip turned");
    m_lies = addValueRow(
        columns[0], lies, "strip-lies", readsPlain(-kTurn_deg, kTurn_deg, tr("degrees")), degrees,
        [this, lies](double v) { changeSetup(m_desk, lies, [=](job::TriggerSetup& s) { s.lies_deg = v; }); });
    m_lies->edit()->setPlaceholderText(degrees(0));
    m_beside =
        length(0, tr("Wheel beside"), "strip-beside", kMostStrip_m, millimetres(0, 1), &job::TriggerSetup::beside_m);
    m_across = length(1, tr("Wheel across"), "strip-across", kMostAcross_m, {}, &job::TriggerSetup::across_m);
    m_thick = length(1, tr("Wheel thick"), "strip-thick", kMostThick_m, tr("enough"), &job::TriggerSetup::thick_m);
    m_wide = length(2, tr("Strip wide"), "strip-wide", kMostStrip_m, millimetres(usual.wide_m, 1),
                    &job::TriggerSetup::stripWide_m);
    m_long = length(2, tr("Strip long"), "strip-long", kMostStrip_m, millimetres(usual.long_m, 1),
                    &job::TriggerSetup::stripLong_m);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6_px);
    column->addWidget(label(tr("how the strip in its face lies over the teeth"), look::Size::Small, false, true));
    column->addWidget(m_verdict);
    column->addWidget(m_why);
    column->addLayout(fields);
}

void StripView::refresh(const trigger::AirGap& gap, const std::optional<trigger::GapTurn>& turn)
{
    const job::TriggerSetup s = setupOf(m_desk);
    const auto show = [](TypedField* field, double m) { field->setText(m > 0 ? millimetres(m, 1) : QString()); };
    m_lies->setText(s.lies_deg ? degrees(*s.lies_deg) : QString());
    m_beside->setText(s.beside_m ? millimetres(*s.beside_m, 1) : QString());
    show(m_across, s.across_m);
    show(m_thick, s.thick_m);
    show(m_wide, s.stripWide_m);
    show(m_long, s.stripLong_m);
    m_why->clear();
    setInk(m_verdict, look::colours().ink);
    if (gap.strip)
        say(gap, turn);
    else
        m_verdict->setText(asks());
    m_why->setVisible(!m_why->text().isEmpty());
}

QString StripView::asks() const
{
    const job::TriggerSetup s = setupOf(m_desk);
    if (readsCoil(m_desk) && !s.lies_deg && !s.beside_m)
        return tr("A coil's round pole may lie as it likes");
    return !wheelOf(m_desk)    ? tr("Say above which wheel it reads")
           : !(s.across_m > 0) ? tr("Say how far the wheel is over its teeth")
                               : tr("Say how its strip lies: 0° is along the teeth");
}

void StripView::say(const trigger::AirGap& gap, const std::optional<trigger::GapTurn>& turn)
{
    const auto& c = look::colours();
    const trigger::Strip& strip = *gap.strip;
    const double from = gap.now_m > 0 ? gap.now_m : std::midpoint(gap.least_m, gap.most_m);
    const double more = trigger::seemsFarther(strip, from);
    if (!std::isfinite(more)) {
        m_verdict->setText(tr("It senses nothing of the teeth"));
        setInk(m_verdict, c.failing);
    } else if (!turn) {
        m_verdict->setText(tr("As if it stood %1 farther").arg(millimetres(more, 2)));
    } else {
        const bool alone = gap.now_m + gap.runOut_m / 2 <= gap.most_m;
        m_verdict->setText(tr("It senses as from %1").arg(millimetres(turn->seemsNow_m, 2)));
        setInk(m_verdict, turn->isInside ? c.done : alone ? c.failing : c.ink);
    }
    trigger::Strip turnedOnly = strip, besideOnly = strip;
    turnedOnly.beside_m = 0;
    besideOnly.lies_deg = 0;
    const auto costs = [](double m) {
        constexpr double kNothing_m = 5e-6;
        return !std::isfinite(m) ? tr("costs all of it")
               : m < kNothing_m  ? tr("costs nothing")
                                 : tr("costs %1 of gap").arg(millimetres(m, 2));
    };
    QStringList why;
    why << tr("%1 from along the teeth %2.")
               .arg(degrees(trigger::foldedLie(strip.lies_deg)), costs(trigger::seemsFarther(turnedOnly, from)));
    if (strip.beside_m > 0)
        why << tr("%1 beside the wheel's middle %2: move it along the shaft.")
                   .arg(millimetres(strip.beside_m, 1), costs(trigger::seemsFarther(besideOnly, from)));
    if (turn) {
        const bool turned = !turn->isInside && turn->fits;
        if (turned && std::abs(turn->turns) > 0)
            why << tr("Once turned it lies %1 off and senses as from %2.")
                       .arg(degrees(trigger::foldedLie(strip.lies_deg + turn->turns * kTurn_deg)),
                            millimetres(turn->seems_m, 2));
        const double at = turned ? turn->after_m : gap.now_m;
        constexpr int kRight_deg = 90;
        const int may = trigger::mayLie(strip, at, gap.most_m - gap.runOut_m / 2 - at);
        why << (may < 0             ? tr("At %1 no lie of it is right.").arg(millimetres(at, 2))
                : may >= kRight_deg ? tr("At %1 it may lie as it likes.").arg(millimetres(at, 2))
                                    : tr("At %1 it may lie up to %2 off.").arg(millimetres(at, 2), degrees(may)));
    }
    m_why->setText(why.join(QLatin1Char(' ')));
}

} // namespace vicegrip::app
