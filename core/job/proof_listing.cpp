#include "core/job/listing.h"

/// A proof in the file. A reading is a number in SI with what it measures beside it, or "open", or "overload"; a bound
/// is a number, or "open".
namespace vicegrip::job {
namespace {

constexpr const char* kOpen = "open";
constexpr const char* kOverload = "overload";

double bound(const nlohmann::json& j)
{
    return j.is_number() ? j.get<double>() : std::numeric_limits<double>::infinity();
}

nlohmann::json written(double bound)
{
    return std::isinf(bound) ? nlohmann::json(kOpen) : nlohmann::json(bound);
}

/// A proof's members that are not in the file as they are here.
struct Written
{
    Condition condition = Condition::KeyOn;
    std::string measures;
    nlohmann::json value, expected, low, high;
    RestsOn::Facts restsOn;
};

template <class A> void list(A& a, Proof& p, Written& w)
{
    a("circuit", p.circuit);
    a("station", p.station);
    a("condition", w.condition);
    a("measures", w.measures);
    a("value", w.value);
    a("expected", w.expected);
    a("low", w.low);
    a("high", w.high);
    a("source", p.source);
    a("when", p.when);
    a("rests_on", w.restsOn);
    a.rest(p.extra);
}

/// Without a `value` eyes judged it, and the other members of a reading are not there.
template <class A> void list(A& a, Passed& p, Written& w, bool read)
{
    a("line", p.line);
    a("what", p.what);
    if (read) {
        a("condition", w.condition);
        a("measures", w.measures);
        a("value", w.value);
        a("low", w.low);
        a("high", w.high);
        a("shut_v", p.shut_v);
        a("source", p.source);
    }
    a("when", p.when);
    a("rests_on", w.restsOn);
    a.rest(p.extra);
}

template <class A> void list(A& a, Click& c, RestsOn::Facts& restsOn)
{
    a("circuit", c.circuit);
    a("answered", c.answered);
    a("when", c.when);
    a("rests_on", restsOn);
    a.rest(c.extra);
}

template <class A> void list(A& a, Wiggle& w, RestsOn::Facts& restsOn)
{
    a("circuit", w.circuit);
    a("wires", w.wires);
    a("at", w.at);
    a("drop_outs", w.dropOuts);
    a("watched_s", w.watched_s);
    a("when", w.when);
    a("rests_on", restsOn);
    a.rest(w.extra);
}

template <class A> void list(A& a, HandTurn& t, RestsOn::Facts& restsOn)
{
    a("circuit", t.circuit);
    a("wheel", t.wheel);
    a("loose", t.loose);
    a("teeth", t.teeth);
    a("missed", t.missed);
    a("tooth_v", t.tooth_v);
    a("gap_v", t.gap_v);
    a("when", t.when);
    a("rests_on", restsOn);
    a.rest(t.extra);
}

template <class A> void list(A& a, Decoded& d, RestsOn::Facts& restsOn)
{
    a("circuit", d.circuit);
    a("capture", d.capture);
    a("wheel", d.wheel);
    a("edge", d.edge);
    a("rpm", d.rpm);
    a("wrong", d.wrong);
    a("when", d.when);
    a("rests_on", restsOn);
    a.rest(d.extra);
}

template <class A> void list(A& a, LogReview& r, RestsOn::Facts& restsOn)
{
    a("log", r.log);
    a("rows", r.rows);
    a("seconds", r.seconds);
    a("said", r.said);
    a("when", r.when);
    a("rests_on", restsOn);
    a.rest(r.extra);
}

/// What rests on facts, which are shared once they are read.
template <class Rests> void readRests(fields::Reader& a, Rests& of)
{
    RestsOn::Facts restsOn;
    list(a, of, restsOn);
    of.restsOn = RestsOn(std::move(restsOn));
}

template <class Rests> void writeRests(fields::Writer& a, Rests& of)
{
    RestsOn::Facts restsOn = of.restsOn.facts();
    list(a, of, restsOn);
}

} // namespace

void listFields(fields::Reader& a, Click& c)
{
    readRests(a, c);
}

void listFields(fields::Writer& a, Click& c)
{
    writeRests(a, c);
}

void listFields(fields::Reader& a, Wiggle& w)
{
    readRests(a, w);
}

void listFields(fields::Writer& a, Wiggle& w)
{
    writeRests(a, w);
}

void listFields(fields::Reader& a, HandTurn& t)
{
    readRests(a, t);
}

void listFields(fields::Writer& a, HandTurn& t)
{
    writeRests(a, t);
}

void listFields(fields::Reader& a, Decoded& d)
{
    readRests(a, d);
}

void listFields(fields::Writer& a, Decoded& d)
{
    writeRests(a, d);
}

void listFields(fields::Reader& a, LogReview& r)
{
    readRests(a, r);
}

void listFields(fields::Writer& a, LogReview& r)
{
    writeRests(a, r);
}

namespace {

Reading readingOf(const Written& w)
{
    const auto dimension = units::dimensionFromName(w.measures).value_or(units::Dimension::Voltage);
    return w.value.is_number() ? Reading::of(w.value.get<double>(), dimension, w.condition)
                               : Reading::beyond(dimension, w.condition);
}

Written writtenOf(const Reading& reading)
{
    Written w;
    w.condition = reading.condition();
    w.measures = units::name(reading.dimension());
    w.value =
        reading.quantity() ? nlohmann::json(*reading.quantity()) : nlohmann::json(reading.isOpen() ? kOpen : kOverload);
    return w;
}

} // namespace

void listFields(fields::Reader& a, Proof& p)
{
    Written w;
    list(a, p, w);
    p.reading = readingOf(w);
    p.expected = bound(w.expected);
    p.low = bound(w.low);
    p.high = bound(w.high);
    p.restsOn = RestsOn(std::move(w.restsOn));
}

void listFields(fields::Writer& a, Proof& p)
{
    Written w = writtenOf(p.reading);
    w.expected = written(p.expected);
    w.low = p.low;
    w.high = written(p.high);
    w.restsOn = p.restsOn.facts();
    list(a, p, w);
}

void listFields(fields::Reader& a, Passed& p)
{
    Written w;
    list(a, p, w, true);
    p.restsOn = RestsOn(std::move(w.restsOn));
    if (w.value.is_null())
        return;
    p.reading = readingOf(w);
    p.low = bound(w.low);
    p.high = bound(w.high);
}

void listFields(fields::Writer& a, Passed& p)
{
    Written w;
    if (p.reading)
        w = writtenOf(*p.reading);
    w.low = p.low;
    w.high = written(p.high);
    w.restsOn = p.restsOn.facts();
    list(a, p, w, p.reading.has_value());
}

namespace {

/// What a reading of a file that does not say it measures: by where it was taken, and by the sensor there is now.
units::Dimension measuredAt(const Job& job, const Proof& p)
{
    using units::Dimension;
    if (p.reading.condition() == Condition::BatteryOff)
        return Dimension::Resistance;
    const Circuit* circuit = find(job, p.circuit);
    const parts::Part* sensor = circuit == nullptr ? nullptr : sensorOf(job, *circuit);
    if (p.station == "counts")
        return Dimension::Counts;
    if (p.station == "value" && sensor != nullptr)
        return sensor->measures;
    if (p.station == "input" && sensor != nullptr && parts::countsValue(*sensor))
        return Dimension::Frequency;
    return Dimension::Voltage;
}

} // namespace

void understandOldProofs(Job& job, const nlohmann::json& document)
{
    const auto listed = document.find("proofs");
    for (size_t i = 0; i < job.proofs.size(); ++i) {
        if ((*listed)[i].contains("measures"))
            continue;
        Proof& p = job.proofs[i];
        const auto dimension = measuredAt(job, p);
        const auto condition = p.reading.condition();
        const bool ohms = dimension == units::Dimension::Resistance;
        const auto settled = [&](double si) {
            return ohms && si >= kMost_ohm ? std::numeric_limits<double>::infinity() : si;
        };
        const double read = settled(p.reading.si());
        p.reading =
            std::isfinite(read) ? Reading::of(read, dimension, condition) : Reading::beyond(dimension, condition);
        p.expected = settled(p.expected);
        p.high = settled(p.high);
    }
}

} // namespace vicegrip::job
