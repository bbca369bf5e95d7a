#include "core/feeds/feeds.h"

#include "core/base/phrase.h"
#include "core/units/units.h"
#include "core/wires/area.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace vicegrip::feeds {
namespace {

using electrics::Path;
using job::PointRef;

constexpr double kInjectorOpen = 0.85, kCoilCharges = 0.4; ///< shares of the time (typical)

double mostRating(double area_m2)
{
    const double amps = wires::mostAmps(area_m2, wires::kUnderBonnet_k, wires::kOverload_k) / wires::kFuseBlows;
    double out = 0;
    for (const double r : ratings())
        out = r <= amps * (1 + 1e-9) ? r : out;
    return out;
}

class Feeds
{
  public:
    Feeds(const job::Job& job, const electrics::Wiring& wiring) : m_job(job), m_wiring(wiring)
    {
        for (const job::Switch& s : job.switches)
            if (s.kind == job::SwitchKind::Fuse) {
                m_fuses["switch " + s.id] = m_feeds.size();
                Feed& f = m_feeds.emplace_back();
                f.fuse = s.id;
                f.label = s.label;
                f.rating_a = s.rating_a;
            }
        for (const job::Wire& w : job.wires)
            m_wires["wire " + w.id.value] = &w;
    }

    std::vector<Feed> all()
    {
        for (const parts::Ecu* unit : job::units(m_job))
            addUnit(*unit);
        for (const job::Load& l : m_job.loads)
            if (!l.starter)
                add({l.label.empty() ? l.id : l.label, {}, l.current_a}, l.from);
        for (const job::Circuit& c : m_job.circuits)
            addDriven(c);
        for (Feed& f : m_feeds)
            judge(f);
        return std::move(m_feeds);
    }

  private:
    void addUnit(const parts::Ecu& unit)
    {
        std::vector<PointRef> pins;
        for (const parts::EcuPin& pin : unit.pins)
            if (pin.role == parts::EcuPinRole::PowerFeed)
                pins.push_back(PointRef::fromText(pin.at));
        for (const PointRef& pin : pins)
            add({unit.name, {}, m_job.battery.charging_v / unit.feed_ohm / static_cast<double>(pins.size())}, pin);
    }

    /// What has a supply terminal draws there; what the ECU drives from its own feed draws at that.
    void addDriven(const job::Circuit& circuit)
    {
        const parts::Part* part = job::partOf(m_job, circuit);
        const job::Device* device = job::find(m_job, circuit.device);
        if (part == nullptr || device == nullptr || (!parts::isDriven(*part) && part->feed != parts::Feed::Battery))
            return;
        const double amps =
            parts::isDriven(*part) ? heating(*part) : parts::supplyAmps(*part, m_job.battery.charging_v);
        for (const auto& [cavity, role] : part->pins)
            if (role == parts::PinRole::Supply) {
                add({circuit.name, circuit.id, amps}, {device->connector, cavity});
                return;
            }
        if (parts::isOnBus(*part)) // a port, or the vehicle network: it draws elsewhere
            return;
        if (const parts::Ecu* unit = job::unitOf(m_job, circuit.output))
            for (const parts::EcuPin& pin : unit->pins)
                if (pin.role == parts::EcuPinRole::PowerFeed) {
                    add({circuit.name, circuit.id, amps}, PointRef::fromText(pin.at));
                    return;
                }
    }

    /// Along the way to the battery, on every fuse.
    void add(const Consumer& consumer, const PointRef& from)
    {
        const Path path = m_wiring.way(from, [&](const PointRef& p) {
            const job::Joint* j = m_wiring.joint(p);
            return j != nullptr && j->kind == job::JointKind::BatteryPositive;
        });
        if (!path.complete)
            return; // "feed-open" and "load-open" say so
        std::vector<const job::Wire*> wires;
        bool fused = false;
        for (const std::string& subject : path.subjects) {
            if (const auto wire = m_wires.find(subject); wire != m_wires.end()) {
                wires.push_back(wire->second);
            } else if (const auto fuse = m_fuses.find(subject); fuse != m_fuses.end()) {
                load(m_feeds[fuse->second], consumer, wires);
                wires.clear();
                fused = true;
            }
        }
        if (!fused)
            load(m_feeds.emplace_back(), consumer, wires);
    }

    static void load(Feed& feed, const Consumer& consumer, const std::vector<const job::Wire*>& wires)
    {
        const auto known = std::ranges::find_if(feed.consumers, [&](const Consumer& c) {
            return c.name == consumer.name && c.circuit == consumer.circuit;
        });
        if (known == feed.consumers.end())
            feed.consumers.push_back(consumer);
        else
            known->amps += consumer.amps;
        feed.amps += consumer.amps;
        for (const job::Wire* w : wires) {
            if (std::ranges::find(feed.wires, w->id) == feed.wires.end())
                feed.wires.push_back(w->id);
            if (!feed.thinnest || w->area_m2 < feed.area_m2) {
                feed.thinnest = w->id;
                feed.area_m2 = w->area_m2;
            }
        }
    }

    void judge(Feed& f) const
    {
        f.proposed_a = leastRating(f.amps);
        f.stands_a = f.thinnest ? mostRating(f.area_m2) : ratings().back();
        const std::string drawn = ampsText(f.amps), take = ampsText(f.proposed_a), has = ampsText(f.rating_a);
        const std::string wire = !f.thinnest ? phrase("no wire of its own")
                                             : phrase("{}, {}", f.thinnest->value,
                                                      units::format(f.area_m2, units::Dimension::Area, "mm²", 2));
        f.isWrong = true;
        if (f.consumers.empty()) {
            f.isWrong = false;
            f.reason = phrase("nothing that is drawn hangs on it");
        } else if (f.fuse.empty()) {
            f.reason = f.proposed_a > 0 ? phrase("no fuse: {} asks for {} at the battery", drawn, take)
                                        : phrase("no fuse, and {} is more than one carries: split it", drawn);
        } else if (f.proposed_a == 0) {
            f.reason = phrase("{} is more than one fuse carries: split it", drawn);
        } else if (f.proposed_a > f.stands_a) {
            f.reason = phrase("{} asks for {}, and the thinnest wire behind it ({}) stands {}: a thicker wire, or a "
                              "fuse of its own",
                              drawn, take, wire, ampsText(f.stands_a));
        } else if (f.rating_a > 0 && f.rating_a > f.stands_a) {
            f.reason = phrase("{} does not protect the thinnest wire behind it ({}), which stands {}: take {}", has,
                              wire, ampsText(f.stands_a), take);
        } else if (f.rating_a > 0 && f.rating_a * kLoaded < f.amps) {
            f.reason = phrase("{} on {} is more than the 75 % a fuse carries for long: take {}", drawn, has, take);
        } else {
            f.isWrong = false;
            f.reason = f.rating_a > 0 ? phrase("{} on {}; the thinnest wire behind it ({}) stands {}", drawn, has, wire,
                                               ampsText(f.stands_a))
                                      : phrase("take {}: {} is at most 75 % of it, and the thinnest wire behind it "
                                               "({}) stands {}",
                                               take, drawn, wire, ampsText(f.stands_a));
        }
    }

    const job::Job& m_job;
    const electrics::Wiring& m_wiring;
    std::vector<Feed> m_feeds;
    std::map<std::string, size_t> m_fuses; ///< by subject
    std::map<std::string, const job::Wire*> m_wires;
};

} // namespace

std::string ampsText(double amps)
{
    const bool whole = std::abs(amps - std::round(amps)) < 1e-9;
    return units::format(amps, units::Dimension::Current, "A", amps < 10 && !whole ? 1 : 0);
}

double leastRating(double amps)
{
    const auto it = std::ranges::find_if(ratings(), [&](double r) { return r * kLoaded >= amps * (1 - 1e-9); });
    return it == ratings().end() ? 0 : *it;
}

const std::vector<double>& ratings()
{
    static const std::vector<double> kRatings = {2, 3, 4, 5, 7.5, 10, 15, 20, 25, 30, 35, 40, 50, 60, 70, 80, 100};
    return kRatings;
}

double heating(const parts::Part& part)
{
    const auto drive = parts::driveOf(part);
    if (!drive)
        return 0;
    if (drive->supply_a > 0)
        return drive->supply_a; // as its sheet has it
    switch (part.kind) {
    case parts::PartUse::Injector:
        return drive->amps * std::sqrt(kInjectorOpen);
    case parts::PartUse::IgnitionCoil:
        return drive->amps * std::sqrt(kCoilCharges / 3);
    default:
        return drive->amps;
    }
}

std::vector<Feed> feedsOf(const job::Job& job, const electrics::Wiring& wiring)
{
    return Feeds(job, wiring).all();
}

} // namespace vicegrip::feeds
