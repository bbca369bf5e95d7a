#pragma once

#include "core/parts/kinds/bus_device.h"
#include "core/parts/kinds/contact.h"
#include "core/parts/kinds/lamp.h"
#include "core/parts/kinds/motor.h"
#include "core/parts/kinds/open_collector.h"
#include "core/parts/kinds/potentiometer.h"
#include "core/parts/kinds/ratiometric.h"
#include "core/parts/kinds/resistive.h"
#include "core/parts/kinds/stepper.h"
#include "core/parts/kinds/thermistor_kind.h"
#include "core/parts/kinds/triggered.h"
#include "core/parts/kinds/variable_reluctance.h"
#include "core/parts/kinds/voltage_device.h"
#include "core/parts/kinds/winding.h"

#include <variant>

/// Every kind of device there is.
namespace vicegrip::parts {

using Model = std::variant<Thermistor, Potentiometer, RatiometricTransducer, VoltageDevice, Resistive, OpenCollector,
                           VariableReluctance, Contact, Winding, Motor, Stepper, Lamp, Triggered, BusDevice>;

} // namespace vicegrip::parts
