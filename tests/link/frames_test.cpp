#include "core/dbc/dbc.h"
#include "link/ecu_frames.h"

#include <cmath>
#include <gtest/gtest.h>
#include <limits>
#include <random>

namespace vicegrip::link {
namespace {

EcuTable pressureTable()
{
    return {3, {0.5F, 1.25F, 4.5F}, {-30.0F, 22.5F, 130.0F}};
}

std::optional<TableReceiver::Outcome> send(const QList<QCanBusFrame>& frames, int inputs = 8)
{
    TableReceiver receiver;
    std::optional<TableReceiver::Outcome> last;
    for (const QCanBusFrame& f : frames)
        if (auto outcome = receiver.take(f, inputs))
            last = outcome;
    return last;
}

TEST(EcuFrames, SampleGoesThere)
{
    for (const EcuSample& s : {EcuSample{0, 0, 0, {}}, EcuSample{7, 4095, 5.0, 130.5},
                               EcuSample{63, 2064, 2.52025, -40.0}, EcuSample{5, 3500, 14.5, {}}}) {
        const auto back = sampleOf(frameOf(s));
        ASSERT_TRUE(back);
        EXPECT_EQ(back->input, s.input);
        EXPECT_EQ(back->counts, s.counts);
        EXPECT_NEAR(back->volts, s.volts, 1e-9);
        EXPECT_EQ(back->value, s.value);
    }
}

/// The file that ships says of every frame what the bench means by it.
TEST(EcuFrames, AreDescribedByTheFileThatShips)
{
    const auto bus = dbc::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/links/bench.dbc");
    ASSERT_TRUE(bus) << bus.error().text();
    EXPECT_TRUE(bus->remarks.empty());
    const auto read = [&](const QCanBusFrame& frame) {
        const dbc::Message* message = bus->database.find(frame.frameId(), false);
        std::vector<dbc::Value> values;
        if (message != nullptr) {
            const QByteArray bytes = frame.payload();
            const std::vector<std::uint8_t> data(bytes.begin(), bytes.end());
            EXPECT_EQ(std::ssize(data), message->bytes);
            dbc::decode(*message, data, values);
        }
        return values;
    };
    for (int i = 0; i < kMostInputs; ++i) {
        const EcuSample sample{i, 7 * i, 0.25 * (i % 60), -40.5 + i};
        const auto values = read(frameOf(sample));
        ASSERT_EQ(values.size(), 3U) << i;
        EXPECT_EQ(values[0].value, sample.counts);
        EXPECT_NEAR(values[1].value, sample.volts, 1e-9);
        EXPECT_EQ(values[2].value, sample.value);
        EXPECT_EQ(values[1].signal->unit, "V");
        EXPECT_EQ(values[2].signal->name, "Input" + std::to_string(i) + "Value");
        const auto pulses = read(frameOf(EcuPulses{i, 93.25, 0.0025}));
        ASSERT_EQ(pulses.size(), 2U);
        EXPECT_EQ(pulses[0].value, 93.25);
        EXPECT_EQ(pulses[1].value, 0.0025F);
    }
    EXPECT_TRUE(std::isnan(read(frameOf(EcuSample{5, 3500, 14.5, {}}))[2].value)) << "no table yet";
}

TEST(EcuFrames, PulsesGoThere)
{
    for (const EcuPulses& p : {EcuPulses{0, 0, 0}, EcuPulses{63, 93.25, 0.0025}}) {
        const auto back = pulsesOf(frameOf(p));
        ASSERT_TRUE(back);
        EXPECT_EQ(back->input, p.input);
        EXPECT_NEAR(back->hz, p.hz, 1e-5);
        EXPECT_NEAR(back->low_s, p.low_s, 1e-9);
        EXPECT_FALSE(sampleOf(frameOf(p))) << "it is no sample";
    }
    EXPECT_FALSE(pulsesOf(frameOf(EcuPulses{1, std::nan(""), 0})));
    EXPECT_FALSE(pulsesOf(frameOf(EcuPulses{1, -5, 0})));
    EXPECT_FALSE(pulsesOf(frameOf(EcuSample{1, 2048, 2.5, {}})));
}

TEST(EcuFrames, AFormulaArrivesAndIsWorkedOut)
{
    const EcuTable line{2, {-37.5F, 75.0F}, {}, TableKind::Polynomial};
    const auto there = send(framesOf(line));
    ASSERT_TRUE(there);
    EXPECT_EQ(there->answer, TableAnswer::Accepted);
    EXPECT_EQ(there->table, line);
    EXPECT_NEAR(valueAt(line, 4.5), 300, 1e-9) << "kPa: -37.5 + 75 x 4.5";
    // The common 10 kOhm curve at 25 °C behind 2490 Ohm to 5 V, shown in °F (coefficients from memory).
    const EcuTable warm{
        2, {1.129148e-3F, 2.34125e-4F, 8.76741e-8F, 2490, 5, 1.8F, -459.67F}, {}, TableKind::SteinhartHart};
    EXPECT_NEAR(valueAt(warm, 5 * 10000.0 / 12490), 77, 0.1);
    EXPECT_EQ(send(framesOf(warm))->answer, TableAnswer::Accepted);
    EcuTable bad = warm;
    bad.readings.pop_back();
    EXPECT_EQ(send(framesOf(bad))->answer, TableAnswer::NoFormula);
    bad = warm;
    bad.readings[3] = 0; // no pull-up
    EXPECT_EQ(send(framesOf(bad))->answer, TableAnswer::NoFormula);
    bad = line;
    bad.readings.resize(10, 1.0F);
    EXPECT_EQ(send(framesOf(bad))->answer, TableAnswer::NoFormula);
    bad = line;
    bad.readings[1] = std::numeric_limits<float>::quiet_NaN();
    EXPECT_EQ(send(framesOf(bad))->answer, TableAnswer::NoFormula);
}

TEST(EcuFrames, TableArrivesWhole)
{
    const auto outcome = send(framesOf(pressureTable()));
    ASSERT_TRUE(outcome);
    EXPECT_EQ(outcome->answer, TableAnswer::Accepted);
    EXPECT_EQ(outcome->table, pressureTable());
    const auto answer = answerOf(frameOf(3, TableAnswer::Accepted));
    ASSERT_TRUE(answer);
    EXPECT_EQ(answer->input, 3);
}

TEST(EcuFrames, LostDamagedAndFoolishTablesAreRefused)
{
    auto frames = framesOf(pressureTable());
    frames.removeAt(2);
    EXPECT_EQ(send(frames)->answer, TableAnswer::Incomplete);
    frames = framesOf(pressureTable());
    QByteArray bytes = frames[3].payload();
    bytes[7] = static_cast<char>(bytes[7] ^ 1);
    frames[3].setPayload(bytes);
    EXPECT_EQ(send(frames)->answer, TableAnswer::Damaged);
    frames = framesOf(pressureTable());
    frames.removeFirst();
    EXPECT_EQ(send(frames)->answer, TableAnswer::Incomplete);
    EcuTable falling = pressureTable();
    std::swap(falling.readings[0], falling.readings[2]);
    EXPECT_EQ(send(framesOf(falling))->answer, TableAnswer::NotRising);
    EXPECT_EQ(send(framesOf(pressureTable()), 2)->answer, TableAnswer::NoSuchInput);
    EcuTable one{0, {1.0F}, {1.0F}};
    EXPECT_EQ(send(framesOf(one))->answer, TableAnswer::Incomplete);
}

TEST(EcuFrames, AnyFrameIsSurvived)
{
    std::mt19937 random(9); // NOLINT(bugprone-random-generator-seed)
    TableReceiver receiver;
    for (int i = 0; i < 20000; ++i) {
        QByteArray bytes(static_cast<qsizetype>(random() % 9), '\0');
        for (char& b : bytes)
            b = static_cast<char>(random() % (random() % 2 == 0 ? 4 : 256));
        const QCanBusFrame frame(random() % 2 == 0 ? kTableWrite : kSampleBase + static_cast<quint32>(random() % 80),
                                 bytes);
        if (const auto sample = sampleOf(frame)) {
            EXPECT_GE(sample->input, 0);
            EXPECT_LT(sample->input, kMostInputs);
        }
        (void)receiver.take(frame, 8);
        (void)answerOf(frame);
    }
}

} // namespace
} // namespace vicegrip::link
