#include "core/circuit/bounds.h"

#include <gmock/gmock.h>

/// Bounds of networks in which something stands open or closed, against all corners one by one.
namespace vicegrip::circuit {
namespace {

/// Every corner of what has a tolerance, solved anew.
Interval byBruteForce(const Solution& solution, const Probes& probes)
{
    std::vector<ElementIndex> moving;
    for (size_t i = 0; i < solution.network().elements().size(); ++i)
        if (const Element& e = solution.network().elements()[i]; e.least != e.most)
            moving.push_back(static_cast<ElementIndex>(i));
    Interval out{1e9, -1e9};
    for (size_t corner = 0; corner < size_t{1} << moving.size(); ++corner) {
        Network net = solution.network();
        for (size_t k = 0; k < moving.size(); ++k) {
            const Element& e = solution.network().element(moving[k]);
            net.setValue(moving[k], (corner >> k & 1) != 0 ? e.most : e.least);
        }
        const double v = solve(std::move(net))->voltmeter(probes.red, probes.black, 10e6).value;
        out = {std::min(out.low, v), std::max(out.high, v)};
    }
    return out;
}

/// A battery behind a wire, and loads of 14.5 Ohm, each switched by a contact of 0.1 Ohm in series. A contact's own
/// share of its branch says nothing of what opening it moves.
struct Rail
{
    explicit Rail(int loads)
    {
        const Node post = net.addNode();
        rail = net.addNode();
        net.addVoltageSource(post, kReference, 12.6, {0.4});
        net.addResistor(post, rail, 0.08, {0.02});
        for (int i = 0; i < loads; ++i) {
            const Node between = net.addNode();
            net.addResistor(rail, between, 14.5, {0.7});
            const ElementIndex contact = net.addResistor(between, kReference, 0.1, {0.05});
            net.setBounds(contact, 0.1, 0.05, 47e3);
        }
    }
    Network net;
    Node rail = 0;
};

void expectWithin(const Interval& ours, const Interval& exact)
{
    EXPECT_LE(ours.low, exact.low + 1e-9);
    EXPECT_GE(ours.high, exact.high - 1e-9);
    const double room = 0.02 * (exact.high - exact.low);
    EXPECT_GT(ours.low, exact.low - room);
    EXPECT_LT(ours.high, exact.high + room);
}

TEST(Switching, AContactInSeriesMovesTheWholeCurrentOfItsLoad)
{
    const Rail car(5);
    const auto solution = solve(Network(car.net));
    ASSERT_TRUE(solution);
    const Probes probes{car.rail, kReference};
    const auto nominal = solution->voltmeter(probes.red, probes.black, 10e6);
    expectWithin(Bounds(*solution).voltmeter(probes, 10e6, nominal), byBruteForce(*solution, probes));
}

/// More loads than a corner holds: by hand, all open is the most, and all closed, at their least, the least.
TEST(Switching, SoDoFortyOfThem)
{
    const Rail car(40);
    const auto solution = solve(Network(car.net));
    ASSERT_TRUE(solution);
    const auto nominal = solution->voltmeter(car.rail, kReference, 10e6);
    const Interval ours = Bounds(*solution).voltmeter({car.rail, kReference}, 10e6, nominal);
    const double closed = (14.5 - 0.7 + 0.05) / 40, open = 47e3 / 40;
    EXPECT_LE(ours.low, 12.2 * closed / (closed + 0.1));
    EXPECT_GE(ours.high, 13.0 * open / (open + 0.06));
    EXPECT_GT(ours.low, 9);
    EXPECT_LT(ours.high, 14.5);
}

/// What is held low by a contact shows, once that opens, a battery and a pull-up that weighed nothing before.
TEST(Switching, WhatOpensShowsWhatNobodySaw)
{
    Network net;
    const Node post = net.addNode(), feed = net.addNode(), signal = net.addNode();
    net.addVoltageSource(post, kReference, 13.2, {0.4});
    net.addResistor(post, feed, 0.5, {0.25});
    net.addResistor(feed, kReference, 12, {4});
    net.addResistor(feed, signal, 2200, {440});
    net.addResistor(signal, kReference, 20e3, {6e3});
    const ElementIndex contact = net.addResistor(signal, kReference, 0.1, {0.05});
    net.setBounds(contact, 0.1, 0.05, 1e6);
    const auto solution = solve(std::move(net));
    ASSERT_TRUE(solution);
    const Probes probes{signal, kReference};
    const auto nominal = solution->voltmeter(signal, kReference, 10e6);
    expectWithin(Bounds(*solution).voltmeter(probes, 10e6, nominal), byBruteForce(*solution, probes));
}

} // namespace
} // namespace vicegrip::circuit
