#include "core/circuit/solution.h"
#include "tests/support/ngspice.h"

#include <cmath>
#include <gtest/gtest.h>
#include <random>
#include <sstream>

/// Reference: ngspice (Debian's package, run as a program) on the same random sensor networks.
namespace vicegrip::circuit {
namespace {

class RandomSensorNetwork
{
  public:
    explicit RandomSensorNetwork(unsigned seed) : m_random(seed)
    {
        const Node battery = m_net.addNode();
        m_net.addVoltageSource(battery, kReference, between(11.5, 14.5));
        const Node ecuGround = m_net.addNode();
        m_net.addResistor(ecuGround, kReference, between(0.001, 0.05));
        const Node inside = m_net.addNode(), supply = m_net.addNode();
        m_net.addVoltageSource(inside, ecuGround, between(4.9, 5.1));
        m_net.addResistor(inside, supply, between(0.1, 2));
        m_net.addCurrentSource(battery, ecuGround, between(0.1, 2));
        const int sensors = 2 + static_cast<int>(m_random() % 5);
        Node sharedGround = wire(ecuGround);
        for (int i = 0; i < sensors; ++i) {
            const Node input = m_net.addNode();
            m_net.addResistor(input, ecuGround, between(1e5, 1e6));
            const Node signal = wire(wire(input));
            const Node ground = m_random() % 3 == 0 ? wire(sharedGround) : wire(ecuGround);
            addSensor(inside, supply, battery, input, signal, ground);
        }
    }

    [[nodiscard]] const Network& network() const { return m_net; }

    [[nodiscard]] std::string spice() const
    {
        std::ostringstream out;
        out.precision(17);
        out << "random sensor network\n.options reltol=1e-12 abstol=1e-18 vntol=1e-15 gmin=1e-18\n";
        int i = 0;
        for (const Element& e : m_net.elements()) {
            ++i;
            switch (e.kind) {
            case Element::Kind::Resistor:
                out << 'R' << i << ' ' << e.a << ' ' << e.b;
                break;
            case Element::Kind::VoltageSource:
                out << 'V' << i << ' ' << e.a << ' ' << e.b << " DC";
                break;
            case Element::Kind::CurrentSource:
                out << 'I' << i << ' ' << e.a << ' ' << e.b << " DC";
                break;
            case Element::Kind::VoltageControlledVoltage:
                out << 'E' << i << ' ' << e.a << ' ' << e.b << ' ' << e.c << ' ' << e.d;
                break;
            }
            out << ' ' << e.value << '\n';
        }
        out << ".control\nset numdgt=15\nop\n";
        for (Node n = 1; n < m_net.nodeCount(); ++n)
            out << "print v(" << n << ")\n";
        out << "quit\n.endc\n.end\n";
        return out.str();
    }

  private:
    double between(double low, double high) { return std::uniform_real_distribution<double>(low, high)(m_random); }

    Node wire(Node from)
    {
        const Node to = m_net.addNode();
        m_net.addResistor(from, to, between(0.001, 0.3));
        return to;
    }

    void addSensor(Node inside, Node supply, Node battery, Node input, Node signal, Node ground)
    {
        switch (m_random() % 4) {
        case 0: // thermistor on a pull-up
            m_net.addResistor(inside, input, between(500, 5000));
            m_net.addResistor(signal, ground, between(50, 50000));
            break;
        case 1: { // potentiometer
            const double x = between(0.02, 0.98);
            m_net.addResistor(wire(supply), signal, 10e3 * (1 - x));
            m_net.addResistor(signal, ground, 10e3 * x);
            break;
        }
        case 2: { // ratiometric transducer
            const Node feed = wire(supply), out = m_net.addNode();
            m_net.addVoltageControlledVoltage(out, ground, feed, ground, between(0.1, 0.9));
            m_net.addResistor(out, signal, between(1, 100));
            m_net.addResistor(feed, ground, between(500, 3000));
            break;
        }
        default: { // conditioner with its own supply and a heater
            const Node out = m_net.addNode();
            m_net.addVoltageSource(out, ground, between(0, 5));
            m_net.addResistor(out, signal, between(1, 200));
            m_net.addResistor(wire(battery), ground, between(8, 60));
            break;
        }
        }
    }

    std::mt19937 m_random;
    Network m_net;
};

TEST(Ngspice, AgreesOnTwoHundredRandomSensorNetworks)
{
    double worst = 0;
    for (unsigned seed = 1; seed <= 200; ++seed) {
        const RandomSensorNetwork random(seed);
        const auto ours = solve(random.network());
        ASSERT_TRUE(ours) << ours.error().text();
        const std::vector<double> theirs = test::askNgspice(random.spice());
        ASSERT_EQ(theirs.size(), static_cast<size_t>(random.network().nodeCount() - 1)) << "is ngspice installed?";
        for (size_t i = 0; i < theirs.size(); ++i) {
            const double volts = ours->volts(static_cast<Node>(i) + 1);
            const double apart = std::abs(volts - theirs[i]) / std::max(std::abs(theirs[i]), 1e-3);
            worst = std::max(worst, apart);
            EXPECT_LT(apart, 1e-9) << "seed " << seed << " node " << i + 1 << ": " << volts << " against " << theirs[i];
        }
    }
    RecordProperty("worst_relative_difference", std::to_string(worst));
}

} // namespace
} // namespace vicegrip::circuit
