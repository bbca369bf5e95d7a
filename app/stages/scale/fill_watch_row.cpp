#include "app/stages/scale/fill_watch_row.h"

#include "app/desk/when.h"
#include "app/look/look.h"
#include "app/widgets/circuit_text.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"

#include <QHBoxLayout>

namespace vicegrip::app {

FillWatchRow::FillWatchRow(Desk& desk, QWidget* parent)
    : QWidget(parent), m_desk(desk), m_says(label({}, look::Size::Body))
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(look::kGap);
    m_key = KeyButton::bound(this, "fill-poured", tr("It is in, and idles"), Qt::Key_W, false);
    m_says->setObjectName(QStringLiteral("fill-watched"));
    row->addWidget(m_key, 0, Qt::AlignTop);
    row->addWidget(m_says, 1);
    connect(m_key, &QAbstractButton::clicked, this, [this] { isWatching() ? end() : begin(); });
    plan({}, {});
}

void FillWatchRow::plan(const std::optional<fuel::Pour>& pour, const std::optional<fuel::Settling>& settling)
{
    m_planned = pour;
    m_plannedCurve = settling;
    if (isWatching())
        return;
    m_key->setVisible(pour && settling);
    m_says->setText(pour && settling ? tr("Once it is poured in and the engine idles, what the sensor shows is watched "
                                          "against this curve.")
                                     : QString());
    setInk(m_says, look::colours().inkSoft);
}

void FillWatchRow::begin()
{
    m_pour = m_planned;
    m_curve = m_plannedCurve;
    if (!m_pour || !m_curve)
        return;
    m_shown.clear();
    m_since.start();
    m_key->setText(tr("Stop watching"));
    m_key->updateGeometry();
    m_says->setText(tr("Nothing is heard of the sensor yet: connect the ECU, or type its frequency."));
    setInk(m_says, look::colours().ink);
    if (m_desk.live.bench().isReady())
        m_desk.live.bench().pour(m_pour->in.volume_m3, m_pour->add.volume_m3, m_pour->add.ethanol);
    emit moved();
}

void FillWatchRow::end()
{
    m_pour.reset();
    m_shown.clear();
    m_key->setText(tr("It is in, and idles"));
    m_key->updateGeometry();
    plan(m_planned, m_plannedCurve);
    emit moved();
}

void FillWatchRow::hear(std::optional<double> content)
{
    if (!isWatching() || !content)
        return;
    m_shown.push_back({static_cast<double>(m_since.elapsed()) / 1000, *content});
    if (const auto watched = fuel::watchFill(m_shown, *m_curve, *m_pour))
        take(*watched);
    emit moved();
}

/// What it came to is kept: the watch is over, and its curve stays in view.
void FillWatchRow::take(const fuel::Watched& watched)
{
    using State = fuel::Watched::State;
    const auto& c = look::colours();
    const double readyFor = m_desk.store.job()->tank.value_or(job::Tank{}).readyFor;
    QString says = text(watched.sentence);
    const bool isTooMuch = watched.now > readyFor + fuel::kSameContent;
    if (isTooMuch)
        says = tr("Stop the engine: %1 ethanol, and the calibration is ready for %2. ")
                   .arg(percentText(watched.now, 1), percentText(readyFor, 0)) +
               says;
    m_says->setText(says);
    setInk(m_says, isTooMuch || watched.state == State::Unmoved || watched.state == State::Elsewhere ? c.failing
                   : watched.state == State::AsSaid                                                  ? c.done
                                                                                                     : c.ink);
    if (watched.state != State::AsSaid && watched.state != State::Elsewhere)
        return;
    m_desk.store.editOrSay(tr("What the fill came to"), [&](job::Job& job) {
        job::note(job, nowText(), m_desk.selection.circuit().value, "Flex fuel, after a fill: " + watched.sentence);
    });
    m_pour.reset();
    m_key->setText(tr("It is in, and idles"));
    m_key->updateGeometry();
}

} // namespace vicegrip::app
