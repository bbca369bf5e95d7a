#pragma once

#include "core/job/job.h"

/// How a unit comes onto the ECU's bus.
namespace vicegrip::harness {

/// Joins the first bus port of an expander or a gateway to the ECU's bus: a circuit whose device is that port, seated
/// on the first port of the ECU and locked there, with its pair drawn. Nothing where either has no port.
void joinPort(job::Job& job, const parts::Ecu& unit);

} // namespace vicegrip::harness
