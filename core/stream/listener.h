#pragma once

#include "core/dbc/dbc.h"
#include "core/job/job.h"

#include <memory>
#include <span>
#include <string>
#include <unordered_map>
#include <vector>

namespace vicegrip::stream {

/// What is listened for: a signal of the database, and what it tells of which input.
struct Ear
{
    int input = 0; ///< by job::inputs
    job::Tells tells = job::Tells::Value;
    std::string message, signal;
    units::Dimension measures = units::Dimension::Ratio; ///< of a value
    std::string unit; ///< of the signal's numbers, where this is known better than the database says it
    std::string otherwise; ///< where the database says none either
    bool operator==(const Ear&) const = default;
};

/// What an input was told to be.
struct Heard
{
    int input = 0;
    job::Tells tells = job::Tells::Value;
    double time_s = 0; ///< when it came, on a clock that only runs forward
    double value = 0; ///< V, SI of what the sensor measures, counts, Hz, s; no number: the ECU says that it has none
    bool operator==(const Heard&) const = default;
};

/// What a frame was.
struct Frame
{
    bool known = false; ///< the database has its message
    std::string_view tooShort; ///< a message that the database says is longer: it told nothing
    std::string_view outside; ///< a signal whose value is outside its own range: it told nothing
};

/// What the job's circuits are told by the stream of its ECU. What a circuit was told on another input is left out.
[[nodiscard]] std::vector<Ear> earsOf(const job::Job& job);

/// The same for the simulated bench, whose database (data/links/bench.dbc) numbers the inputs.
[[nodiscard]] std::vector<Ear> benchEars(const job::Job& job);

/// Makes numbers of frames. It changes nothing as it listens, so any thread may use it.
class Listener
{
  public:
    Listener() = default;
    Listener(std::shared_ptr<const dbc::Database> database, const std::vector<Ear>& ears);

    /// Adds what one frame tells to `out`. `values` is room to work in.
    Frame hear(double time_s, std::uint32_t id, bool extended, std::span<const std::uint8_t> data,
               std::vector<dbc::Value>& values, std::vector<Heard>& out) const;

    /// Signals that are listened for and that the database has not, as "message.signal".
    [[nodiscard]] const std::vector<std::string>& missing() const { return m_missing; }
    [[nodiscard]] bool empty() const { return m_messages.empty(); }

  private:
    struct Hears
    {
        const dbc::Signal* signal = nullptr;
        int input = 0;
        job::Tells tells = job::Tells::Value;
        double scale = 1, offset = 0; ///< to SI
    };

    std::shared_ptr<const dbc::Database> m_database;
    std::unordered_map<const dbc::Message*, std::vector<Hears>> m_messages;
    std::vector<std::string> m_missing;
};

/// Which multiple of what `Heard` has a signal's numbers are in, and what is added; none where the unit is of something
/// else. An empty unit is taken as it is.
struct ToSi
{
    double scale = 1, offset = 0;
};
[[nodiscard]] std::optional<ToSi> toSi(job::Tells tells, units::Dimension measures, const std::string& unit);

} // namespace vicegrip::stream
