#pragma once

/// Does the crank and cam signal decode, with margin, at this gap?
#include "core/trigger/air_gap.h" // how far a sensor is turned in
#include "core/trigger/cam.h" // the cam's edges beside the crank
#include "core/trigger/channel_look.h" // all that one channel says
#include "core/trigger/edge_due.h" // inside: when an edge is due
#include "core/trigger/edges.h" // the edges of a signal
#include "core/trigger/gap_ratio.h" // how a gap stands out from the speed
#include "core/trigger/mounting.h" // at the crank, or behind a belt
#include "core/trigger/periods.h" // inside: from edge to edge
#include "core/trigger/recognise.h" // which wheel makes them
#include "core/trigger/report.h" // what is made of a signal
#include "core/trigger/sensed.h" // what a sensor makes of a wheel that turns
#include "core/trigger/strip.h" // how a narrow strip lies before the teeth
#include "core/trigger/sync.h" // where the wheel stands, tooth by tooth
#include "core/trigger/tooth_errors.h" // teeth that are not where they should be, and run-out
#include "core/trigger/turning.h" // how fast an engine turns
#include "core/trigger/usual_wheels.h" // wheels that are met in many engines
#include "core/trigger/verdicts.h" // what is right and what is wrong with it
#include "core/trigger/wheel.h" // teeth
