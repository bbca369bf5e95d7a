#pragma once

/// What does a unit say of itself over its diagnostic plug? Requests and answers of SAE J1979 over CAN.
#include "core/obd/codes.h" // trouble codes, and what they are about
#include "core/obd/described.h" // its values as a database of frames
#include "core/obd/responder.h" // a unit that answers
#include "core/obd/segments.h" // messages in frames (ISO 15765-2)
#include "core/obd/session.h" // who is asked what, when, and what came of it
#include "core/obd/values.h" // numbers of the values asked for
