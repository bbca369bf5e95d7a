#include "core/electrics/wiring.h"

#include "core/job/json.h"

#include <gtest/gtest.h>
#include <map>
#include <random>
#include <set>

namespace vicegrip::electrics {
namespace {

job::Job demo(const char* name)
{
    return job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/" + name + ".vicegrip").value();
}

/// A demo job with wires taken off and others drawn anywhere: searches meet dead ends, rings and one another's marks.
job::Job shaken(const char* name, unsigned seed)
{
    std::mt19937 random(seed);
    job::Job job = demo(name);
    for (int i = 0; i < 8; ++i)
        job.wires.erase(job.wires.begin() + static_cast<std::ptrdiff_t>(random() % job.wires.size()));
    for (int i = 0; i < 12; ++i) {
        job::Wire wire = job.wires[random() % job.wires.size()];
        wire.id.value = "more-" + std::to_string(i);
        wire.to = job.wires[random() % job.wires.size()].to;
        if (wire.from != wire.to)
            job.wires.push_back(wire);
    }
    return job;
}

/// Joints on the shortest way from a place to every other that it leads to, by relaxing every edge again and again
/// (Bellman 1958, Ford 1956): nothing of the search it is held against is in it.
std::map<job::PointRef, size_t> distances(const job::Job& job, const job::PointRef& from)
{
    std::vector<std::pair<job::PointRef, job::PointRef>> edges;
    std::set<job::PointRef> conducting;
    for (const job::Wire& w : job.wires)
        edges.emplace_back(w.from, w.to);
    for (const job::Switch& s : job.switches)
        edges.emplace_back(s.from, s.to);
    for (const auto& [a, b] : edges)
        conducting.insert({a, b});
    for (const job::Connector& c : job.connectors)
        for (const std::string& cavity : c.cavities)
            if (c.kind == job::ConnectorKind::Inline && conducting.contains({c.id, cavity}) &&
                conducting.contains({c.mates, cavity}))
                edges.emplace_back(job::PointRef{c.id, cavity}, job::PointRef{c.mates, cavity});
    for (const job::Resistor& r : job.resistors)
        if (r.kind == job::ResistorKind::Series)
            edges.emplace_back(r.from, r.to);
    std::map<job::PointRef, size_t> out = {{from, 0}};
    for (bool changed = true; changed;) {
        changed = false;
        for (const auto& [a, b] : edges)
            for (const auto& [x, y] : {std::pair(a, b), {b, a}}) {
                const auto it = out.find(x);
                if (it == out.end())
                    continue;
                const size_t joints = it->second + 1;
                const auto [to, added] = out.try_emplace(y, joints);
                changed = changed || added || to->second > joints;
                to->second = std::min(to->second, joints);
            }
    }
    return out;
}

class WiringPaths : public testing::TestWithParam<const char*>
{
};

TEST_P(WiringPaths, AreTheShortestAndAllAtOnceIsOneByOne)
{
    for (unsigned seed = 0; seed < 20; ++seed) {
        const job::Job job = shaken(GetParam(), seed);
        const Wiring wiring(job);
        const auto all = wiring.paths();
        ASSERT_EQ(all.size(), job.circuits.size());
        for (size_t i = 0; i < all.size(); ++i) {
            const auto one = wiring.paths(job.circuits[i]);
            ASSERT_EQ(all[i].size(), one.size());
            for (size_t k = 0; k < one.size(); ++k) {
                EXPECT_EQ(all[i][k].points, one[k].points);
                EXPECT_EQ(all[i][k].subjects, one[k].subjects);
                EXPECT_EQ(all[i][k].complete, one[k].complete);
                if (!one[k].complete) {
                    EXPECT_EQ(one[k].points.size(), 1U);
                    continue;
                }
                const auto far = distances(job, one[k].points.front());
                const auto it = far.find(one[k].points.back());
                ASSERT_NE(it, far.end()) << one[k].points.back().text();
                EXPECT_EQ(one[k].points.size(), it->second + 1) << "fewest joints to " << it->first.text();
            }
        }
    }
}

TEST_P(WiringPaths, ANetIsWhatHangsTogetherWithoutSwitches)
{
    for (unsigned seed = 0; seed < 20; ++seed) {
        const job::Job job = shaken(GetParam(), seed);
        const Wiring wiring(job);
        job::Job apart = job;
        apart.switches.clear();
        for (const job::Circuit& c : job.circuits) {
            const auto net = wiring.signalNet(c);
            const auto paths = wiring.paths(c);
            if (paths.empty() || paths.front().role != parts::PinRole::Signal)
                continue;
            const auto far = distances(apart, paths.front().points.front());
            for (const auto& [place, joints] : far)
                EXPECT_TRUE(net.contains(place)) << place.text();
            for (const job::PointRef& place : net) {
                const job::Connector* half = job::findConnector(job, place.owner);
                const bool bare = half != nullptr && half->kind == job::ConnectorKind::Inline; // no wire goes on there
                EXPECT_TRUE(far.contains(place) || bare) << place.text();
            }
        }
    }
}

INSTANTIATE_TEST_SUITE_P(Demos, WiringPaths, testing::Values("petrel", "curlew"));

} // namespace
} // namespace vicegrip::electrics
