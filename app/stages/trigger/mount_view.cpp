#include "app/stages/trigger/mount_view.h"

#include "app/stages/trigger/setup.h"
#include "app/views/selected.h"
#include "app/widgets/labels.h"
#include "core/units/units.h"

#include <QGridLayout>
#include <QPainter>
#include <QSignalBlocker>
#include <QSlider>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace vicegrip::app {
namespace {

constexpr int kBins = 61;
constexpr look::Px kBelow{24}, kName{44};

QString degreesOff(double deg)
{
    return text(units::formatNumber(deg, 1)) + u'°';
}

} // namespace

SpreadPlot::SpreadPlot(QWidget* parent) : QWidget(parent)
{
    setObjectName(QStringLiteral("spreads"));
    setAccessibleName(tr("How far sparks are off, at the crank and behind the belt"));
    setMinimumSize(280_px, 240_px);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

void SpreadPlot::show(const trigger::Mounted& mounted, const QString& crank, const QString& belt)
{
    m_mounted = mounted;
    m_crank = crank;
    m_belt = belt;
    setAccessibleDescription(crank + QStringLiteral(". ") + belt);
    update();
}

void SpreadPlot::paintEvent(QPaintEvent*)
{
    if (m_mounted.crank.off_deg.empty())
        return;
    QPainter p(this);
    const auto& c = look::colours();
    const double most = std::max(m_mounted.crank.worst_deg(), m_mounted.belt.worst_deg());
    const double reach = std::max(0.5, std::ceil(most * 2) / 2);
    const QRectF all = QRectF(rect()).adjusted(0, 0, 0, -kBelow);
    const double half = all.height() / 2;
    paintOne(p, QRectF(all.left(), all.top(), all.width(), half), m_mounted.crank, m_crank, reach);
    paintOne(p, QRectF(all.left(), all.top() + half, all.width(), half), m_mounted.belt, m_belt, reach);
    p.setFont(look::numbers(look::Size::Small));
    p.setPen(c.ink);
    for (const double at : {-reach, -reach / 2, 0.0, reach / 2, reach}) {
        QRectF box(all.center().x() + at / reach * all.width() / 2 - 40_px, all.bottom() + 2_px, 80_px, kBelow - 2_px);
        box.moveLeft(std::clamp<double>(box.left(), 0, width() - box.width()));
        p.drawText(box,
                   (at < -reach / 2 - 1e-9  ? Qt::AlignLeft
                    : at > reach / 2 + 1e-9 ? Qt::AlignRight
                                            : Qt::AlignHCenter) |
                       Qt::AlignVCenter,
                   (at > 0 ? QStringLiteral("+") : QString()) + text(units::formatNumber(at, 2)) + u'°');
    }
}

void SpreadPlot::paintOne(QPainter& p, const QRectF& box, const trigger::Spread& spread, const QString& name,
                          double reach) const
{
    const auto& c = look::colours();
    std::array<int, kBins> bins{};
    for (const double off : spread.off_deg) {
        const auto bin = static_cast<int>((off + reach) / (2 * reach) * kBins);
        ++bins[static_cast<size_t>(std::clamp(bin, 0, kBins - 1))];
    }
    const int most = *std::ranges::max_element(bins);
    const double floor = box.bottom() - 2, tall = box.height() - kName - 6_px;
    p.setPen(QPen(c.line, 1));
    p.drawLine(QPointF(box.left(), floor), QPointF(box.right(), floor));
    p.drawLine(QPointF(box.center().x(), box.top() + kName), QPointF(box.center().x(), floor));
    const double wide = box.width() / kBins, within = spread.most95_deg();
    for (int b = 0; b < kBins; ++b) {
        const double h = tall * bins[static_cast<size_t>(b)] / std::max(1, most);
        const double at = -reach + (b + 0.5) * 2 * reach / kBins;
        p.fillRect(QRectF(box.left() + b * wide + 0.5, floor - h, wide - 1, h),
                   std::abs(at) <= within ? c.accent : c.failing);
    }
    p.setFont(look::textFont(look::Size::Body, true));
    p.setPen(c.ink);
    p.drawText(QRectF(box.left(), box.top(), box.width(), kName / 2.0), Qt::AlignLeft | Qt::AlignVCenter, name);
    p.setFont(look::textFont(look::Size::Small));
    p.drawText(QRectF(box.left(), box.top() + kName / 2.0, box.width(), kName / 2.0), Qt::AlignLeft | Qt::AlignVCenter,
               tr("95 of 100 within ± %1, worst %2").arg(degreesOff(within), degreesOff(spread.worst_deg())));
}

MountView::MountView(Desk& desk, QWidget* parent) : QWidget(parent), m_desk(desk), m_plot(new SpreadPlot)
{
    m_title = label({}, look::Size::Title, true);
    m_title->setObjectName(QStringLiteral("mount-title"));
    m_detail = label({}, look::Size::Body);
    m_detail->setObjectName(QStringLiteral("mount-detail"));
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(look::kGap);
    grid->setVerticalSpacing(2_px);
    grid->setColumnStretch(1, 1);
    const auto plain = [](const QString& unit, int decimals) {
        return [=](double v) { return text(units::formatNumber(v, decimals)) + unit; };
    };
    const auto share = [](double v) { return text(units::formatNumber(100 * v, 1)) + QStringLiteral(" %"); };
    const auto number = [this](double trigger::Mounting::*member) {
        return std::pair<std::function<double()>, std::function<void(double)>>(
            [this, member] { return m_engine.*member; }, [this, member](double v) { m_engine.*member = v; });
    };
    const auto whole = [this](int trigger::Mounting::*member) {
        return std::pair<std::function<double()>, std::function<void(double)>>(
            [this, member] { return m_engine.*member; },
            [this, member](double v) { m_engine.*member = static_cast<int>(std::lround(v)); });
    };
    const QString typical = tr("typical");
    const auto knob = [&](const QString& name, const char* objectName, double least, double most, double step,
                          const QString& source, auto access, auto say) {
        addKnob(grid, name, objectName, least, most, step, source, access.first, access.second, say);
    };
    const auto speed = std::pair<std::function<double()>, std::function<void(double)>>([this] { return m_engine.rpm; },
                                                                                       [this](double v) {
                                                                                           m_engine.rpm = v;
                                                                                           m_engine.ripple =
                                                                                               trigger::usualRipple(v);
                                                                                       });
    knob(tr("Speed"), "mount-rpm", 100, 8000, 50, QString(), speed, plain(tr(" rpm"), 0));
    knob(tr("Speed, up and down within a compression"), "mount-ripple", 0, 0.4, 0.001,
         tr("typical: 25 % on the starter, by the square less above"), number(&trigger::Mounting::ripple), share);
    knob(tr("Teeth at the crank"), "mount-teeth", 4, 120, 1, QString(), whole(&trigger::Mounting::teeth), plain({}, 0));
    knob(tr("A tooth's edge is off by"), "mount-tooth", 0, 0.5, 0.01, tr("typical of a cut wheel: 0.1°"),
         number(&trigger::Mounting::tooth_deg), plain(QStringLiteral("°"), 2));
    knob(tr("Slots behind the belt"), "mount-slots", 4, 720, 4, QString(), whole(&trigger::Mounting::beltSlots),
         plain({}, 0));
    knob(tr("Belt gives under the valves' load"), "mount-stretch", 0, 3, 0.1, typical,
         number(&trigger::Mounting::stretch_deg), plain(QStringLiteral("°"), 1));
    knob(tr("Belt swings when a valve has shut"), "mount-swing", 0, 3, 0.1, typical,
         number(&trigger::Mounting::swing_deg), plain(QStringLiteral("°"), 1));
    knob(tr("It swings at"), "mount-hertz", 20, 400, 5, typical, number(&trigger::Mounting::swing_hz),
         plain(tr(" Hz"), 0));
    auto* left = new QVBoxLayout;
    left->addLayout(grid);
    left->addStretch(1);
    auto* columns = new QHBoxLayout;
    columns->setSpacing(2 * look::kMargin);
    columns->addLayout(left, 1);
    columns->addWidget(m_plot, 1);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, look::kGap, 0, 0);
    column->setSpacing(6_px);
    column->addWidget(m_title);
    column->addWidget(m_detail);
    column->addLayout(columns, 1);
}

void MountView::addKnob(QGridLayout* grid, const QString& name, const char* objectName, double least, double most,
                        double step, const QString& source, std::function<double()> get,
                        std::function<void(double)> set, std::function<QString(double)> say)
{
    const int row = grid->rowCount();
    auto* caption = label(name, look::Size::Small);
    grid->addWidget(caption, row, 0);
    auto* slider = new QSlider(Qt::Horizontal);
    slider->setObjectName(QLatin1String(objectName));
    slider->setAccessibleName(name);
    slider->setRange(0, static_cast<int>(std::lround((most - least) / step)));
    slider->setMinimumHeight(look::kField);
    slider->setToolTip(source);
    grid->addWidget(slider, row, 1);
    QLabel* shown = figure({}, look::Size::Small);
    shown->setMinimumWidth(76_px);
    shown->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    grid->addWidget(shown, row, 2);
    if (!source.isEmpty())
        grid->addWidget(label(source, look::Size::Small, false, true), row + 1, 1, 1, 2);
    m_knobs.push_back({slider, shown, std::move(get), std::move(set), std::move(say), least, step});
    const size_t at = m_knobs.size() - 1;
    connect(slider, &QSlider::valueChanged, this, [this, at](int position) {
        m_knobs[at].set(m_knobs[at].least + m_knobs[at].step * position);
        show();
    });
}

/// The engine as the job has it; what is assumed stays as it was set.
void MountView::refresh()
{
    const job::Job& job = *m_desk.store.job();
    if (job.brief)
        m_engine.cylinders = job.brief->cylinders;
    const job::TriggerSetup setup = setupOf(m_desk);
    if (const auto wheel = wheelOf(m_desk);
        wheel && !wheel->onCam() && (m_circuit != m_desk.selection.circuit() || m_wheel != setup.wheel)) {
        const std::vector<double> steps = trigger::stepsOf(*wheel, false);
        const double least = *std::ranges::min_element(steps);
        const auto places = static_cast<int>(std::lround(trigger::kCrankTurn_deg / least));
        const auto there = static_cast<int>(wheel->teeth.size());
        m_engine.teeth = std::max(places, there);
        m_engine.missing = std::clamp(places - there, 0, m_engine.teeth - 2);
        m_wheel = setup.wheel;
    }
    m_circuit = m_desk.selection.circuit();
    show();
}

void MountView::show()
{
    m_engine.missing = std::clamp(m_engine.missing, 0, std::max(0, m_engine.teeth - 2));
    for (const Knob& k : m_knobs) {
        const QSignalBlocker quiet(k.slider);
        k.slider->setValue(static_cast<int>(std::lround((k.get() - k.least) / k.step)));
        k.shown->setText(k.say(k.get()));
    }
    const auto mounted = trigger::compareMounting(m_engine);
    if (!mounted) {
        m_title->setText(text(mounted.error().sentence));
        return;
    }
    const QString wheel = m_engine.missing > 0 ? QStringLiteral("%1-%2").arg(m_engine.teeth).arg(m_engine.missing)
                                               : QString::number(m_engine.teeth);
    const QString crank = tr("At the crank: %1").arg(wheel),
                  belt = tr("Behind the belt: %1 slots").arg(m_engine.beltSlots);
    m_plot->show(*mounted, crank, belt);
    const double atCrank = mounted->crank.most95_deg(), atBelt = mounted->belt.most95_deg();
    constexpr double kAlike = 1.25;
    const QString rpm = text(units::formatNumber(m_engine.rpm, 0));
    m_title->setText(atCrank * kAlike < atBelt   ? tr("At %1 rpm the crank's wheel is nearer").arg(rpm)
                     : atBelt * kAlike < atCrank ? tr("At %1 rpm the slots behind the belt are nearer").arg(rpm)
                                                 : tr("At %1 rpm they are alike").arg(rpm));
    QStringList speeds;
    for (const double turns : {250.0, 1000.0, 3000.0, 6000.0}) { // a minute
        trigger::Mounting at = m_engine;
        at.rpm = turns;
        at.ripple = trigger::usualRipple(turns);
        if (const auto there = trigger::compareMounting(at))
            speeds << tr("%1 rpm ± %2 / ± %3")
                          .arg(text(units::formatNumber(turns, 0)), degreesOff(there->crank.most95_deg()),
                               degreesOff(there->belt.most95_deg()));
    }
    m_detail->setText(tr("Of 100 sparks of %1 cylinders 95 are within, at the crank / behind the belt: %2. A worn belt "
                         "adds to its own.")
                          .arg(m_engine.cylinders)
                          .arg(speeds.join(QStringLiteral("; "))));
}

} // namespace vicegrip::app
