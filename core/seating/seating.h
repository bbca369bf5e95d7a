#pragma once

/// Which sensor sits on which input, and what is driven from which output.
#include "core/seating/assignment.h" // inside: who sits where, as a pure integer programme
#include "core/seating/compatibility.h" // whether an input can read a sensor, and why not
#include "core/seating/driven_ways.h" // inside: what would get an actuator an output
#include "core/seating/drivers.h" // whether an output can drive an actuator, and why not
#include "core/seating/grouped.h" // inside: what is alike, counted
#include "core/seating/plan.h" // the plan of a job, and the best assignment
#include "core/seating/pull_up.h" // which resistor makes the best voltage
#include "core/seating/ways_out.h" // what would get a sensor a seat
