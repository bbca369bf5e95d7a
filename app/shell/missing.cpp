#include "app/shell/missing.h"

#include <QCoreApplication>

namespace vicegrip::app {

using analysis::Stage;

std::optional<Missing> missingFor(Stage stage, const job::Job& job)
{
    const auto tr = [](const char* words) { return QCoreApplication::translate("Missing", words); };
    if (stage == Stage::Pins && job.connectors.empty())
        return Missing{tr("There is no plug to pin yet"),
                       tr("The ECU brings its plugs, and every circuit that the brief asks for brings its sensor's."),
                       tr("Go to Brief"), Stage::Brief};
    if ((stage == Stage::Meter || stage == Stage::Scale) && job.circuits.empty())
        return Missing{tr("There is no circuit yet"), tr("The brief says which circuits this engine needs."),
                       tr("Go to Brief"), Stage::Brief};
    return std::nullopt;
}

} // namespace vicegrip::app
