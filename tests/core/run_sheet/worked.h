#pragma once

#include "core/run_sheet/run_sheet.h"
#include "core/throttle/limits.h"
#include "tests/support/petrel.h"

#include <gtest/gtest.h>

/// Jobs whose run sheets are worked through, and their lines by name.
namespace vicegrip::run_sheet {

inline constexpr const char* kNow = "2026-11-30T10:00:00Z";

inline Sheet of(const job::Job& job, const char* now = "2026-11-30T10:00:00Z")
{
    return sheetOf(test::analysed(job), now);
}

inline std::string demo(const char* name)
{
    return std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/" + name + ".vicegrip";
}

inline std::optional<size_t> indexOf(const Sheet& sheet, const std::string& id)
{
    for (size_t i = 0; i < sheet.lines.size(); ++i)
        if (sheet.lines[i].id == id)
            return i;
    return std::nullopt;
}

inline const Line& line(const Sheet& sheet, const std::string& id)
{
    static const Line kNone;
    const auto i = indexOf(sheet, id);
    EXPECT_TRUE(i) << "no line " << id;
    return i ? sheet.lines[*i] : kNone;
}

inline const Standing& standing(const Sheet& sheet, const std::string& id)
{
    static const Standing kNone;
    const auto i = indexOf(sheet, id);
    EXPECT_TRUE(i) << "no line " << id;
    return i ? sheet.standings[*i] : kNone;
}

/// What a good car shows.
inline Seen asDue(const Line& line)
{
    return line.window ? Seen{line.window->due, job::ReadingSource::Ecu} : Seen{};
}

/// A job whose lines that other stages prove all stand: pinned, turned by hand, clicked, proved in Ohm, calibrated.
inline job::Job worked(job::Job job)
{
    for (job::Wire& w : job.wires)
        w.area_m2 = std::max(w.area_m2, 1e-6); // outlasts every fuse
    test::pinAll(job);
    test::turnAll(job);
    const auto before = test::analysed(job);
    const electrics::Wiring wiring(*before.job);
    for (const clicks::Standing& s : before.clicks)
        job.clicks.push_back(clicks::record(job, before.facts, wiring, *job::find(job, s.circuit), {s.circuit}, kNow));
    job.proofs.clear();
    for (const proof::CircuitView& view : before.circuits)
        for (const auto& e : analysis::promises(before, view.id, job::Condition::BatteryOff))
            if (e.station.role == parts::PinRole::Ground && e.station.kind == proof::StationKind::Probe && e.promises())
                job.proofs.push_back(proof::record(before.facts, view.id, e, e.due, job::ReadingSource::Meter, kNow));
    for (job::Circuit& c : job.circuits)
        if (c.trigger)
            c.trigger->light = {{.rpm = 900, .commanded_deg = 10, .seen_deg = 10},
                                {.rpm = 3000, .commanded_deg = 10, .seen_deg = 10}};
    for (job::Circuit& c : job.circuits) {
        const parts::Part* sensor = job::sensorOf(job, c);
        if (sensor == nullptr || !throttle::takesLimits(*sensor))
            continue;
        const auto curve = analysis::curve(before, c.id);
        job::ThrottleLimits limits;
        limits.closed_v = limits.closedRest_v = curve.front().reading;
        limits.open_v = limits.openRest_v = curve.back().reading;
        c.limits = throttle::calibrated(limits, before.facts, c, wiring.paths(c));
    }
    if (job.brief->fuel == job::Fuel::Flex) {
        job.tank.emplace();
        job.tank->baseline = 0.08;
    }
    return job;
}

/// Line after line as somebody works it; those that another stage proves are left out. How many were passed.
inline int workThrough(job::Job& job, std::string& stuck)
{
    int passed = 0;
    for (bool any = true; any;) {
        any = false;
        const Sheet s = of(job);
        stuck.clear();
        for (size_t i = 0; i < s.lines.size(); ++i) {
            if (s.standings[i].state == proof::State::Done)
                continue;
            stuck += s.lines[i].id + " (" + s.standings[i].reason + ") ";
            if (s.lines[i].by == By::Work || !s.standings[i].waitsFor.empty() || passed > 200)
                continue;
            const auto done = pass(job, s, i, asDue(s.lines[i]), kNow);
            EXPECT_TRUE(done) << s.lines[i].id << ": " << (done ? "" : done.error().sentence);
            any = any || done;
            ++passed;
        }
    }
    return passed;
}

} // namespace vicegrip::run_sheet
