#pragma once

/// What the frames on a CAN bus mean, from a file that describes them.
#include "core/dbc/bits.h" // a signal's bits in a frame, and back
#include "core/dbc/database.h" // messages, signals, and which of them a frame carries
#include "core/dbc/overlaps.h" // inside: signals in the same bits
#include "core/dbc/read.h" // the file
#include "core/dbc/words.h" // inside: its words, with their line and column
