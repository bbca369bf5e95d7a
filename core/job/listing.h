#pragma once

#include "core/job/brief_listing.h"
#include "core/job/job.h"
#include "core/job/record_listing.h"

/// How the job's members are listed in the file, in order. Read by json.cpp, facts.cpp and proof_listing.cpp only.
namespace vicegrip::fields {

template <> struct EnumNames<job::ConnectorKind>
{
    static constexpr std::pair<job::ConnectorKind, std::string_view> kNames[] = {{job::ConnectorKind::Sensor, "sensor"},
                                                                                 {job::ConnectorKind::Inline, "inline"},
                                                                                 {job::ConnectorKind::Ecu, "ecu"},
                                                                                 {job::ConnectorKind::Load, "load"}};
};

template <> struct EnumNames<job::JointMethod>
{
    static constexpr std::pair<job::JointMethod, std::string_view> kNames[] = {
        {job::JointMethod::Crimp, "crimp"}, {job::JointMethod::Solder, "solder"}, {job::JointMethod::Tap, "tap"}};
};

template <> struct EnumNames<job::SwitchKind>
{
    static constexpr std::pair<job::SwitchKind, std::string_view> kNames[] = {{job::SwitchKind::Contact, "contact"},
                                                                              {job::SwitchKind::Fuse, "fuse"},
                                                                              {job::SwitchKind::Relay, "relay"},
                                                                              {job::SwitchKind::Hand, "hand"}};
};

template <> struct EnumNames<job::JointKind>
{
    static constexpr std::pair<job::JointKind, std::string_view> kNames[] = {
        {job::JointKind::Splice, "splice"},
        {job::JointKind::Stud, "stud"},
        {job::JointKind::BatteryPositive, "battery-positive"},
        {job::JointKind::BatteryNegative, "battery-negative"}};
};

template <> struct EnumNames<job::RestKind>
{
    static constexpr std::pair<job::RestKind, std::string_view> kNames[] = {
        {job::RestKind::Ambient, "ambient"}, {job::RestKind::Barometer, "barometer"}, {job::RestKind::Value, "value"}};
};

template <> struct EnumNames<job::ReadingSource>
{
    static constexpr std::pair<job::ReadingSource, std::string_view> kNames[] = {
        {job::ReadingSource::Typed, "typed"}, {job::ReadingSource::Meter, "meter"}, {job::ReadingSource::Ecu, "ecu"}};
};

template <> struct EnumNames<job::ResistorKind>
{
    static constexpr std::pair<job::ResistorKind, std::string_view> kNames[] = {
        {job::ResistorKind::PullUp, "pull-up"},
        {job::ResistorKind::Series, "series"},
        {job::ResistorKind::ToGround, "to-ground"},
        {job::ResistorKind::Terminator, "terminator"}};
};

} // namespace vicegrip::fields

namespace vicegrip::job {

/// A point is one string in the file.
template <class A> void point(A& a, const char* name, PointRef& p)
{
    std::string text = p.text();
    a(name, text);
    p = PointRef::fromText(text);
}

template <class A> void points(A& a, const char* name, std::vector<PointRef>& all)
{
    std::vector<std::string> texts;
    for (const PointRef& p : all)
        texts.push_back(p.text());
    a(name, texts);
    all.clear();
    for (const std::string& text : texts)
        all.push_back(PointRef::fromText(text));
}

template <class A> void listFields(A& a, Connector& c)
{
    a("id", c.id);
    a("label", c.label);
    a("kind", c.kind);
    a("mates", c.mates);
    a("cavities", c.cavities);
    a("layout", c.layout);
    a("face_proposed", c.faceProposed);
    a("place", c.place);
    a.rest(c.extra);
}

template <class A> void listFields(A& a, Joint& j)
{
    a("id", j.id);
    a("label", j.label);
    a("kind", j.kind);
    if (j.kind == JointKind::Splice)
        a("method", j.method);
    a("body", j.body);
    a.rest(j.extra);
}

template <class A> void listFields(A& a, Wire& w)
{
    a("id", w.id);
    point(a, "from", w.from);
    point(a, "to", w.to);
    a("length_m", w.length_m);
    a.scaled("area_mm2", w.area_m2, 1e-6);
    a("colour", w.colour);
    a.rest(w.extra);
}

template <class A> void listFields(A& a, Switch& s)
{
    a("id", s.id);
    a("label", s.label);
    point(a, "from", s.from);
    point(a, "to", s.to);
    a("kind", s.kind);
    a("ohm", s.ohm);
    a("rating_a", s.rating_a);
    a("needs_key", s.needsKey);
    a("opens_cranking", s.opensCranking);
    a("coil", s.coil);
    a.rest(s.extra);
}

template <class A> void listFields(A& a, Resistor& r)
{
    a("id", r.id);
    a("label", r.label);
    a("kind", r.kind);
    point(a, "from", r.from);
    point(a, "to", r.to);
    a("ohm", r.ohm);
    a("tolerance", r.tolerance);
    a.rest(r.extra);
}

template <class A> void listFields(A& a, Load& l)
{
    a("id", l.id);
    a("label", l.label);
    point(a, "from", l.from);
    point(a, "to", l.to);
    a("current_a", l.current_a);
    a("starter", l.starter);
    a.rest(l.extra);
}

template <class A> void listFields(A& a, Branch& b)
{
    a("from", b.from);
    a("to", b.to);
    a("length_m", b.length_m);
    a("wall", b.wall);
    a.rest(b.extra);
}

template <class A> void listFields(A& a, Lead& l)
{
    a("id", l.id);
    a("cores", l.cores);
    a("shield", l.shield);
    points(a, "drain", l.drain);
    a.rest(l.extra);
}

template <class A> void listFields(A& a, OldPin& p)
{
    a("cavity", p.cavity);
    a("function", p.function);
    a("colour", p.colour);
    a.rest(p.extra);
}

template <class A> void listFields(A& a, OldPlug& p)
{
    a("connector", p.connector);
    a("label", p.label);
    a("repinned", p.repinned);
    a("pins", p.pins);
    a.rest(p.extra);
}

template <class A> void listFields(A& a, Device& d)
{
    a("id", d.id);
    a("part", d.part);
    a("connector", d.connector);
    a.rest(d.extra);
}

template <class A> void listFields(A& a, Rest& r)
{
    a("kind", r.kind);
    if (r.kind == RestKind::Value) {
        a("value", r.value);
        a("tolerance", r.tolerance);
    }
    a.rest(r.extra);
}

template <class A> void listFields(A& a, ScalingSpec& s)
{
    a("takes", s.takes);
    if (s.takes == Takes::Polynomial)
        a("degree", s.degree);
    a("points", s.points);
    a("low", s.low);
    a("high", s.high);
    a("unit", s.unit);
    a("output_step", s.outputStep);
    a("input_step", s.inputStep);
    a("breakpoints", s.breakpoints);
    a("fixed", s.fixed);
    a("value_first", s.valueFirst);
    a("falling", s.falling);
    a.rest(s.extra);
}

template <class A> void listFields(A& a, RoadSpeed& s)
{
    a("tyre", s.tyre);
    a("pulses_per_turn", s.pulsesPerTurn);
    a("turns_per_wheel_turn", s.turnsPerWheelTurn);
    a("run_pulses", s.runPulses);
    a("run_distance_m", s.runDistance_m);
    a("run_distance_error_m", s.runDistanceError_m);
    a.rest(s.extra);
}

template <class A> void listFields(A& a, LightReading& r)
{
    a("rpm", r.rpm);
    a("commanded_deg", r.commanded_deg);
    a("seen_deg", r.seen_deg);
    a.rest(r.extra);
}

template <class A> void listFields(A& a, TriggerSetup& t)
{
    a("wheel", t.wheel);
    a("edge", t.edge);
    a("hole", t.hole);
    a("side", t.side);
    a("gap_m", t.gap_m);
    a("gap_least_m", t.gapLeast_m);
    a("gap_most_m", t.gapMost_m);
    a("pitch_m", t.pitch_m);
    a("across_m", t.across_m);
    a("thick_m", t.thick_m);
    a("strip_wide_m", t.stripWide_m);
    a("strip_long_m", t.stripLong_m);
    a("lies_deg", t.lies_deg);
    a("beside_m", t.beside_m);
    a("feelers_m", t.feelers_m);
    a("light", t.light);
    a.rest(t.extra);
}

template <class A> void listFields(A& a, Told& t)
{
    a("tells", t.tells);
    a("message", t.message);
    a("signal", t.signal);
    a("unit", t.unit);
    a("input", t.input);
    a.rest(t.extra);
}

template <class A> void listFields(A& a, Captured& c)
{
    a("value", c.value);
    a("volts", c.volts);
    a("when", c.when);
    a("set_aside", c.setAside);
    a("within", c.within);
    a.rest(c.extra);
}

template <class A> void listFields(A& a, ThrottleLimits& s)
{
    a("closed_v", s.closed_v);
    a("open_v", s.open_v);
    a("closed_rest_v", s.closedRest_v);
    a("open_rest_v", s.openRest_v);
    a("noise_v", s.noise_v);
    a("strokes", s.strokes);
    a("when", s.when);
    a("screw_moved", s.screwMoved);
    a("rests_on", s.restsOn);
    a.rest(s.extra);
}

template <class A> void listFields(A& a, Tank& t)
{
    a.scaled("capacity_l", t.capacity_m3, 1e-3);
    a.scaled("line_l", t.line_m3, 1e-3);
    a.scaled("flow_l_per_h", t.flow_m3_per_s, 1e-3 / 3600);
    a("baseline", t.baseline);
    a("when", t.when);
    a("ready_for", t.readyFor);
    a.rest(t.extra);
}

template <class A> void listFields(A& a, Circuit& c)
{
    a("id", c.id);
    a("name", c.name);
    a("function", c.function);
    a("want", c.want);
    a("device", c.device);
    a("input", c.input);
    a("output", c.output);
    a("locked", c.locked);
    if (std::is_same_v<A, fields::Reader> || c.scaling.low != 0 || c.scaling.high != 0) { // what is driven has none
        a("rest", c.rest);
        a("scaling", c.scaling);
    }
    a("told", c.told);
    a("captured", c.captured);
    a("limits", c.limits);
    a("road_speed", c.roadSpeed);
    a("trigger", c.trigger);
    a.rest(c.extra);
}

template <class A> void listFields(A& a, Battery& b)
{
    a("volts", b.volts);
    a("charging_v", b.charging_v);
    a("tolerance_v", b.tolerance_v);
    a("ohm", b.ohm);
    a.rest(b.extra);
}

template <class A> void listFields(A& a, Surroundings& s)
{
    a.scaled("ambient_c", s.ambient_k, 1, 273.15);
    a("ambient_tolerance_k", s.ambientTolerance_k);
    a.scaled("barometer_kpa", s.barometer_pa, 1000);
    a.scaled("barometer_tolerance_kpa", s.barometerTolerance_pa, 1000);
    a.rest(s.extra);
}

template <class A> void listFields(A& a, Meter& m)
{
    a("input_ohm", m.input_ohm);
    a("volts_share", m.voltsShare);
    a("volts_v", m.volts_v);
    a("ohms_share", m.ohmsShare);
    a("ohms_ohm", m.ohms_ohm);
    a("lead_ohm", m.lead_ohm);
    a.rest(m.extra);
}

void listFields(fields::Reader& a, Click& c);
void listFields(fields::Writer& a, Click& c);

void listFields(fields::Reader& a, Wiggle& w);
void listFields(fields::Writer& a, Wiggle& w);
void listFields(fields::Reader& a, HandTurn& t);
void listFields(fields::Writer& a, HandTurn& t);
void listFields(fields::Reader& a, Decoded& d);
void listFields(fields::Writer& a, Decoded& d);
void listFields(fields::Reader& a, LogReview& r);
void listFields(fields::Writer& a, LogReview& r);
void listFields(fields::Reader& a, Passed& p);
void listFields(fields::Writer& a, Passed& p);

void listFields(fields::Reader& a, Proof& p);
void listFields(fields::Writer& a, Proof& p);

/// Proofs of files that do not say what was measured, nor call open open: 1e9 Ohm stood for it.
void understandOldProofs(Job& job, const nlohmann::json& document);

template <class A> void listFields(A& a, Job& j)
{
    a("vicegrip", j.version);
    a("name", j.name);
    a("title", j.title);
    a("surroundings", j.surroundings);
    a("battery", j.battery);
    a("meter", j.meter);
    a("stream", j.stream);
    a("instrument", j.instrument);
    a("brief", j.brief);
    a("ecu", j.ecu);
    a("expanders", j.expanders);
    a("parts", j.parts);
    a("connectors", j.connectors);
    a("joints", j.joints);
    a("wires", j.wires);
    a("switches", j.switches);
    a("resistors", j.resistors);
    a("loads", j.loads);
    a("branches", j.branches);
    a("leads", j.leads);
    a("devices", j.devices);
    a("circuits", j.circuits);
    a("proofs", j.proofs);
    a("clicks", j.clicks);
    a("wiggles", j.wiggles);
    a("hand_turns", j.handTurns);
    a("decoded", j.decoded);
    a("passed", j.passed);
    a("mends", j.mends);
    a("log_columns", j.logColumns);
    a("log_marks", j.logMarks);
    a("log_reviews", j.logReviews);
    a("photos", j.photos);
    a("pinned", j.pinned);
    a("work_steps", j.workSteps);
    a("old_plugs", j.oldPlugs);
    a("log", j.log);
    a("tank", j.tank);
    a.rest(j.extra);
}

} // namespace vicegrip::job
