#include "bench/diagnostics.h"

#include "core/electrics/electrics.h"
#include "core/scaling/table.h"

#include <algorithm>

namespace vicegrip::bench {
namespace {

constexpr double kRail = 0.02; // of full scale: below or above is no reading (typical)
constexpr std::uint8_t kEngineSpeed = 0x0C;

} // namespace

obd::Responder::Unit Diagnostics::unitOf(Car& car)
{
    obd::Responder::Unit out;
    std::map<std::uint8_t, double> values = {{kEngineSpeed, car.countedRpm()}};
    std::set<obd::Code> there;
    const job::Job& job = car.job();
    const auto samples = car.samples();
    for (const job::Circuit& c : job.circuits) {
        const parts::Part* sensor = job::sensorOf(job, c);
        const auto index = job::inputIndex(job, c.input);
        const auto sample = std::ranges::find(samples, index.value_or(-1), &link::EcuSample::input);
        if (sensor == nullptr || !index || sample == samples.end() || c.function.value.empty())
            continue;
        const double share = sample->volts / electrics::fullScaleVolts(job, *job::findInput(job, c.input));
        if (!parts::pulsesOf(*sensor) && (share < kRail || share > 1 - kRail))
            if (const auto code = obd::codeFor(c.function.value, share > kRail))
                there.insert(*code);
        const auto p =
            std::ranges::find(obd::parameters(), std::string_view(c.function.value), &obd::Parameter::function);
        if (p == obd::parameters().end() || !sample->value || p->measures != sensor->measures)
            continue;
        const double si = units::fromUnit(*sample->value, sensor->measures, scaling::unitOf(*sensor, c.scaling));
        values[p->number] = units::toUnit(si, *p->measures, p->unit);
    }
    for (const auto& [number, value] : values)
        out.numbers.insert(number);
    out.value = [values](std::uint8_t number) -> std::optional<obd::Bytes> {
        return obd::bytesOf(*obd::findParameter(number), values.at(number));
    };
    std::erase_if(m_cleared, [&](obd::Code code) { return !there.contains(code); });
    for (const obd::Code code : there)
        (m_cleared.contains(code) ? out.pending : out.stored).push_back(code);
    out.clears = !job::engineTurns(car.condition());
    return out;
}

QList<QCanBusFrame> Diagnostics::take(const QCanBusFrame& frame, Car& car)
{
    QList<QCanBusFrame> out;
    if (!car.job().ecu.plugIn || frame.frameId() < 0x700 || car.samples().empty())
        return out;
    const QByteArray bytes = frame.payload();
    obd::Responder::Unit unit = unitOf(car);
    const std::vector<obd::Code> before = unit.stored;
    for (const obd::CanFrame& f :
         m_responder.take({frame.frameId(), frame.hasExtendedFrameFormat(), {bytes.begin(), bytes.end()}}, unit))
        out << QCanBusFrame(f.id, QByteArray(reinterpret_cast<const char*>(f.data.data()), std::ssize(f.data)));
    if (unit.stored.empty())
        m_cleared.insert(before.begin(), before.end());
    return out;
}

} // namespace vicegrip::bench
