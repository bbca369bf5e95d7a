#include "app/stages/trigger/gap_view.h"

#include "app/stages/trigger/setup.h"
#include "app/stages/trigger/strip_drawing.h"
#include "app/stages/trigger/strip_view.h"
#include "app/widgets/caution.h"
#include "app/widgets/labels.h"
#include "app/widgets/typed_field.h"
#include "app/widgets/value_row.h"

#include <QGridLayout>
#include <QLineEdit>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace vicegrip::app {
namespace {

using units::Dimension;

constexpr double kMostGap_m = 20e-3, kMostPitch_m = 5e-3;
constexpr double kFlats = 6, kTurn_deg = 360;

QString millimetres(double m, int decimals = 2)
{
    return text(units::format(m, Dimension::Length, "mm", decimals));
}

/// "⅔ of a turn", "1½ turns", "0.42 of a turn".
QString turnsText(double turns)
{
    static const std::array<const char*, 6> kSixths = {"", "⅙", "⅓", "½", "⅔", "⅚"};
    const double sixths = std::abs(turns) * kFlats;
    const auto whole = static_cast<int>(std::lround(sixths));
    if (std::abs(sixths - whole) > 1e-6)
        return GapView::tr("%1 of a turn").arg(text(units::formatNumber(std::abs(turns), 2)));
    const QString part = QString::fromUtf8(kSixths[static_cast<size_t>(whole % 6)]);
    if (whole < 6)
        return GapView::tr("%1 of a turn").arg(part);
    return whole == 6 ? GapView::tr("1 turn") : GapView::tr("%1%2 turns").arg(whole / 6).arg(part);
}

} // namespace

GapView::GapView(Desk& desk, QWidget* parent) : QWidget(parent), m_desk(desk)
{
    const auto figures = [](const char* name) {
        auto* l = label({}, look::Size::Title, true);
        l->setObjectName(QLatin1String(name));
        return l;
    };
    m_turn = figures("gap-turn");
    m_runOut = figures("gap-run-out");
    m_open = label({}, look::Size::Body, true);
    m_open->setObjectName(QStringLiteral("gap-open"));
    for (QLabel** l : {&m_after, &m_strip, &m_oval})
        *l = label({}, look::Size::Body);
    m_after->setObjectName(QStringLiteral("gap-after"));
    m_strip->setObjectName(QStringLiteral("gap-strip"));
    m_oval->setObjectName(QStringLiteral("gap-oval"));
    const auto side = [&](const QString& name, std::initializer_list<QWidget*> says, auto add) {
        auto* box = new QVBoxLayout;
        box->setSpacing(6_px);
        box->addWidget(label(name, look::Size::Small, false, true));
        for (QWidget* w : says)
            box->addWidget(w);
        auto* grid = new QGridLayout;
        grid->setHorizontalSpacing(look::kGap);
        grid->setColumnStretch(1, 1);
        (this->*add)(grid);
        box->addLayout(grid);
        return box;
    };
    const auto beside = [](std::initializer_list<std::pair<QVBoxLayout*, int>> boxes) {
        auto* row = new QHBoxLayout;
        row->setSpacing(2 * look::kMargin);
        for (const auto& [box, share] : boxes)
            row->addLayout(box, share);
        return row;
    };
    QVBoxLayout* gap = side(tr("air gap"), {m_turn, m_after, m_strip}, &GapView::addGap);
    QVBoxLayout* feelers =
        side(tr("run-out, by feelers at every quarter of a turn"), {m_runOut, m_oval}, &GapView::addFeelers);
    QVBoxLayout* seat = side(tr("how the wheel sits"), {m_open}, &GapView::addSeat);
    gap->addStretch(1);
    feelers->addStretch(1);
    auto* caution = new Caution;
    caution->setObjectName(QStringLiteral("gap-caution"));
    caution->setText(
        tr("Engine stopped, key out, gearbox in neutral: a hand with a feeler is between wheel and sensor. "
           "Turn by the crank's bolt, and take the bar off before the feeler goes in. Local rules and "
           "licensed practice come first."));
    m_drawing = new StripDrawing;
    seat->addWidget(m_drawing, 1);
    seat->addStretch(0);
    seat->addWidget(caution);
    m_lies = new StripView(desk);
    auto* left = new QVBoxLayout;
    left->setSpacing(look::kGap);
    left->addLayout(beside({{gap, 1}, {feelers, 1}}));
    left->addWidget(m_lies);
    left->addStretch(1);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, look::kGap, 0, 0);
    column->addLayout(beside({{left, 2}, {seat, 1}}), 1);
}

void GapView::addGap(QGridLayout* grid)
{
    const auto length = [&](const QString& name, const char* objectName, double most,
                            double job::TriggerSetup::*member) {
        return addValueRow(
            grid, name, objectName, readsValue(Dimension::Length, "mm", 0, most),
            [](double v) { return millimetres(v); },
            [this, name, member](double v) {
                changeSetup(m_desk, name, [=](job::TriggerSetup& s) { s.*member = v; });
            });
    };
    m_now = length(tr("Measured"), "gap-now", kMostGap_m, &job::TriggerSetup::gap_m);
    m_least = length(tr("May be, least"), "gap-least", kMostGap_m, &job::TriggerSetup::gapLeast_m);
    m_most = length(tr("May be, most"), "gap-most", kMostGap_m, &job::TriggerSetup::gapMost_m);
    m_pitch = length(tr("Pitch of its thread"), "gap-pitch", kMostPitch_m, &job::TriggerSetup::pitch_m);
}

void GapView::addFeelers(QGridLayout* grid)
{
    for (size_t q = 0; q < m_feelers.size(); ++q) {
        const QString name = tr("At %1°").arg(static_cast<int>(q) * 90);
        m_feelers[q] = addValueRow(
            grid, name, qPrintable(QStringLiteral("gap-feeler-%1").arg(q * 90)),
            readsValue(Dimension::Length, "mm", 0, kMostGap_m), [](double v) { return millimetres(v); },
            [this, q](double v) { setFeeler(q, v); });
    }
}

void GapView::addSeat(QGridLayout* grid)
{
    const auto words = [&](const QString& name, const char* objectName, const QString& hint,
                           std::string job::TriggerSetup::*member) {
        auto* field = new TypedField(name, [](const QString& typed) { return Result<QString>(typed.trimmed()); });
        addCaptioned(grid, name, objectName, field);
        field->edit()->setPlaceholderText(hint);
        field->edit()->setMaxLength(200);
        connect(field, &TypedField::entered, this, [this, name, member](const QString& typed) {
            changeSetup(m_desk, name, [&](job::TriggerSetup& s) { s.*member = typed.trimmed().toStdString(); });
        });
        return field;
    };
    m_hole = words(tr("Locating hole"), "gap-hole", tr("by the mark"), &job::TriggerSetup::hole);
    m_side = words(tr("Side to the engine"), "gap-side", tr("the stamped"), &job::TriggerSetup::side);
}

void GapView::setFeeler(size_t quarter, double gap_m)
{
    changeSetup(m_desk, tr("feeler at %1°").arg(static_cast<int>(quarter) * 90), [=, this](job::TriggerSetup& s) {
        s.feelers_m.resize(m_feelers.size(), 0.0);
        s.feelers_m[quarter] = gap_m;
        if (const auto said = trigger::feelersSay(s.feelers_m)) // what is typed after it counts: the sensor was turned
            s.gap_m = said->mean_m;
    });
}

void GapView::refresh()
{
    const job::TriggerSetup s = setupOf(m_desk);
    const auto show = [](TypedField* field, double m) { field->setText(m > 0 ? millimetres(m) : QString()); };
    show(m_now, s.gap_m);
    show(m_least, s.gapLeast_m);
    show(m_most, s.gapMost_m);
    show(m_pitch, s.pitch_m);
    const bool usual = !(s.gapLeast_m > 0 || s.gapMost_m > 0), coil = readsCoil(m_desk);
    m_least->setHint(usual ? (coil ? tr("%1 usual of a coil").arg(millimetres(trigger::kCoilLeast_m, 1))
                                   : tr("%1 usual of a Hall sensor").arg(millimetres(trigger::kHallLeast_m, 1)))
                           : QString());
    m_most->setHint(usual ? (coil ? tr("%1 usual of a coil").arg(millimetres(trigger::kCoilMost_m, 1))
                                  : tr("%1 usual of a Hall sensor").arg(millimetres(trigger::kHallMost_m, 1)))
                          : QString());
    for (size_t q = 0; q < m_feelers.size(); ++q)
        show(m_feelers[q], q < s.feelers_m.size() ? s.feelers_m[q] : 0);
    m_hole->setText(text(s.hole));
    m_side->setText(text(s.side));
    const auto said = trigger::feelersSay(s.feelers_m);
    const auto feelers = said ? std::optional(*said) : std::nullopt;
    showFeelers(s, feelers);
    const trigger::AirGap gap = airGapOf(m_desk);
    const auto turn = trigger::turnFor(gap);
    showTurn(gap, turn);
    m_lies->refresh(gap, turn && gap.now_m > 0 ? std::optional(*turn) : std::nullopt);
    const bool turned = gap.strip && turn && !turn->isInside && turn->fits && std::abs(turn->turns) > 0;
    for (QLabel* l : {m_after, m_strip, m_oval})
        l->setVisible(!l->text().isEmpty());
    m_drawing->show(gap.strip, turned ? std::optional(gap.strip->lies_deg + turn->turns * kTurn_deg) : std::nullopt);
    QStringList open;
    if (s.hole.empty())
        open << tr("Which of its holes locates the wheel?");
    if (s.side.empty())
        open << tr("Which side of it faces the engine?");
    m_open->setText(open.isEmpty()
                        ? tr("Noted. Another hole or the other side turns the whole timing.")
                        : open.join(QLatin1Char(' ')) + tr(" Look before it is bolted: it decides the offset."));
    setInk(m_open, open.isEmpty() ? look::colours().done : look::colours().stale);
}

void GapView::showTurn(const trigger::AirGap& gap, const Result<trigger::GapTurn>& turn)
{
    const auto& c = look::colours();
    m_after->clear();
    m_strip->clear();
    setInk(m_turn, c.ink);
    if (!(gap.now_m > 0)) {
        m_turn->setText(tr("Measure the gap with a feeler, on a tooth"));
        return;
    }
    if (!turn) {
        m_turn->setText(text(turn.error().sentence));
        setInk(m_turn, c.failing);
        return;
    }
    const bool threaded = gap.pitch_m > 0, in = turn->after_m < gap.now_m;
    const double move = std::abs(gap.now_m - turn->after_m);
    setInk(m_turn, turn->isInside ? c.done : c.failing);
    m_turn->setText(
        turn->isInside ? tr("%1: it stands right").arg(millimetres(gap.now_m))
        : !turn->fits  ? (gap.runOut_m >= gap.most_m - gap.least_m
                              ? tr("No place fits: it runs out farther than the window is wide")
                              : tr("No place fits: put its strip right first"))
        : threaded     ? (in ? tr("Turn it in by %1") : tr("Turn it out by %1")).arg(turnsText(turn->turns))
                   : (in ? tr("Take %1 off below its flange") : tr("Put %1 below its flange")).arg(millimetres(move)));
    if (turn->isInside || !turn->fits)
        return;
    m_after->setText(tr("%1 to %2; it may be %3.")
                         .arg(millimetres(gap.now_m), millimetres(turn->after_m),
                              text(units::formatRange(gap.least_m, gap.most_m, Dimension::Length, "mm", 2))));
    if (threaded)
        showRotation(gap, *turn);
}

void GapView::showRotation(const trigger::AirGap& gap, const trigger::GapTurn& turn)
{
    const double flats = std::abs(turn.turns) * kFlats, rotates = trigger::foldedLie(turn.turns * kTurn_deg);
    if (std::abs(flats - std::round(flats)) < 1e-6)
        m_after->setText(m_after->text() + QLatin1Char(' ') +
                         (std::lround(flats) == 1
                              ? tr("1 flat of its nut.")
                              : tr("%1 flats of its nut.").arg(static_cast<int>(std::lround(flats)))));
    if (gap.strip || rotates < 1) // of a strip it is said below
        return;
    m_strip->setText(
        tr("That turns its face by %1°: its strip must lie along the teeth again.")
            .arg(text(units::formatNumber(flats * kTurn_deg / kFlats, 0))) +
        (turn.halves && std::abs(*turn.halves) > 0
             ? QLatin1Char(' ') + tr("By half turns it stays: %1, to %2.")
                                      .arg(turnsText(*turn.halves), millimetres(gap.now_m - *turn.halves * gap.pitch_m))
             : QString()));
}

void GapView::showFeelers(const job::TriggerSetup& s, const std::optional<trigger::Feelers>& feelers)
{
    const auto& c = look::colours();
    m_oval->clear();
    setInk(m_runOut, c.ink);
    if (!feelers) {
        const auto done = std::ranges::count_if(s.feelers_m, [](double g) { return g > 0; });
        m_runOut->setText(done == 0 ? tr("Turn by quarters, a feeler at each")
                                    : tr("%1 of 4 gaps").arg(static_cast<int>(done)));
        return;
    }
    constexpr double kMost_m = 0.25e-3, kOval_m = 0.1e-3; // typical
    m_runOut->setText(tr("%1, farthest at %2°")
                          .arg(millimetres(feelers->runOut_m), text(units::formatNumber(feelers->farthest_deg, 0))));
    setInk(m_runOut, feelers->runOut_m <= kMost_m ? c.done : c.failing);
    m_oval->setText(
        feelers->disagree_m > kOval_m
            ? tr("The two diameters differ by %1: not round, bent, or a feeler slipped. Measure again.")
                  .arg(millimetres(feelers->disagree_m))
        : feelers->runOut_m > kMost_m
            ? tr("More than %1 (typical). Clean the wheel's seat, tighten it evenly, or have it turned true.")
                  .arg(millimetres(kMost_m))
            : tr("Gaps from %1 to %2.").arg(millimetres(feelers->least_m), millimetres(feelers->most_m)));
}

} // namespace vicegrip::app
