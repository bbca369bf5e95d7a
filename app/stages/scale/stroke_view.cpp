#include "app/stages/scale/stroke_view.h"

#include "app/desk/when.h"
#include "app/stages/scale/idle_stop.h"
#include "app/stages/scale/stroke_plot.h"
#include "app/views/selected.h"
#include "app/widgets/caution.h"
#include "app/widgets/circuit_text.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "core/throttle/limits.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QShortcut>
#include <QVBoxLayout>
#include <QtConcurrentRun>

namespace vicegrip::app {
namespace {

constexpr look::Px kLeftWidth{300};
constexpr double kShutReads = 0.005; ///< a shut throttle reads 0 within half a percent

QString millivolts(double v)
{
    return text(units::format(v, units::Dimension::Voltage, "mV", 0));
}

} // namespace

StrokeView::StrokeView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_plot(new StrokePlot),
      m_now(figure({}, look::Size::Big)),
      m_verdict(label({}, look::Size::Title, true)),
      m_facts(label({}, look::Size::Body)),
      m_troubles(label({}, look::Size::Body, true)),
      m_calibrated(label({}, look::Size::Small, false, true)),
      m_said(label({}, look::Size::Small))
{
    for (const auto& [widget, name] : {std::pair(m_now, "stroke-now"),
                                       {m_verdict, "stroke-verdict"},
                                       {m_facts, "stroke-facts"},
                                       {m_troubles, "stroke-troubles"},
                                       {m_calibrated, "stroke-calibrated"},
                                       {m_said, "stroke-said"}})
        widget->setObjectName(QLatin1String(name));
    m_facts->setFont(look::numbers(look::Size::Small));
    auto* left = new QVBoxLayout;
    left->setContentsMargins(0, 0, 0, 0);
    left->setSpacing(6_px);
    left->addWidget(m_now);
    left->addWidget(m_verdict);
    left->addWidget(m_facts);
    left->addWidget(m_troubles);
    left->addStretch();
    left->addWidget(m_calibrated);
    auto* leftBox = new QWidget;
    leftBox->setLayout(left);
    leftBox->setFixedWidth(kLeftWidth);
    auto* upper = new QHBoxLayout;
    upper->setSpacing(look::kMargin);
    upper->addWidget(leftBox);
    upper->addWidget(m_plot, 1);
    auto* caution = new Caution;
    caution->setText(tr("Engine off, key on. Keep fingers and rags clear of the plate: a by-wire throttle can move by "
                        "itself."));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, look::kGap, 0, 0);
    column->addLayout(upper, 1);
    column->addWidget(caution);
    column->addWidget(m_said);
    buildButtons(column);
    connect(&m_desk.live, &Live::heard, this, &StrokeView::hear);
}

void StrokeView::buildButtons(QVBoxLayout* column)
{
    m_record = new KeyButton(tr("Record"), tr("Space"), true);
    m_teach = new KeyButton(tr("Take limits"), tr("T"), false);
    m_open = new KeyButton(tr("Open file"), tr("O"), false);
    m_screw = new IdleStop(m_desk);
    connect(m_screw, &IdleStop::said, this, &StrokeView::say);
    auto* row = new QHBoxLayout;
    const auto add = [&](KeyButton* button, const char* name, Qt::Key key, auto act) {
        button->setObjectName(QLatin1String(name));
        row->addWidget(button);
        connect(button, &QAbstractButton::clicked, this, act);
        connect(new QShortcut(QKeySequence(key), this), &QShortcut::activated, button, &QAbstractButton::click);
    };
    add(m_record, "stroke-record", Qt::Key_Space, [this] { record(); });
    add(m_teach, "stroke-teach", Qt::Key_T, [this] { teach(); });
    add(m_open, "stroke-open", Qt::Key_O, [this] {
        const QString path = QFileDialog::getOpenFileName(this, tr("Open a recording"), m_desk.store.path(),
                                                          tr("Columns of numbers (*.csv *.txt *.tsv);;All files (*)"));
        if (!path.isEmpty())
            readFile(path);
    });
    add(m_screw, "stroke-screw", Qt::Key_M, [this] { m_screw->press(); });
    row->addStretch();
    column->addLayout(row);
}

/// The next circuit of the same kind; two tracks of one shaft stand side by side in a job.
const job::Circuit* StrokeView::partner() const
{
    const auto job = m_desk.store.job();
    const job::Circuit* c = selectedCircuit(m_desk);
    const parts::Part* s = c == nullptr ? nullptr : job::sensorOf(*job, *c);
    for (const job::Circuit& other : job->circuits) {
        const parts::Part* o = job::sensorOf(*job, other);
        if (s != nullptr && o != nullptr && other.id != c->id && o->kind == s->kind && !other.input.empty())
            return &other;
    }
    return nullptr;
}

void StrokeView::hear(const QList<stream::Heard>& all)
{
    if (!m_recording)
        return;
    const job::Circuit* second = partner();
    const int mine = inputIndex(*m_desk.store.job(), m_shown);
    const int others = second == nullptr ? -1 : inputIndex(*m_desk.store.job(), second->id);
    for (const stream::Heard& s : all) {
        if (s.tells != job::Tells::Volts)
            continue;
        const double now = s.time_s - m_began_s.value_or(s.time_s);
        if (s.input == others)
            m_pair.second(m_strokes, now, s.value);
        if (s.input != mine || (!m_strokes.time_s.empty() && now <= m_strokes.time_s.back()))
            continue;
        m_began_s = m_began_s.value_or(s.time_s);
        m_strokes.time_s.push_back(now);
        m_strokes.volts.push_back(s.value);
    }
}

void StrokeView::record()
{
    if (m_recording) {
        m_recording = false;
        m_pair.close(m_strokes);
        take(judged(*m_desk.store.job(), m_shown, m_strokes));
        return;
    }
    if (const QString past = m_desk.live.notOfNow(); !past.isEmpty()) {
        say(past, true);
        return;
    }
    if (!m_desk.live.ecuLive()) {
        say(tr("There is no link to the ECU: start the bench or connect it, or open a recording."), true);
        return;
    }
    m_reading = false;
    m_strokes = {};
    m_report.reset();
    m_pair = {};
    m_began_s.reset();
    m_recording = true;
    say(tr("Shut, hold for a second; slowly to the stop, hold; back, hold. Twice. Then Space."));
    showReport();
}

/// What is made of a recording for this circuit.
Result<throttle::Report> StrokeView::judged(const job::Job& job, const job::CircuitId& id,
                                            const throttle::Recording& strokes)
{
    const job::Circuit* c = job::find(job, id);
    const parts::EcuInput* input = c == nullptr ? nullptr : job::findInput(job, c->input);
    constexpr size_t kFewest = 20;
    if (input == nullptr || strokes.volts.size() < kFewest)
        return fail(ErrorCode::Range, tr("Too little was recorded: stroke it from stop to stop.").toStdString());
    return throttle::reportOn(strokes, electrics::countVolts(job, *input));
}

void StrokeView::take(Result<throttle::Report> report)
{
    m_report.reset();
    if (report) {
        m_report = std::move(*report);
        say({});
    } else {
        say(text(report.error().sentence), true);
    }
    showReport();
}

/// Beside the window's thread: a logger's file may hold millions of rows.
void StrokeView::readFile(const QString& path)
{
    m_recording = false;
    m_reading = true;
    say(tr("Reading %1").arg(QFileInfo(path).fileName()));
    const auto read = [path = path.toStdString(), job = m_desk.store.job(), id = m_shown]() -> Result<Opened> {
        return readNumberFile(path, 2)
            .and_then([](const NumberTable& table) { return throttle::recordingFrom(table); })
            .map([&](throttle::Recording&& strokes) {
                auto report = judged(*job, id, strokes);
                return Opened{std::move(strokes), std::move(report)};
            });
    };
    QtConcurrent::run(read).then(this, [this, path, mine = ++m_files, id = m_shown](Result<Opened> opened) {
        if (!m_reading || mine != m_files || id != m_shown)
            return; // another file was opened since, or another circuit chosen
        m_reading = false;
        if (!opened) { // what was there stays
            Error error = opened.error();
            error.place.file = QFileInfo(path).fileName().toStdString(); // of the folder is no room to tell
            say(text(error.text()), true);
            return;
        }
        m_strokes = std::move(opened->strokes);
        take(std::move(opened->report));
    });
}

void StrokeView::teach()
{
    const job::Circuit* c = selectedCircuit(m_desk);
    if (!m_report || c == nullptr)
        return;
    const auto& r = *m_report;
    const auto facts = job::facts(*m_desk.store.job());
    const auto paths = electrics::Wiring(*m_desk.store.job()).paths(*c);
    const job::ThrottleLimits limits = throttle::calibrated({.closed_v = r.limits.closed_v,
                                                             .open_v = r.limits.open_v,
                                                             .closedRest_v = r.closed_v,
                                                             .openRest_v = r.open_v,
                                                             .noise_v = r.noise_v,
                                                             .strokes = r.strokes,
                                                             .when = nowText(),
                                                             .screwMoved = {},
                                                             .restsOn = {},
                                                             .extra = nlohmann::json::object()},
                                                            facts, *c, paths);
    const QString what =
        tr("limits calibrated, %1 closed and %2 open").arg(voltsText(limits.closed_v), voltsText(limits.open_v));
    const auto kept = m_desk.store.edit(tr("Limits of %1").arg(text(c->name)), [&](job::Job& job) {
        job::Circuit& changed = *job::find(job, c->id);
        changed.limits = limits;
        job::note(job, limits.when, c->id.value, c->name + ": " + what.toStdString());
    });
    say(kept ? tr("Taken. The table of this input runs from stop to stop now: send it to the ECU.")
             : text(kept.error().sentence),
        !kept);
}

void StrokeView::refresh()
{
    if (m_shown != m_desk.selection.circuit()) { // another circuit, another hand
        m_shown = m_desk.selection.circuit();
        m_screw->hear({});
        m_recording = false;
        m_reading = false;
        m_strokes = {};
        m_report.reset();
        say({});
    }
    showReport();
    refreshLive();
}

void StrokeView::showReport()
{
    m_plot->show(m_strokes, m_report ? &*m_report : nullptr);
    m_record->setText(m_recording ? tr("Stop") : tr("Record"));
    m_teach->setEnabled(m_report.has_value());
    showTaught();
    m_troubles->clear();
    if (!m_report) {
        m_verdict->setText(m_recording ? tr("Recording") : tr("Two slow full strokes"));
        m_facts->setText(m_recording
                             ? QString()
                             : tr("From rest at the stop to rest at the other and back, twice, with a second at "
                                  "each end."));
        return;
    }
    const auto& r = *m_report;
    QStringList troubles;
    const auto job = m_desk.store.job();
    const auto* view = analysis::find(*m_desk.store.analysis(), m_shown);
    const bool shouldFall = view != nullptr && view->travel && view->travel->reading < 0;
    if (r.falls != shouldFall)
        troubles << tr("Reversed: it reads %1 closed and %2 open. %3")
                        .arg(voltsText(r.closed_v), voltsText(r.open_v), exchangeText());
    for (const throttle::DeadSpot& d : r.deadSpots)
        troubles << (d.strokes > 1 ? tr("Dead spot at %1, %2 deep, in %3 of %4 strokes: the track is worn there.")
                                   : tr("Lost once at %1, %2 deep, in %3 of %4 strokes: wiggle the plug and wire."))
                        .arg(voltsText(d.volts), voltsText(d.depth_v))
                        .arg(d.strokes)
                        .arg(r.strokes);
    const double travel = std::abs(r.travel_v());
    if (r.closedSpread_v > 0.01 * travel)
        troubles << tr("Shut, it rests anywhere within %1: plate, cable or spring does not quite shut it.")
                        .arg(millivolts(r.closedSpread_v));
    if (r.pair && r.pair->worst_v > 0.03 * travel)
        troubles << tr("The tracks disagree by up to %1.").arg(millivolts(r.pair->worst_v));
    m_verdict->setText(troubles.isEmpty() ? tr("Good: %1 strokes agree").arg(r.strokes)
                                          : tr("%1 strokes, something is wrong").arg(r.strokes));
    setInk(m_verdict, troubles.isEmpty() ? look::colours().done : look::colours().failing);
    m_troubles->setText(troubles.join(QStringLiteral("\n")));
    setInk(m_troubles, look::colours().failing);
    QString facts =
        tr("closed %1 ± %2\nopen   %3 ± %4\nnoise %5\nlimits %6 to %7")
            .arg(voltsText(r.closed_v), millivolts(r.closedSpread_v / 2), voltsText(r.open_v),
                 millivolts(r.openSpread_v / 2), text(units::format(r.noise_v, units::Dimension::Voltage, "mV", 1)),
                 voltsText(r.limits.closed_v), voltsText(r.limits.open_v));
    if (r.pair)
        facts += tr("\ntrack 2 %1 V/V, within %2")
                     .arg(text(units::formatNumber(r.pair->slope, 3)), millivolts(r.pair->worst_v));
    m_facts->setText(facts);
}

/// Where a potentiometer or transducer reads backwards, its supply and ground are exchanged.
QString StrokeView::exchangeText() const
{
    const auto job = m_desk.store.job();
    const job::Circuit* c = selectedCircuit(m_desk);
    const job::Device* device = c == nullptr ? nullptr : job::find(*job, c->device);
    const parts::Part* sensor = c == nullptr ? nullptr : job::sensorOf(*job, *c);
    if (device == nullptr || sensor == nullptr)
        return {};
    const std::string supply = parts::cavityOf(*sensor, parts::PinRole::Supply),
                      ground = parts::cavityOf(*sensor, parts::PinRole::Ground);
    if (supply.empty() || ground.empty())
        return {};
    return tr("Exchange %1 and %2.")
        .arg(text(job::spoken(*job, {device->connector, supply})),
             text(job::spoken(*job, {device->connector, ground})));
}

void StrokeView::showTaught()
{
    const job::Circuit* c = selectedCircuit(m_desk);
    m_screw->tell();
    if (c == nullptr || !c->limits) {
        m_calibrated->setText(
            tr("No limits have been calibrated yet: until then a shut throttle may read as a third open."));
        return;
    }
    const auto stale = throttle::staleLimits(job::facts(*m_desk.store.job()), *c->limits);
    QString said =
        tr("Calibrated: %1 closed, %2 open, %3.")
            .arg(voltsText(c->limits->closed_v), voltsText(c->limits->open_v), text(c->limits->when.substr(0, 10)));
    if (stale)
        said += tr(" Stale: %1.").arg(text(*stale));
    m_calibrated->setText(said);
    setInk(m_calibrated, stale ? look::colours().stale : look::colours().inkSoft);
}

void StrokeView::refreshLive()
{
    const job::Circuit* c = selectedCircuit(m_desk);
    const auto volts = c == nullptr ? std::nullopt : m_desk.live.volts(*m_desk.store.job(), *c);
    m_screw->hear(volts);
    if (!m_recording)
        m_screw->tell();
    if (!volts) {
        m_now->setText(c == nullptr ? QStringLiteral("–")
                                    : m_desk.live.missing(*m_desk.store.job(), *c, proof::StationKind::Input,
                                                          QStringLiteral("–")));
        setInk(m_now, look::colours().inkSoft);
    } else if (c != nullptr && c->limits) {
        const double share = (*volts - c->limits->closed_v) / (c->limits->open_v - c->limits->closed_v);
        m_now->setText(QStringLiteral("%1 %").arg(std::clamp(share, 0.0, 1.0) * 100, 0, 'f', 1));
        setInk(m_now, share <= kShutReads ? look::colours().done : look::colours().ink);
    } else {
        m_now->setText(voltsText(*volts));
        setInk(m_now, look::colours().ink);
    }
    if (m_recording)
        m_plot->show(m_strokes, nullptr);
}

void StrokeView::say(const QString& sentence, bool bad)
{
    m_said->setText(sentence);
    setInk(m_said, bad ? look::colours().failing : look::colours().ink);
}

} // namespace vicegrip::app
