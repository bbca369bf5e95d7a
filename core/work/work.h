#pragma once

/// What is done where and in which order, before it is buried.
#include "core/work/sites.h" // where things usually sit
#include "core/work/work_order.h" // the order with the fewest changes of place
#include "core/work/work_steps.h" // the steps of a job, what each waits for, and the gates that bury
