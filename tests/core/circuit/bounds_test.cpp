#include "core/circuit/bounds.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <gtest/gtest.h>
#include <random>

/// Bounds against every corner there is, each solved anew: slow, and plainly right.
namespace vicegrip::circuit {
namespace {

/// What is read of a solved network.
using Read = std::function<double(const Solution&)>;

/// Every combination of the ends of the elements that may move, and of the settings of those that move together.
Interval everyCorner(const Network& net, const Read& read, const Moving& moving = {})
{
    std::vector<ElementIndex> singles;
    std::vector<size_t> groups;
    const auto moves = [&](ElementIndex i) { return moving.empty() || moving[static_cast<size_t>(i)]; };
    for (size_t i = 0; i < net.elements().size(); ++i)
        if (net.elements()[i].least != net.elements()[i].most && moves(static_cast<ElementIndex>(i)))
            singles.push_back(static_cast<ElementIndex>(i));
    for (size_t g = 0; g < net.together().size(); ++g)
        if (moves(net.together()[g].elements.front()))
            groups.push_back(g);
    size_t combinations = size_t{1} << singles.size();
    for (size_t g : groups)
        combinations *= net.together()[g].settings.size();
    Interval out{1e300, -1e300};
    for (size_t c = 0; c < combinations; ++c) {
        Network corner = net;
        size_t code = c;
        for (ElementIndex i : singles) {
            corner.setValue(i, code % 2 == 0 ? net.element(i).least : net.element(i).most);
            code /= 2;
        }
        for (size_t g : groups) {
            const Together& t = net.together()[g];
            const auto& setting = t.settings[code % t.settings.size()];
            code /= t.settings.size();
            for (size_t k = 0; k < t.elements.size(); ++k)
                corner.setValue(t.elements[k], setting[k]);
        }
        const auto solution = solve(std::move(corner));
        EXPECT_TRUE(solution);
        const double value = read(*solution);
        out.low = std::min(out.low, value);
        out.high = std::max(out.high, value);
    }
    return out;
}

void expectSame(const Interval& found, const Interval& truth, const std::string& what)
{
    // What hardly weighs enters with room: a little wide, never narrow.
    const double width = truth.high - truth.low, exact = 1e-7 * (width + std::abs(truth.high)), room = 0.02 * width;
    EXPECT_LE(found.low, truth.low + exact) << what;
    EXPECT_GE(found.high, truth.high - exact) << what;
    EXPECT_GE(found.low, truth.low - room - exact) << what;
    EXPECT_LE(found.high, truth.high + room + exact) << what;
}

class RandomNetworks
{
  public:
    explicit RandomNetworks(unsigned seed) : m_random(seed) {}

    double between(double low, double high) { return std::uniform_real_distribution<double>(low, high)(m_random); }
    double wide(double low, double high) { return std::exp(between(std::log(low), std::log(high))); }
    Node node(int nodes) { return static_cast<Node>(m_random() % static_cast<unsigned>(nodes)); }

    /// A supply behind a resistance, a sensor on it and an input, a shared ground with a consumer that may be off, and
    /// a few resistors anywhere, all with tolerances, some wide.
    Network network()
    {
        Network net;
        const Node battery = net.addNode(), rail = net.addNode(), signal = net.addNode(), ground = net.addNode();
        const int nodes = net.nodeCount();
        net.addVoltageSource(battery, kReference, 12, {between(0, 2)});
        net.addResistor(battery, rail, wide(0.1, 100), {});
        tolerant(net.addResistor(ground, kReference, wide(1e-3, 1), {}), net, 1);
        tolerant(net.addResistor(rail, signal, wide(100, 1e4), {}), net, 0.05);
        const ElementIndex load = net.addResistor(rail, ground, wide(1, 100), {});
        net.setBounds(load, net.element(load).value, net.element(load).value * 0.7, 1e9);
        if (m_random() % 2 == 0) {
            const Node out = net.addNode();
            const double gain = between(0.1, 0.9);
            net.addVoltageControlledVoltage(out, ground, rail, ground, gain, {0.05});
            tolerant(net.addResistor(out, signal, wide(10, 1e4), {}), net, 0.2);
        } else {
            const double track = wide(1e3, 1e4), at = between(0.1, 0.9);
            const Node wiper = net.addNode();
            Together halves{
                {net.addResistor(rail, wiper, track * (1 - at)), net.addResistor(wiper, ground, track * at)}, {}};
            for (const double t : {0.8 * track, 1.2 * track})
                for (const double a : {at - 0.05, at + 0.05})
                    halves.settings.push_back({t * (1 - a), t * a});
            net.moveTogether(halves);
            tolerant(net.addResistor(wiper, signal, wide(10, 1e3), {}), net, 0.5);
        }
        for (int i = 0; i < 2; ++i)
            tolerant(net.addResistor(node(nodes), node(nodes), wide(1, 1e4), {}), net, between(0, 0.5));
        net.addCurrentSource(node(nodes), node(nodes), between(-0.01, 0.01), {0.005});
        return net;
    }

  private:
    static void tolerant(ElementIndex i, Network& net, double share)
    {
        const double v = net.element(i).value;
        net.setBounds(i, v, v * (1 - share), v * (1 + share));
    }

    std::mt19937 m_random;
};

TEST(Bounds, AreThoseOfEveryCornerTried)
{
    RandomNetworks random(7);
    for (int run = 0; run < 150; ++run) {
        const Network net = random.network();
        const std::string what = "network " + std::to_string(run);
        const auto solution = solve(net);
        ASSERT_TRUE(solution);
        Bounds bounds(*solution);
        const Node rail = 2, signal = 3, ground = 4;
        const double meter = run % 3 == 0 ? 1e4 : 1e7; // a poor one loads what it measures
        expectSame(bounds.voltmeter({signal, kReference}, meter, solution->voltmeter(signal, kReference, meter)),
                   everyCorner(net, [&](const Solution& s) { return s.voltmeter(signal, kReference, meter).value; }),
                   what + ", volts");
        constexpr double kNoLoad = 1e15;
        Reading ratio = solution->voltmeter(signal, ground, kNoLoad);
        const Reading full = solution->voltmeter(rail, ground, kNoLoad);
        if (full.value < 0.5)
            continue; // no unit works there, and a quotient has a pole
        for (size_t i = 0; i < ratio.sensitivity.size(); ++i)
            ratio.sensitivity[i] =
                5 * (ratio.sensitivity[i] - ratio.value / full.value * full.sensitivity[i]) / full.value;
        ratio.value *= 5 / full.value;
        expectSame(
            bounds.ratio({signal, ground}, {rail, ground}, 5, ratio),
            everyCorner(net, [&](const Solution& s) { return 5 * s.volts(signal, ground) / s.volts(rail, ground); }),
            what + ", ratio");
        Moving some;
        for (size_t i = 0; i < net.elements().size(); ++i)
            some.push_back(i % 2 == 0);
        for (const Together& t : net.together())
            for (ElementIndex i : t.elements)
                some[static_cast<size_t>(i)] = true;
        expectSame(bounds.voltmeter({signal, ground}, 0, solution->voltmeter(signal, ground, kNoLoad), some),
                   everyCorner(
                       net, [&](const Solution& s) { return s.volts(signal, ground); }, some),
                   what + ", some of it");
    }
}

TEST(Bounds, OfAResistanceToo)
{
    RandomNetworks random(3);
    for (int run = 0; run < 100; ++run) {
        Network net;
        for (int i = 0; i < 5; ++i)
            net.addNode();
        for (int i = 0; i < 9; ++i) {
            const double ohms = random.wide(1e-3, 1e5);
            net.addResistor(i < 5 ? i : random.node(6), i < 5 ? i + 1 : random.node(6), ohms,
                            {ohms * random.between(0, 1)}); // a contact may be anything from nothing to twice
        }
        const auto solution = solve(net);
        ASSERT_TRUE(solution);
        expectSame(Bounds(*solution).ohmmeter({1, 4}, solution->ohmmeter(1, 4)),
                   everyCorner(net, [](const Solution& s) { return s.ohmmeter(1, 4).value; }), "ohms");
    }
}

// 5 V ± 1 %, 2490 Ohm ± 1 % over 2200 Ohm ± 10 %: the corners by hand.
TEST(Bounds, OfALoadedDividerByHand)
{
    Network net;
    const Node top = net.addNode(), middle = net.addNode();
    net.addVoltageSource(top, kReference, 5, {0.05});
    net.addResistor(top, middle, 2490, {24.9});
    net.addResistor(middle, kReference, 2200, {220});
    const auto solution = solve(net);
    ASSERT_TRUE(solution);
    const auto [low, high] =
        Bounds(*solution).voltmeter({middle, kReference}, 0, solution->voltmeter(middle, kReference, 1e15));
    EXPECT_NEAR(high, 5.05 * 2420 / (2420 + 2465.1), 1e-9);
    EXPECT_NEAR(low, 4.95 * 1980 / (1980 + 2514.9), 1e-9);
}

TEST(Bounds, OfWhatNothingMovesAreItself)
{
    Network net;
    const Node a = net.addNode();
    net.addVoltageSource(a, kReference, 5);
    const auto solution = solve(net);
    ASSERT_TRUE(solution);
    const auto [low, high] = Bounds(*solution).voltmeter({a, kReference}, 1e7, solution->voltmeter(a, kReference, 1e7));
    EXPECT_DOUBLE_EQ(low, 5);
    EXPECT_DOUBLE_EQ(high, 5);
}

} // namespace
} // namespace vicegrip::circuit
