#include "core/circuit/solution.h"

#include <cmath>
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <random>

namespace vicegrip::circuit {
namespace {

Result<Solution> divider(double top, double bottom)
{
    Network net;
    const Node supply = net.addNode(), middle = net.addNode();
    net.addVoltageSource(supply, kReference, 5.0, {0.05}, "supply");
    net.addResistor(supply, middle, top, {top * 0.01}, "pull-up");
    net.addResistor(middle, kReference, bottom, {bottom * 0.02}, "sensor");
    return solve(std::move(net));
}

// Horowitz and Hill, The Art of Electronics, 3rd ed., 1.2.3: Vout = Vin R2/(R1 + R2); 10k/10k from 30 V gives 15 V, and
// a 10k load across it 10 V (worked example, Thevenin equivalent 15 V behind 5k). From memory.
TEST(Circuit, LoadedDividerMatchesHandbookExample)
{
    Network net;
    const Node top = net.addNode(), middle = net.addNode();
    net.addVoltageSource(top, kReference, 30);
    net.addResistor(top, middle, 10e3);
    net.addResistor(middle, kReference, 10e3);
    const auto open = solve(net);
    ASSERT_TRUE(open);
    EXPECT_NEAR(open->volts(middle), 15, 1e-12);
    EXPECT_NEAR(open->voltmeter(middle, kReference, 10e3).value, 10, 1e-9);
}

// A Wheatstone bridge in balance shows 0 V whatever feeds it.
TEST(Circuit, BalancedBridgeReadsZero)
{
    Network net;
    const Node top = net.addNode(), left = net.addNode(), right = net.addNode();
    net.addVoltageSource(top, kReference, 12);
    net.addResistor(top, left, 100);
    net.addResistor(left, kReference, 200);
    net.addResistor(top, right, 1000);
    net.addResistor(right, kReference, 2000);
    net.addResistor(left, right, 470);
    const auto s = solve(net);
    ASSERT_TRUE(s);
    EXPECT_NEAR(s->volts(left, right), 0, 1e-12);
}

TEST(Circuit, SensitivitiesAreTheDerivatives)
{
    std::mt19937 random(3); // NOLINT(bugprone-random-generator-seed)
    std::uniform_real_distribution<double> ohms(10, 5000);
    Network net;
    std::vector<Node> nodes{kReference};
    for (int i = 0; i < 12; ++i) {
        nodes.push_back(net.addNode());
        net.addResistor(nodes.back(), nodes[random() % (nodes.size() - 1)], ohms(random));
    }
    for (int i = 0; i < 10; ++i)
        net.addResistor(nodes[random() % 6], nodes[6 + random() % 6], ohms(random));
    net.addVoltageSource(nodes[1], kReference, 5);
    net.addVoltageControlledVoltage(net.addNode(), nodes[3], nodes[1], nodes[4], 0.37);
    net.addResistor(13, nodes[8], 220);
    net.addCurrentSource(nodes[2], nodes[7], 0.004);

    const auto s = solve(net);
    ASSERT_TRUE(s);
    const Reading volts = s->voltmeter(nodes[9], nodes[5], 20e3);
    const Reading ohm = s->ohmmeter(nodes[9], nodes[5]);
    for (ElementIndex i = 0; i < static_cast<int>(net.elements().size()); ++i) {
        const double value = net.element(i).value, step = value * 1e-5;
        Network up = net, down = net;
        up.setValue(i, value + step);
        down.setValue(i, value - step);
        const auto hi = solve(up), lo = solve(down);
        const double slope =
            (hi->voltmeter(nodes[9], nodes[5], 20e3).value - lo->voltmeter(nodes[9], nodes[5], 20e3).value) /
            (2 * step);
        EXPECT_NEAR(volts.sensitivity[static_cast<size_t>(i)], slope, 1e-6 * std::abs(slope) + 1e-11);
        const double ohmSlope =
            (hi->ohmmeter(nodes[9], nodes[5]).value - lo->ohmmeter(nodes[9], nodes[5]).value) / (2 * step);
        EXPECT_NEAR(ohm.sensitivity[static_cast<size_t>(i)], ohmSlope, 1e-6 * std::abs(ohmSlope) + 1e-7);
    }
}

TEST(Circuit, SweepEqualsSolvingAgain)
{
    Network net;
    const Node supply = net.addNode(), wiper = net.addNode(), low = net.addNode(), out = net.addNode();
    const ElementIndex source = net.addVoltageSource(supply, kReference, 5);
    const ElementIndex upper = net.addResistor(supply, wiper, 6000);
    const ElementIndex lower = net.addResistor(wiper, low, 4000);
    net.addResistor(low, kReference, 0.3);
    const ElementIndex gain = net.addVoltageControlledVoltage(out, low, supply, low, 0.5);
    net.addResistor(out, wiper, 3300);
    const auto s = solve(net);
    ASSERT_TRUE(s);
    const Sweep sweep(*s, {upper, lower, gain, source}, {{wiper, low}, {supply, kReference}});
    for (const auto& values : {std::vector<double>{6000, 4000, 0.5, 5}, {1, 9999, 0.1, 4.9}, {9999, 0, 0.9, 12}}) {
        Network changed = net;
        for (size_t i = 0; i < 4; ++i)
            changed.setValue(std::vector{upper, lower, gain, source}[i], values[i]);
        const auto again = solve(changed);
        ASSERT_TRUE(again);
        EXPECT_NEAR(sweep.at(values)[0], again->volts(wiper, low), 1e-9);
        EXPECT_NEAR(sweep.at(values)[1], again->volts(supply), 1e-9);
    }
}

TEST(Circuit, ToleranceIsTheWorstCaseAndSigmaTheRoot)
{
    const auto s = divider(1000, 1000);
    ASSERT_TRUE(s);
    const Reading r = s->voltmeter(2, kReference, 1e15);
    // dV/dE = 1/2; dV/dR = -+ 5 * 1000 / 2000^2 = 1.25 mV/ohm.
    EXPECT_NEAR(r.worstCase(s->network()), 0.5 * 0.05 + 1.25e-3 * 10 + 1.25e-3 * 20, 1e-9);
    EXPECT_NEAR(r.sigma(s->network()), std::sqrt(0.025 * 0.025 + 0.0125 * 0.0125 + 0.025 * 0.025) / std::sqrt(3.0),
                1e-9);
}

TEST(Circuit, OpenPartIsTiedByALeakAndNamed)
{
    Network net;
    const Node supply = net.addNode(), lone = net.addNode(), other = net.addNode();
    net.addVoltageSource(supply, kReference, 5);
    net.addResistor(lone, other, 100);
    const auto s = solve(net);
    ASSERT_TRUE(s);
    EXPECT_THAT(s->floating(), testing::ElementsAre(testing::Contains(lone)));
    EXPECT_NEAR(s->volts(other), 0, 1e-9);
    EXPECT_GT(s->ohmmeter(other, kReference).value, 1e8);
}

TEST(Circuit, ShortsAndEmptyNetworksHaveAnswers)
{
    const auto shorted = divider(1000, 0);
    ASSERT_TRUE(shorted);
    EXPECT_NEAR(shorted->volts(2), 0, 1e-8);
    const auto empty = solve(Network{});
    ASSERT_TRUE(empty);
    EXPECT_EQ(empty->volts(kReference), 0);
    EXPECT_EQ(empty->voltmeter(kReference, kReference, 10e6).value, 0);
}

TEST(Circuit, ContradictionsAreNamed)
{
    Network fight;
    const Node n = fight.addNode();
    fight.addVoltageSource(n, kReference, 5, {}, "sensor supply");
    fight.addVoltageSource(n, kReference, 12, {}, "battery");
    const auto refused = solve(fight);
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().code, ErrorCode::Network);
    EXPECT_THAT(refused.error().sentence, testing::HasSubstr("battery"));

    Network shortedSource;
    shortedSource.addVoltageSource(kReference, kReference, 5, {}, "battery");
    EXPECT_FALSE(solve(shortedSource));

    EXPECT_FALSE(divider(std::nan(""), 1000));
    EXPECT_FALSE(divider(-5, 1000));

    Network missing;
    missing.addResistor(kReference, 7, 100);
    EXPECT_FALSE(solve(missing));

    Network itself; // v = 1 * v: any voltage would do
    const Node loop = itself.addNode();
    itself.addVoltageControlledVoltage(loop, kReference, loop, kReference, 1, {}, "follower of itself");
    EXPECT_FALSE(solve(itself));
}

TEST(Circuit, RandomNetworksNeverGiveNotANumber)
{
    std::mt19937 random(11); // NOLINT(bugprone-random-generator-seed)
    const double values[] = {0, 1e-9, 1e-3, 1, 470, 1e4, 1e9, 1e15};
    for (int run = 0; run < 500; ++run) {
        Network net;
        const int nodes = 1 + static_cast<int>(random() % 8);
        for (int i = 1; i < nodes; ++i)
            net.addNode();
        for (int i = 0; i < 12; ++i) {
            const auto node = [&] { return static_cast<Node>(random() % static_cast<unsigned>(nodes)); };
            const double value = values[random() % 8];
            switch (random() % 8) {
            case 0:
                net.addVoltageSource(node(), node(), value);
                break;
            case 1:
                net.addCurrentSource(node(), node(), std::min(value, 10.0));
                break;
            case 2:
                net.addVoltageControlledVoltage(node(), node(), node(), node(), std::min(value, 2.0));
                break;
            default:
                net.addResistor(node(), node(), value);
                break;
            }
        }
        const auto s = solve(net);
        if (!s) {
            EXPECT_FALSE(s.error().sentence.empty());
            continue;
        }
        for (Node i = 0; i < nodes; ++i)
            EXPECT_TRUE(std::isfinite(s->volts(i)));
    }
}

} // namespace
} // namespace vicegrip::circuit
