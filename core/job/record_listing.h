#pragma once

#include "core/base/fields.h"
#include "core/job/record.h"

/// How what is on record is listed in the file: work of hands, mends, the logbook, logs. Read by listing.h only.
namespace vicegrip::job {

template <class A> void listFields(A& a, Pinned& p)
{
    point(a, "at", p.at);
    a("wires", p.wires);
    a("steps", p.steps);
    a("counted", p.counted);
    a("when", p.when);
    a.rest(p.extra);
}

template <class A> void listFields(A& a, WorkSteps& h)
{
    a("done", h.done);
    a("closed", h.closed);
    a.rest(h.extra);
}

template <class A> void listFields(A& a, LogEntry& e)
{
    a("when", e.when);
    a("about", e.about);
    a("what", e.what);
    a.rest(e.extra);
}

template <class A> void listFields(A& a, Mend& m)
{
    a("subjects", m.subjects);
    a("what", m.what);
    a("when", m.when);
    a.rest(m.extra);
}

template <class A> void listFields(A& a, LogColumn& c)
{
    a("name", c.name);
    a("unit", c.unit);
    a("circuit", c.circuit);
    a("holds", c.holds);
    a("in", c.in);
    a.rest(c.extra);
}

template <class A> void listFields(A& a, LogMark& m)
{
    a("log", m.log);
    a("at_s", m.at_s);
    a("words", m.words);
    a.rest(m.extra);
}

template <class A> void listFields(A& a, LogSaid& s)
{
    a("weight", s.weight);
    a("what", s.what);
    a("todo", s.todo);
    a.rest(s.extra);
}

template <class A> void listFields(A& a, Photo& p)
{
    a("file", p.file);
    a("of", p.of);
    a("subject", p.subject);
    a("words", p.words);
    a("when", p.when);
    a.rest(p.extra);
}

} // namespace vicegrip::job
