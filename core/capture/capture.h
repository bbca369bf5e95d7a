#pragma once

/// What a scope, a logic analyser or a sound card saw, from their files.
#include "core/capture/columns.h" // columns of numbers
#include "core/capture/overview.h" // the extent of any stretch of it
#include "core/capture/read_capture.h" // any of the files
#include "core/capture/seen.h" // channels over time
#include "core/capture/vcd.h" // changes of logic signals (IEEE 1364)
#include "core/capture/wave_file.h" // sound
#include "core/capture/write_capture.h" // and back
