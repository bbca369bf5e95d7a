#include "core/materials/cut_list.h"

#include "core/base/csv.h"
#include "core/base/phrase.h"
#include "core/parts/conductor.h"
#include "core/units/units.h"
#include "core/wires/leads.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>
#include <tuple>

namespace vicegrip::materials {
namespace {

using job::PointRef;

constexpr double kSpliceStrip_m = 6e-3; ///< of a butt splice (common practice, no source: about 6 mm for 20 gauge)
constexpr double kLugStrip_m = 8e-3; ///< of a ring terminal on a stud (typical)

/// Terminals and splice places, looked up once for all wires.
class Ends
{
  public:
    Ends(const job::Job& job, const Habits& habits) : m_job(job), m_stagger_m(habits.stagger_m)
    {
        int splices = 0;
        for (const job::Joint& j : job.joints)
            if (j.kind == job::JointKind::Splice)
                m_splices[j.id] = splices++;
        for (const job::Connector& c : job.connectors) {
            const parts::Layout face = job::faceOf(c);
            for (const parts::Cavity& place : parts::cavities(face))
                if (place.terminal != nullptr)
                    m_strips_m[{c.id, place.name}] = place.terminal->strip_m;
        }
    }

    [[nodiscard]] double strip_m(const PointRef& end) const
    {
        if (const auto it = m_strips_m.find(end); it != m_strips_m.end())
            return it->second;
        return m_splices.contains(end.owner) ? kSpliceStrip_m : kLugStrip_m;
    }
    /// How much further from the plug the splice at this end sits than the first; nothing for other ends.
    [[nodiscard]] double stagger_m(const PointRef& end) const
    {
        const auto it = m_splices.find(end.owner);
        constexpr int kTurn = 5; // five bulges side by side are past each other
        return it == m_splices.end() ? 0 : m_stagger_m * (it->second % kTurn);
    }
    [[nodiscard]] bool isPlug(const PointRef& end) const { return job::findConnector(m_job, end.owner) != nullptr; }

  private:
    const job::Job& m_job;
    double m_stagger_m;
    std::map<PointRef, double> m_strips_m; ///< of terminals
    std::map<std::string, int> m_splices; ///< place in the drawing
};

void layIn(Cut& cut, const job::Job& job)
{
    const job::Lead* lead = job::leadOf(job, cut.wire);
    if (lead == nullptr)
        return;
    cut.shielded = lead->shield;
    for (const job::WireId& core : lead->cores)
        if (core != cut.wire)
            cut.twistedWith.push_back(core);
    for (const PointRef& place : lead->drain)
        cut.drain.push_back(job::spoken(job, place));
}

} // namespace

std::vector<Cut> cutList(const job::Job& job, const Habits& habits)
{
    const Ends ends(job, habits);
    std::vector<Cut> out;
    for (const job::Wire& w : job.wires) {
        Cut cut;
        cut.wire = w.id;
        cut.from = job::spoken(job, w.from);
        cut.to = job::spoken(job, w.to);
        cut.colour = w.colour;
        cut.area_m2 = w.area_m2;
        cut.drawn_m = w.length_m;
        layIn(cut, job);
        const double twist = cut.twistedWith.empty() || cut.shielded ? 1 : wires::twistFactor(w.area_m2);
        const double stagger = ends.stagger_m(w.from) + ends.stagger_m(w.to);
        const double loops = habits.serviceLoop_m * ((ends.isPlug(w.from) ? 1 : 0) + (ends.isPlug(w.to) ? 1 : 0));
        const double length = w.length_m * (1 + habits.slack) * twist + loops + stagger;
        cut.cut_m = std::ceil(length * 100 - 1e-6) / 100;
        cut.stripFrom_m = ends.strip_m(w.from);
        cut.stripTo_m = ends.strip_m(w.to);
        cut.stagger_m = stagger;
        out.push_back(std::move(cut));
    }
    std::ranges::stable_sort(out, [](const Cut& a, const Cut& b) {
        return std::tuple(-a.area_m2, a.colour, -a.cut_m) < std::tuple(-b.area_m2, b.colour, -b.cut_m);
    });
    return out;
}

namespace {

std::string listed(const std::vector<std::string>& names)
{
    std::string out;
    for (const std::string& name : names)
        out += (out.empty() ? "" : ", ") + name;
    return out;
}

std::string note(const Cut& cut, std::string (*said)(double, units::Dimension, std::string_view, int))
{
    std::vector<std::string> out;
    std::vector<std::string> others;
    for (const job::WireId& w : cut.twistedWith)
        others.push_back(w.value);
    if (cut.stagger_m > 0)
        out.push_back(phrase("splice {} further out", said(cut.stagger_m, units::Dimension::Length, "mm", 0)));
    if (!cut.shielded && !others.empty())
        out.push_back(phrase("twisted with {}, a turn every {}", listed(others),
                             said(wires::kTwistPitch_m, units::Dimension::Length, "mm", 0)));
    if (cut.shielded)
        out.push_back(others.empty() ? phrase("in a shielded lead")
                                     : phrase("in one shielded lead with {}", listed(others)));
    if (cut.shielded)
        out.push_back(cut.drain.empty() ? phrase("its drain lands nowhere")
                                        : phrase("its drain lands at {}", listed(cut.drain)));
    std::string text;
    for (const std::string& each : out)
        text += (text.empty() ? "" : "; ") + each;
    return text;
}

} // namespace

std::string noteShown(const Cut& cut)
{
    return note(cut, &units::format);
}

std::string noteOf(const Cut& cut)
{
    return note(cut, &units::formatIn);
}

std::string toCsv(const std::vector<Cut>& cuts)
{
    std::string out = csv::row(
        {"wire", "from", "to", "colour", "area_mm2", "drawn_m", "cut_m", "strip_from_mm", "strip_to_mm", "note"});
    for (const Cut& c : cuts)
        out += csv::row({c.wire.value, c.from, c.to, c.colour, units::formatNumber(c.area_m2 * 1e6, 2),
                         units::formatNumber(c.drawn_m, 3), units::formatNumber(c.cut_m, 2),
                         units::formatNumber(c.stripFrom_m * 1e3, 1), units::formatNumber(c.stripTo_m * 1e3, 1),
                         noteOf(c)});
    return out;
}

} // namespace vicegrip::materials
