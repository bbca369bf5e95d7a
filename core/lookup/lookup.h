#pragma once

/// What is called that, and where is it? Everything of a job that has a name, found by what somebody types of it.
#include "core/lookup/entries.h" // what a job has that can be looked for
#include "core/lookup/search.h" // which of it somebody means, best first
