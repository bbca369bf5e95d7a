#pragma once

#include "app/desk/linking.h"
#include "app/desk/practising.h"
#include "app/desk/promises.h"
#include "app/desk/selection.h"
#include "app/live/live.h"
#include "app/store/job_store.h"
#include "app/store/preferences.h"
#include "app/widgets/text.h"

namespace vicegrip::app {

/// What every view works with.
struct Desk
{
    JobStore& store;
    Live& live;
    Selection& selection;
    Promises& promises;
    Preferences& preferences;
    Practice& practice;
    Linking& linking;
};

} // namespace vicegrip::app
