#pragma once

#include "bench/drives.h"

#include <QByteArray>

/// What hands do, as one JSON object a line (docs/formats.md). Several members may stand in one request.
///
///     {"condition": "key-on"}  {"red": "A.7", "black": "BAT-"}  {"measurand": {"clt": 353.15}}  {"ambient_k": 295.15}
///     {"tips": [["A.13", "BAT-"], ["A.14", "BAT-"]]}
///     {"mended": ["wire w20"]}  {"hands": ["FP", "wire w20"]}
///     {"drive": "evening.csv"}  {"driven": true}
///
/// The reply is {"ok": true} or {"error": "the car has no place \"A.99\""}.
namespace vicegrip::bench {

[[nodiscard]] QByteArray control(Car& car, Drives& drives, const QByteArray& request);

} // namespace vicegrip::bench
