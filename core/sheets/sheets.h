#pragma once

/// What is printed to lie beside the work at its own size?
#include "core/sheets/face.h" // a plug's face, both sides, with what is in each cavity
