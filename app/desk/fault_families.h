#pragma once

#include "core/base/shipped.h"
#include "core/diagnosis/families.h"

namespace vicegrip::app {

/// How likely what goes wrong is, as shipped; read once.
[[nodiscard]] inline const Result<diagnosis::Families>& faultFamilies()
{
    static const auto kAll = diagnosis::readFamiliesFile(shippedFolder() / "diagnosis" / "families.json");
    return kAll;
}

} // namespace vicegrip::app
