#pragma once

/// The wiggle test, for what comes and goes: the input is watched while hands move one place after another, and what
/// lets go is named by the marks that explain its drop-outs, and by how deep they are.
///
///     wiggle::Watch watch(grain);
///     watch.handsAt(now, 2); watch.hear(now, volts); ...      // as they come
///     wiggle::judge(job, circuit, holds, watch).says          // "5 of 6 drop-outs came with hands there, ..."
#include "core/wiggle/blame.h" // which place explains the drop-outs
#include "core/wiggle/holds.h" // where hands go, and what may let go there
#include "core/wiggle/kept.h" // what a job keeps of it, and what that is worth today
#include "core/wiggle/watch.h" // drop-outs in what the input says
