#pragma once

/// What the facts of an engine ask for.
#include "core/brief/air_fuel.h" // the scale of an air-fuel ratio
#include "core/brief/air_method.h" // ways of knowing the air, side by side
#include "core/brief/atmosphere.h" // the barometer at an altitude
#include "core/brief/banks.h" // which cylinder is on which side
#include "core/brief/driven_needs.h" // injectors, coils and what is switched
#include "core/brief/firing_order.h" // which cylinder fires when, and which move together
#include "core/brief/functions.h" // what circuits can do for an engine
#include "core/brief/harness_kind.h" // adapter, taps or a full harness
#include "core/brief/needs.h" // the circuits an engine asks for
#include "core/brief/questions.h" // what must be agreed with the tuner
#include "core/brief/range.h" // which pressure sensor reads everything this engine does
#include "core/brief/siting.h" // where a sensor goes, and why
