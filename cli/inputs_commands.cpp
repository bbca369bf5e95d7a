#include "cli/printing.h"
#include "core/base/shipped.h"
#include "core/brief/needs.h"
#include "core/brief/range.h"
#include "core/electrics/wiring.h"
#include "core/feeds/feeds.h"
#include "core/feeds/proposals.h"
#include "core/job/json.h"
#include "core/seating/ways_out.h"
#include "core/units/shown.h"

#include <iostream>

/// The commands of the stages Brief and Inputs.
namespace vicegrip::cli {
namespace {

std::string pressure(double pa, units::Dimension dimension)
{
    return units::format(pa, dimension, "kPa", 1);
}

/// The values a pull-up was weighed against, in the sensor's unit.
Json weighed(const seating::AddedPullUp& fitted, const parts::Part& sensor)
{
    const auto inUnit = [&](double si) { return units::differenceToUnit(si, sensor.measures, sensor.unit); };
    Json out = Json::array();
    for (const seating::PullUpChoice& c : fitted.weighed)
        out.push_back({{"ohm", c.ohm},
                       {"unit", sensor.unit},
                       {"per_count_low", inUnit(c.lowPerCount)},
                       {"per_count_high", inUnit(c.highPerCount)},
                       {"warming_still_k", c.still_k},
                       {"warming_working_k", c.moving_k},
                       {"too_warm", c.tooWarm()},
                       {"tables", c.expectedBy}});
    return out;
}

} // namespace

int seat(const SeatOptions& options)
{
    const auto read = job::readFile(options.job);
    if (!read)
        return refuse(read.error(), kUnreadable);
    const parts::Library parts = library();
    const seating::Plan plan = seating::bestPlan(*read);
    job::Job seated = *read;
    if (const auto taken = seating::take(seated, plan); !taken)
        return refuse(taken.error(), kNoAnswer);
    Json seats = Json::array(), without = Json::array();
    for (const seating::Seat& s : plan.seats)
        seats.push_back(s.output.empty() ? Json{{"circuit", s.circuit.value}, {"input", s.input.value}}
                                         : Json{{"circuit", s.circuit.value}, {"output", s.output.value}});
    for (const job::CircuitId& id : plan.unseated) {
        const job::Circuit& circuit = *job::find(seated, id);
        Json refusals = Json::array(), ways = Json::array();
        for (const auto& r : seating::refusals(seated, circuit))
            refusals.push_back(r.output.empty() ? Json{{"input", r.input.value}, {"reason", r.reason}}
                                                : Json{{"output", r.output.value}, {"reason", r.reason}});
        for (const auto& w : seating::waysOut(seated, circuit, parts)) {
            ways.push_back({{"do", w.title}, {"detail", w.detail}});
            if (const auto* fitted = seating::addedBy(w); fitted != nullptr && !fitted->weighed.empty())
                ways.back()["pull_ups"] = weighed(*fitted, *job::sensorOf(seated, circuit));
        }
        without.push_back({{"circuit", id.value},
                           {"name", circuit.name},
                           {"want", fields::enumName(circuit.want)},
                           {"refusals", refusals},
                           {"ways_out", ways}});
    }
    if (options.json) {
        std::cout << Json{{"job", read->name},
                          {"optimal", plan.optimal},
                          {"seated",
                           {{"required", plan.required}, {"wanted", plan.wanted}, {"preferred", plan.preferred}}},
                          {"moved", plan.moved},
                          {"cost", plan.cost},
                          {"seats", seats},
                          {"unseated", without}}
                         .dump(2)
                  << '\n';
        return kFine;
    }
    for (const seating::Seat& s : plan.seats)
        std::cout << padded(job::find(seated, s.circuit)->name, 26)
                  << (s.output.empty() ? s.input.value : s.output.value) << '\n';
    for (const Json& u : without) {
        std::cout << padded(u["name"].get<std::string>(), 26) << "no seat (" << u["want"].get<std::string>() << ")\n";
        for (const Json& r : u["refusals"])
            std::cout << "    " << padded(r.value(r.contains("output") ? "output" : "input", std::string()), 8)
                      << r["reason"].get<std::string>() << '\n';
        for (const Json& w : u["ways_out"])
            std::cout << "    way out: " << w["do"].get<std::string>() << ". " << w["detail"].get<std::string>()
                      << '\n';
    }
    std::cout << "seated " << plan.required << " required, " << plan.wanted << " wanted, " << plan.preferred
              << " preferred; " << (plan.optimal ? "proved the best there is" : "the best found, not proved") << '\n';
    return kFine;
}

int fuses(const FusesOptions& options)
{
    const auto job = job::readFile(options.job);
    if (!job)
        return refuse(job.error(), kUnreadable);
    const auto feeds = feeds::feedsOf(*job, electrics::Wiring(*job));
    Json out = Json::array();
    bool wrong = false;
    for (const feeds::Feed& f : feeds) {
        wrong |= f.isWrong;
        Json consumers = Json::array();
        std::string names;
        for (const feeds::Consumer& c : f.consumers) {
            consumers.push_back({{"name", c.name}, {"current_a", c.amps}});
            names += (names.empty() ? "" : ", ") + c.name;
        }
        out.push_back({{"fuse", f.fuse},
                       {"label", f.label},
                       {"feeds", consumers},
                       {"current_a", f.amps},
                       {"rating_a", f.rating_a},
                       {"proposed_a", f.proposed_a},
                       {"thinnest", f.thinnest ? f.thinnest->value : std::string()},
                       {"area_mm2", f.area_m2 * 1e6},
                       {"stands_a", f.stands_a},
                       {"reason", f.reason},
                       {"wrong", f.isWrong}});
        if (!options.json)
            std::cout << (f.isWrong ? "! " : "  ") << padded(f.fuse.empty() ? "no fuse" : f.label, 22) << f.reason
                      << '\n'
                      << (names.empty() ? "" : "    feeds " + names + "\n");
    }
    Json proposals = Json::array();
    for (const feeds::Proposal& p : feeds::propose(*job, library())) {
        proposals.push_back({{"subject", p.subject}, {"do", p.what}, {"reason", p.why}});
        if (!options.json)
            std::cout << "  to do: " << p.what << ": " << p.why << '\n';
    }
    if (options.json)
        std::cout << Json{{"job", job->name}, {"fuses", out}, {"proposals", proposals}}.dump(2) << '\n';
    return wrong ? kFindings : kFine;
}

int range(const RangeOptions& options)
{
    const auto job = job::readFile(options.job);
    if (!job)
        return refuse(job.error(), kUnreadable);
    const job::Circuit* circuit = job::find(*job, job::CircuitId{options.circuit});
    if (circuit == nullptr)
        return refuse("the job has no circuit \"" + options.circuit + "\"", kNoAnswer);
    const parts::Library parts = library();
    const brief::Advice advice = brief::adviseRange(circuit->function, *job, circuit, parts);
    if (advice.marks.empty())
        return refuse(circuit->name + " is no pressure: there is no range to advise on", kNoAnswer);
    Json marks = Json::array(), ranking = Json::array();
    for (const auto& m : advice.marks)
        marks.push_back({{"name", m.name}, {"kpa", fields::rounded(m.pa / 1e3)}, {"why", m.why}});
    for (const auto& c : advice.ranking)
        ranking.push_back({{"part", c.sensor.id.value},
                           {"name", c.sensor.name},
                           {"fitted", c.current},
                           {"reads", c.reads},
                           {"headroom_kpa", fields::rounded(c.headroom_pa / 1e3)},
                           {"bottom_kpa", fields::rounded(c.bottom_pa / 1e3)},
                           {"kpa_per_count", c.pa_per_count / 1e3},
                           {"top_gauge_kpa", fields::rounded(c.top_gauge_pa / 1e3)},
                           {"verdict", c.verdict}});
    if (options.json) {
        std::cout << Json{{"circuit", circuit->id.value},
                          {"input", advice.inputText},
                          {"marks", marks},
                          {"ranking", ranking},
                          {"split", advice.split}}
                         .dump(2)
                  << '\n';
        return kFine;
    }
    const auto zero =
        advice.ranking.empty() ? units::Dimension::AbsolutePressure : advice.ranking.front().sensor.measures;
    for (const auto& m : advice.marks)
        std::cout << padded(m.name, 20) << padded(pressure(m.pa, zero), 18) << m.why << '\n';
    std::cout << "on " << advice.inputText << ":\n";
    Columns columns;
    for (const auto& c : advice.ranking)
        columns.row({c.sensor.name, units::formatDifference(c.pa_per_count, zero, "kPa", 3) + "/count", c.verdict},
                    c.current ? "* " : "  ");
    columns.print();
    if (!advice.split.empty())
        std::cout << advice.split << '\n';
    return kFine;
}

int needs(const NeedsOptions& options)
{
    const auto job = job::readFile(options.job);
    if (!job)
        return refuse(job.error(), kUnreadable);
    if (!job->brief)
        return refuse("the job has no brief: state what is on the engine first", kNoAnswer);
    Json list = Json::array();
    for (const brief::Consequence& c : brief::consequences(*job, *job->brief)) {
        Json circuits = Json::array();
        for (const job::CircuitId& id : c.circuits)
            circuits.push_back(id.value);
        list.push_back({{"function", c.function.value},
                        {"name", c.name},
                        {"want", fields::enumName(c.want)},
                        {"standing", brief::standingName(c.standing)},
                        {"asked_by", c.askedBy},
                        {"reason", c.reason},
                        {"circuits", circuits}});
        if (!options.json)
            std::cout << padded(c.name, 26) << padded(std::string(fields::enumName(c.want)), 11)
                      << padded(std::string(brief::standingName(c.standing)), 18) << c.reason
                      << (c.askedBy.empty() ? "" : " (" + c.askedBy + ")") << '\n';
    }
    if (options.json)
        std::cout << Json{{"job", job->name}, {"needs", list}}.dump(2) << '\n';
    return kFine;
}

} // namespace vicegrip::cli
