#include "core/recording/column.h"

#include "core/scaling/table.h"

namespace vicegrip::recording {

using job::Tells;

std::vector<Column> columnsOf(const job::Job& job)
{
    std::vector<Column> out;
    const auto inputs = job::inputs(job);
    for (size_t i = 0; i < inputs.size(); ++i) {
        const job::Circuit* circuit = job::seatedOn(job, inputs[i]->id);
        const parts::Part* sensor = circuit == nullptr ? nullptr : job::sensorOf(job, *circuit);
        const auto add = [&](Tells tells, units::Dimension measures, const std::string& unit) {
            out.push_back({static_cast<int>(i), inputs[i]->id, tells, measures, unit});
        };
        if (sensor != nullptr)
            add(Tells::Value, sensor->measures, scaling::unitOf(*sensor, circuit->scaling));
        add(Tells::Volts, units::Dimension::Voltage, "V");
        add(Tells::Counts, units::Dimension::Counts, {});
        if (sensor != nullptr && parts::pulsesOf(*sensor)) {
            add(Tells::Hertz, units::Dimension::Frequency, "Hz");
            add(Tells::LowTime, units::Dimension::Ratio, "s");
        }
    }
    return out;
}

std::string heading(const Column& column)
{
    const std::string what = column.name.value + " " + std::string(fields::enumName(column.tells));
    return column.unit.empty() ? what : what + " (" + column.unit + ")";
}

double toColumn(const Column& column, double si)
{
    return column.tells == Tells::Value ? units::toUnit(si, column.measures, column.unit) : si;
}

double fromColumn(const Column& column, double value)
{
    return column.tells == Tells::Value ? units::fromUnit(value, column.measures, column.unit) : value;
}

} // namespace vicegrip::recording
