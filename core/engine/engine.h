#pragma once

/// A small engine, for a bench that must warm up, idle, fail to start, and be driven for a log: what it feels like to
/// its sensors, and what an ECU does with what it reads of them.
///
///     Plant plant(figuresOf(job.brief), around);
///     Program program(plant.figures(), around.barometer_pa);
///     const Commands c = program.act(0.02, read, true);      // read: what the inputs told, not what is
///     plant.pass(0.02, moved, around);                       // moved: the commands, and what the wiring made of them
///
/// Between the two stand sensors, wires and tables: their faults are what the engine runs by.
#include "core/engine/air.h" // through a plate, into cylinders
#include "core/engine/drive.h" // what a driver does of an evening
#include "core/engine/figures.h" // what an engine is made of
#include "core/engine/plant.h" // torque, air, mixture, heat
#include "core/engine/program.h" // what the ECU does
#include "core/engine/tank.h" // fuel poured in, until a sensor sees it
#include "core/engine/warming.h" // coolant, oil and gearbox
