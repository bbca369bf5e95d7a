#include "app/stages/ahead/ahead_page.h"

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
    case Stage::Start:
        return {tr("May it be powered, cranked, run?"),
                {tr("A run sheet with hold points and limits computed for this job."), tr("Log review afterwards.")}};
    default:
        return {};
    }
}

} // namespace

AheadPage::AheadPage(Desk& desk, Stage stage, QWidget* parent) : StagePage(desk, parent)
{
    const Promise promise = promiseOf(stage);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(look::kMargin, look::kMargin, look::kMargin, look::kMargin);
    column->setSpacing(look::kGap);
    column->addWidget(label(said(analysis::stageName(stage)), look::Size::Small, false, true));
    column->addWidget(label(promise.question, look::Size::Title, true));
    column->addWidget(label(tr("This stage is not built yet. It will do this:"), look::Size::Body, false, true));
    for (const QString& line : promise.will)
        column->addWidget(label(QStringLiteral("–  ") + line, look::Size::Body));
    column->addStretch();
}

} // namespace vicegrip::app
