#include "app/stages/ahead/ahead_page.h"

#include "app/widgets/circuit_text.h"
#include "app/widgets/labels.h"

#include <QVBoxLayout>

namespace vicegrip::app {
namespace {

using analysis::Stage;

struct Promise
{
    QString question;
    QStringList will;
};

Promise promiseOf(Stage stage)
{
    const auto tr = [](const char* words) { return AheadPage::tr(words); };
    switch (stage) {
    case Stage::Pins:
        return {tr("Which wire, which terminal, which cavity, in which order of hands?"),
                {tr("The next pin, readable from two metres, counted from the printed number."),
                 tr("Cut list, sleeves, grommets and a shopping list from the same wires.")}};
    case Stage::Trigger:
        return {tr("Does the crank and cam signal decode, with margin, at this gap?"),
                {tr("Wheel, waveform and decode on one crank angle."),
                 tr("Run-out, noise margin, air gap in turns of the thread.")}};
    case Stage::Start:
        return {tr("May it be powered, cranked, run?"),
                {tr("A run sheet with hold points and limits computed for this job."), tr("Log review afterwards.")}};
    case Stage::Handover:
        return {tr("The build book and the tuner's packet."),
                {tr("What was fitted, proved and changed, with readings and dates."),
                 tr("What to check again after new firmware.")}};
    default:
        return {};
    }
}

/// What the job holds of the selected circuit that this stage will work with.
QString knownOf(Stage stage, const job::Job& job, const job::Circuit* circuit)
{
    if (circuit == nullptr)
        return {};
    const QString name = text(circuit->name);
    switch (stage) {
    case Stage::Pins:
        return AheadPage::tr("The job holds %1 wires. The thread below shows those of %2, with their colours.")
            .arg(job.wires.size())
            .arg(name);
    case Stage::Handover:
        return AheadPage::tr("The job holds %1 readings, each with its date and what it rests on.")
            .arg(job.proofs.size());
    default:
        return {};
    }
}

} // namespace

AheadPage::AheadPage(Desk& desk, Stage stage, QWidget* parent)
    : StagePage(desk, parent), m_stage(stage), m_known(label({}, look::Size::Body))
{
    const Promise promise = promiseOf(stage);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(look::kMargin, look::kMargin, look::kMargin, look::kMargin);
    column->setSpacing(look::kGap);
    column->addWidget(label(text(analysis::stageName(stage)), look::Size::Small, false, true));
    column->addWidget(label(promise.question, look::Size::Title, true));
    column->addWidget(label(tr("This stage is not built yet. It will do this:"), look::Size::Body, false, true));
    for (const QString& line : promise.will)
        column->addWidget(label(QStringLiteral("–  ") + line, look::Size::Body));
    column->addSpacing(look::kGap);
    column->addWidget(m_known);
    column->addStretch();
}

void AheadPage::refresh()
{
    const auto job = m_desk.store.job();
    m_known->setText(knownOf(m_stage, *job, job::find(*job, m_desk.selection.circuit())));
}

} // namespace vicegrip::app
