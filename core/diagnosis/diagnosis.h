#pragma once

/// What is wrong with a circuit, and which reading tells most of it for the least work.
#include "core/diagnosis/belief.h" // how likely each suspect is, and what a reading would tell
#include "core/diagnosis/between.h" // sizes that were not solved, from those that were
#include "core/diagnosis/diagnose.h" // the whole of it for one circuit
#include "core/diagnosis/families.h" // how likely what is before anything is read, and why
#include "core/diagnosis/follow.h" // hands that do what it says
#include "core/diagnosis/heard.h" // what the click test says of each suspect
#include "core/diagnosis/mend.h" // what is kept of a mend
#include "core/diagnosis/predictions.h" // what would be read where
#include "core/diagnosis/reach.h" // what a reading costs hands
#include "core/diagnosis/shared.h" // one fault behind several circuits
#include "core/diagnosis/sizes.h" // how large faults may be
#include "core/diagnosis/suspect.h" // what may be wrong
#include "core/diagnosis/suspicions.h" // as they are gathered, with their weights
#include "core/diagnosis/two_at_once.h" // two faults at once
