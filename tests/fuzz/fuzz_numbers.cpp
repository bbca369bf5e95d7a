#include "core/fit/line.h"
#include "core/fuel/blend.h"
#include "core/road_speed/road_speed.h"
#include "core/scaling/exchange.h"
#include "core/scaling/pairs.h"
#include "core/throttle/strokes.h"
#include "core/trigger/wheel.h"
#include "core/units/shown.h"

#include <cmath>
#include <cstdint>
#include <cstdlib>

using namespace vicegrip;

/// Any bytes as columns of numbers, a recording of strokes, a table for an ECU, readings, a tyre and a fill: what is
/// taken is whole, what is judged is finite, and a table looks up everywhere.
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, size_t size)
{
    const std::string_view text(reinterpret_cast<const char*>(data), size); // NOLINT: bytes are characters here
    if (const auto table = readNumbers(text, 2)) {
        if (table->cells.size() != table->size() * table->columns)
            std::abort();
        if (const auto recording = throttle::recordingFrom(*table))
            if (const auto report = throttle::reportOn(*recording, 5.0 / 4095); report && !(report->noise_v > 0))
                std::abort();
        std::vector<fit::Point> points;
        for (size_t i = 0; i < table->size(); ++i)
            points.push_back({table->row(i)[0], table->row(i)[1]});
        (void)fit::fitLine(points);
    }
    parts::Part sensor;
    sensor.unit = "°C";
    if (const auto table = scaling::readTable(text, sensor, {}, 5.0 / 4095)) {
        for (double volts = -1; volts < 6; volts += 0.25)
            (void)scaling::lookUp(*table, volts);
        (void)scaling::difference(*table, *table, 0.001);
    }
    scaling::Table cubic;
    cubic.formula = scaling::Formula{};
    if (const auto held = scaling::readHeld(text, cubic, sensor, {}, 5.0 / 4095); held && held->formula)
        for (double volts = -1; volts < 6; volts += 0.25)
            (void)scaling::lookUp(*held, volts);
    for (const units::System system : {units::System::Metric, units::System::US}) {
        if (!units::setShown({system, {}}))
            std::abort();
        for (const auto& [dimension, unit] : {std::pair(units::Dimension::Temperature, "°C"),
                                              {units::Dimension::GaugePressure, "bar"},
                                              {units::Dimension::Length, "m"},
                                              {units::Dimension::Area, "mm²"},
                                              {units::Dimension::Lambda, "λ"}})
            for (const auto& read :
                 {units::parseShown(text, dimension, unit), units::parsePasted(text, dimension, unit)})
                if (read && (!std::isfinite(*read) || !units::inRange(*read, dimension, unit)))
                    std::abort();
    }
    if (const auto fill = fuel::parseFill(text);
        fill && !(fill->volume_m3 >= 0 && fill->ethanol >= 0 && fill->ethanol <= 1))
        std::abort();
    for (const auto& line : scaling::readPairs(text, sensor, {}))
        if (line.sentence.empty() || (line.pair && !std::isfinite(line.pair->volts)))
            std::abort();
    if (const auto wheel = trigger::readWheel(text)) // teeth follow one another round the turn
        for (const double step : trigger::stepsOf(*wheel, false))
            if (!(step > 0 && step <= wheel->turn_deg))
                std::abort();
    if (const auto tyre = road_speed::parseTyre(text); tyre && !(tyre->rolling_m() > 0.5 && tyre->rolling_m() < 6))
        std::abort();
    return 0;
}
