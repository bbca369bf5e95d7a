#pragma once

/// What does an ECU say of its inputs on a CAN bus, where a database file describes its frames?
#include "core/stream/listener.h" // what a frame tells, as numbers in SI
#include "core/stream/match.h" // which signal stands for which circuit
