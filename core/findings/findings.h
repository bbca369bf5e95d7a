#pragma once

/// What is wrong with a job, and what to do.
#include "core/findings/back_feed.h" // what keeps a unit awake
#include "core/findings/brief_checks.h" // facts of the brief that cannot be
#include "core/findings/bus_checks.h" // the ends of a bus, and what hangs too far from it
#include "core/findings/checks.h" // every check of a circuit and of the car
#include "core/findings/drive_checks.h" // what the ECU drives, and whether its output can
#include "core/findings/end_checks.h" // where conductors end
#include "core/findings/feed_checks.h" // what hangs on each fuse
#include "core/findings/finding.h" // what a finding says
#include "core/findings/harness_checks.h" // the wires themselves
#include "core/findings/lead_checks.h" // where shields land
#include "core/findings/pin_checks.h" // terminals, seals and cavities
#include "core/findings/power_checks.h" // feeds, grounds, fuses and relays
#include "core/findings/scale_checks.h" // values, limits and readings
#include "core/findings/seat_checks.h" // seats, pull-ups and ranges
#include "core/findings/shared_checks.h" // what hangs together that should not
