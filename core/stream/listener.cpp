#include "core/stream/listener.h"

#include "core/scaling/table.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::stream {
namespace {

using job::Tells;

/// Seconds, as databases write them.
std::optional<double> seconds(const std::string& unit)
{
    if (unit.empty() || unit == "s" || unit == "sec")
        return 1;
    if (unit == "ms" || unit == "msec")
        return 1e-3;
    if (unit == "us" || unit == "µs" || unit == "usec")
        return 1e-6;
    return std::nullopt;
}

const dbc::Signal* find(const dbc::Database& database, const Ear& ear, const dbc::Message*& in)
{
    for (const dbc::Message& m : database.messages()) {
        if (m.name != ear.message)
            continue;
        in = &m;
        const auto found = std::ranges::find(m.carries, ear.signal, &dbc::Signal::name);
        return found == m.carries.end() ? nullptr : &*found;
    }
    return nullptr;
}

Ear earOf(const job::Circuit& circuit, const parts::Part& sensor)
{
    Ear ear;
    ear.measures = sensor.measures;
    ear.otherwise = scaling::unitOf(sensor, circuit.scaling);
    return ear;
}

} // namespace

std::optional<ToSi> toSi(Tells tells, units::Dimension measures, const std::string& unit)
{
    const auto in = [&](units::Dimension dimension) -> std::optional<ToSi> {
        if (unit.empty())
            return ToSi{};
        if (!units::measures(unit, dimension))
            return std::nullopt;
        const double zero = units::fromUnit(0, dimension, unit);
        return ToSi{units::fromUnit(1, dimension, unit) - zero, zero};
    };
    switch (tells) {
    case Tells::Volts:
        return in(units::Dimension::Voltage);
    case Tells::Value:
        return in(measures);
    case Tells::Counts:
        return ToSi{};
    case Tells::Hertz:
        return in(units::Dimension::Frequency);
    case Tells::LowTime:
        if (const auto scale = seconds(unit))
            return ToSi{*scale, 0};
        break;
    }
    return std::nullopt;
}

std::vector<Ear> earsOf(const job::Job& job)
{
    std::vector<Ear> out;
    for (const job::Circuit& c : job.circuits) {
        const parts::Part* sensor = job::sensorOf(job, c);
        const auto input = job::inputIndex(job, c.input);
        if (sensor == nullptr || !input)
            continue;
        for (const job::Told& told : c.told) {
            if (told.input != c.input)
                continue;
            Ear& ear = out.emplace_back(earOf(c, *sensor));
            ear.input = *input;
            ear.tells = told.tells;
            ear.message = told.message;
            ear.signal = told.signal;
            ear.unit = told.unit;
        }
    }
    return out;
}

std::vector<Ear> benchEars(const job::Job& job)
{
    std::vector<Ear> out;
    const auto inputs = job::inputs(job);
    for (size_t i = 0; i < inputs.size(); ++i) {
        const std::string input = "Input" + std::to_string(i), pulses = "Pulses" + std::to_string(i);
        const job::Circuit* circuit = job::seatedOn(job, inputs[i]->id);
        const parts::Part* sensor = circuit == nullptr ? nullptr : job::sensorOf(job, *circuit);
        const auto add = [&](Tells tells, const std::string& message, const char* what) {
            Ear ear = sensor == nullptr ? Ear{} : earOf(*circuit, *sensor);
            ear.input = static_cast<int>(i);
            ear.tells = tells;
            ear.message = message;
            ear.signal = message + what;
            out.push_back(std::move(ear));
        };
        add(Tells::Volts, input, "Volts");
        add(Tells::Counts, input, "Counts");
        if (sensor != nullptr)
            add(Tells::Value, input, "Value");
        add(Tells::Hertz, pulses, "Rate");
        add(Tells::LowTime, pulses, "Low");
    }
    return out;
}

Listener::Listener(std::shared_ptr<const dbc::Database> database, const std::vector<Ear>& ears)
    : m_database(std::move(database))
{
    for (const Ear& ear : ears) {
        const dbc::Message* message = nullptr;
        const dbc::Signal* signal = m_database ? find(*m_database, ear, message) : nullptr;
        if (signal == nullptr) {
            m_missing.push_back(ear.message + "." + ear.signal);
            continue;
        }
        const bool known = !ear.unit.empty() || !signal->unit.empty() || ear.tells != Tells::Value;
        const std::string& unit = !known ? ear.otherwise : ear.unit.empty() ? signal->unit : ear.unit;
        if (const auto si = toSi(ear.tells, ear.measures, unit))
            m_messages[message].push_back({signal, ear.input, ear.tells, si->scale, si->offset});
        else
            m_missing.push_back(ear.message + "." + ear.signal);
    }
}

Frame Listener::hear(double time_s, std::uint32_t id, bool extended, std::span<const std::uint8_t> data,
                     std::vector<dbc::Value>& values, std::vector<Heard>& out) const
{
    Frame frame;
    const dbc::Message* message = m_database ? m_database->find(id, extended) : nullptr;
    if (message == nullptr)
        return frame;
    frame.known = true;
    if (data.size() < static_cast<size_t>(message->bytes)) {
        frame.tooShort = message->name;
        return frame;
    }
    const auto listens = m_messages.find(message);
    if (listens == m_messages.end())
        return frame;
    values.clear();
    dbc::decode(*message, data, values);
    for (const Hears& h : listens->second) {
        const auto value = std::ranges::find(values, h.signal, &dbc::Value::signal);
        if (value == values.end())
            continue; // another is in its place this time
        const double half = std::abs(h.signal->scale) / 2; // its own rounding may put it so far beyond
        const auto& range = h.signal->range;
        if (range && (value->value < range->first - half || value->value > range->second + half)) {
            frame.outside = h.signal->name;
            continue;
        }
        out.push_back({h.input, h.tells, time_s, value->value * h.scale + h.offset});
    }
    return frame;
}

} // namespace vicegrip::stream
