#include "bench/drives.h"

#include "core/log/write_log.h"
#include "core/scaling/table.h"

#include <QSaveFile>

#include <algorithm>
#include <cmath>
#include <limits>

namespace vicegrip::bench {
namespace {

constexpr double kRow_s = 0.05;

/// A column that is being written.
class Logged
{
  public:
    explicit Logged(log::Log& into) : m_log(into) {}

    void begin(double time_s)
    {
        m_log.time_s.push_back(time_s);
        m_next = 0;
    }

    /// In the order of the first row, with the same names and units in every one.
    void put(const std::string& name, const std::string& unit, double value)
    {
        if (m_next == m_log.columns.size())
            m_log.columns.push_back({name, unit, {}});
        m_log.columns[m_next++].values.push_back(static_cast<float>(value));
    }

  private:
    log::Log& m_log;
    size_t m_next = 0;
};

void putCircuits(Car& car, Logged& row)
{
    const job::Job& job = car.job();
    const auto values = car.values();
    for (size_t i = 0; i < job.circuits.size(); ++i) {
        const parts::Part* sensor = job::sensorOf(job, job.circuits[i]);
        if (sensor == nullptr || job::readsWheel(job, job.circuits[i]))
            continue;
        const std::string unit = scaling::unitOf(*sensor, job.circuits[i].scaling);
        row.put(job.circuits[i].name, unit,
                values[i] ? units::toUnit(*values[i], sensor->measures, unit)
                          : std::numeric_limits<double>::quiet_NaN());
    }
}

/// What is asked of the manifold, as its own sensor counts it.
void putTarget(const job::Job& job, double asked_pa, Logged& row)
{
    for (const job::Circuit& c : job.circuits) {
        const parts::Part* sensor = c.function.value == "map" ? job::sensorOf(job, c) : nullptr;
        if (sensor == nullptr)
            continue;
        const bool absolute = sensor->measures == units::Dimension::AbsolutePressure;
        const std::string unit = scaling::unitOf(*sensor, c.scaling);
        row.put("Boost target", unit,
                units::toUnit(asked_pa - (absolute ? 0 : job.surroundings.barometer_pa), sensor->measures, unit));
        return;
    }
}

void putRow(Car& car, Logged& row)
{
    constexpr double kKilo = 1e3, kPercent = 100, kHour_s = 3600;
    const UnderBonnet& engine = car.engine();
    const engine::Commands& c = engine.commands();
    row.put("Engine speed", "rpm", std::round(car.countedRpm()));
    putCircuits(car, row);
    if (engine.plant().figures().boost_pa > 0)
        putTarget(car.job(), c.asked_pa, row);
    row.put("Closed loop correction", "%", kPercent * c.correction);
    row.put("Battery voltage", "V", car.feedVolts());
    row.put("Road speed", "km/h", engine.plant().speed_m_s() * kHour_s / kKilo);
    row.put("Gear", "", engine.gear());
    row.put("Fan", "", c.fan ? 1 : 0);
}

/// What was never told of in it is no column.
void dropEmpty(log::Log& log)
{
    std::erase_if(log.columns, [](const log::Column& c) {
        return std::ranges::all_of(c.values, [](float v) { return std::isnan(v); });
    });
}

} // namespace

log::Log driven(Car car, const std::function<bool(double share)>& goesOn)
{
    log::Log out;
    Logged row(out);
    engine::Driver driver;
    while (car.runs() && !driver.isThere() && goesOn(driver.share())) {
        row.begin(static_cast<double>(out.rows()) * kRow_s);
        putRow(car, row);
        car.drive(kRow_s, driver);
    }
    dropEmpty(out);
    return out;
}

Drives::~Drives()
{
    if (m_shared)
        m_shared->wanted = false;
    if (m_thread.joinable())
        m_thread.join();
}

Result<void> Drives::begin(const Car& car, const QString& file)
{
    if (m_shared && !m_shared->done)
        return fail(ErrorCode::Range, "it is being driven already");
    if (!car.runs())
        return fail(ErrorCode::Range, "the engine does not run: nobody can drive it");
    if (m_thread.joinable())
        m_thread.join();
    m_shared = std::make_shared<Shared>();
    m_thread = std::thread([shared = m_shared, file, own = car]() mutable {
        constexpr double kPercent = 100;
        const log::Log log = driven(std::move(own), [&](double share) {
            shared->percent = static_cast<int>(kPercent * share);
            return shared->wanted.load();
        });
        const std::string csv = log::csvOf(log, 0, log.rows());
        QSaveFile out(file);
        if (shared->wanted && (!out.open(QIODevice::WriteOnly) ||
                               out.write(csv.data(), std::ssize(csv)) != std::ssize(csv) || !out.commit()))
            shared->trouble = out.errorString();
        shared->done = true;
    });
    return {};
}

Drives::Way Drives::way() const
{
    if (!m_shared)
        return {0, true, QStringLiteral("nothing has been driven")};
    if (!m_shared->done)
        return {m_shared->percent, false, {}};
    return {100, true, m_shared->trouble};
}

} // namespace vicegrip::bench
