#pragma once

#include "app/desk/desk.h"
#include "app/desk/when.h"
#include "core/diagnosis/mend.h"

namespace vicegrip::app {

/// Hands have put this right: it is kept, and what rests on it is to be read again. Whether it was taken.
inline bool keepMend(Desk& desk, const diagnosis::Suspect& suspect)
{
    const job::Mend mend = diagnosis::mendOf(*desk.store.job(), suspect, nowText());
    return desk.store.editOrSay(QObject::tr("Mended"), [&](job::Job& job) { job.mends.push_back(mend); });
}

} // namespace vicegrip::app
