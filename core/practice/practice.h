#pragma once

/// The practice bench: a car with faults that nobody is told, a complaint, and what the work was worth.
#include "core/practice/candidates.h" // what a learner can name
#include "core/practice/debrief.h" // what was done, step by step, beside what the finder would have done
#include "core/practice/returning.h" // which kinds of faults come again, and when
#include "core/practice/round.h" // what is wrong this time, and what the driver says of it
