#include "core/fit/line.h"
#include "core/fit/monotone.h"
#include "core/fit/thermistor.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <filesystem>
#include <fstream>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>
#include <random>
#include <unistd.h>

/// Fits against published data and another program.
namespace vicegrip::fit {
namespace {

/// Pearson's data with York's weights (York 1966, table II); the line and its standard deviations as York and others
/// give them in 2004. Data from memory; that they are right is what the published result shows.
TEST(York1966, PearsonsDataWithYorksWeights)
{
    const double x[] = {0.0, 0.9, 1.8, 2.6, 3.3, 4.4, 5.2, 6.1, 6.5, 7.4};
    const double wx[] = {1000, 1000, 500, 800, 200, 80, 60, 20, 1.8, 1.0};
    const double y[] = {5.9, 5.4, 4.4, 4.6, 3.5, 3.7, 2.8, 2.8, 2.4, 1.5};
    const double wy[] = {1, 1.8, 4, 8, 20, 20, 70, 70, 100, 500};
    std::vector<Point> points;
    for (size_t i = 0; i < std::size(x); ++i)
        points.push_back({x[i], y[i], 1 / std::sqrt(wx[i]), 1 / std::sqrt(wy[i])});
    const auto line = fitLine(points);
    ASSERT_TRUE(line);
    EXPECT_NEAR(line->slope, -0.480533407, 1e-8);
    EXPECT_NEAR(line->intercept, 5.47991022, 1e-7);
    EXPECT_NEAR(line->sigmaSlope, 0.0580, 5e-5);
    EXPECT_NEAR(line->sigmaIntercept, 0.295, 5e-4);
    EXPECT_NEAR(line->chiSquared, 11.866, 5e-4);
}

/// NIST Statistical Reference Datasets, linear regression, "Norris": certified values. Data from memory; that they are
/// right is what the certified result shows.
TEST(NistStrd, Norris)
{
    const double data[][2] = {
        {0.1, 0.2},     {338.8, 337.4}, {118.1, 118.2}, {888.0, 884.6}, {9.2, 10.1},    {228.1, 226.5},
        {668.5, 666.3}, {998.5, 996.3}, {449.1, 448.6}, {778.9, 777.0}, {559.2, 558.2}, {0.3, 0.4},
        {0.1, 0.6},     {778.1, 775.5}, {668.8, 666.9}, {339.3, 338.0}, {448.9, 447.5}, {10.8, 11.6},
        {557.7, 556.0}, {228.3, 228.1}, {998.0, 995.8}, {888.8, 887.6}, {119.6, 120.2}, {0.3, 0.3},
        {0.6, 0.3},     {557.6, 556.8}, {339.3, 339.1}, {888.0, 887.2}, {998.5, 999.0}, {778.9, 779.0},
        {10.2, 11.1},   {117.6, 118.3}, {228.9, 229.2}, {668.4, 669.1}, {449.2, 448.9}, {0.2, 0.5}};
    std::vector<Point> points;
    for (const auto& [y, x] : data)
        points.push_back({x, y, 0, 0});
    const auto line = fitLine(points);
    ASSERT_TRUE(line);
    EXPECT_NEAR(line->intercept, -0.262323073774029, 1e-10);
    EXPECT_NEAR(line->slope, 1.00211681802045, 1e-12);
    EXPECT_NEAR(line->sigmaIntercept, 0.232818234301152, 1e-9);
    EXPECT_NEAR(line->sigmaSlope, 0.429796848199937e-3, 1e-12);
}

/// The common 10 kOhm curve (Steinhart, Hart 1968; coefficients from memory, as in the parts' reference) read at three
/// temperatures gives its own coefficients back, and so does a reading at eight.
TEST(SteinhartHart, AKnownCurveComesBack)
{
    const parts::SteinhartHartCurve curve{1.129148e-3, 2.34125e-4, 8.76741e-8};
    for (const std::vector<double>& celsius :
         {std::vector<double>{0, 25, 70}, {-30, -10, 5, 20, 45, 70, 95, 120}, {24, 27, 30}}) {
        std::vector<parts::TableCurve::Point> readings;
        for (double c : celsius)
            readings.push_back({c + 273.15, parts::ohms(curve, c + 273.15)});
        const auto fit = fitThermistor(readings);
        ASSERT_TRUE(fit) << fit.error().sentence;
        EXPECT_NEAR(fit->curve.a, curve.a, 1e-9);
        EXPECT_NEAR(fit->curve.b, curve.b, 1e-10);
        EXPECT_NEAR(fit->curve.c, curve.c, 1e-12);
        EXPECT_LT(fit->worst_k, 1e-8);
    }
}

/// SciPy's PchipInterpolator on the same random senders.
TEST(PchipByScipy, RandomSendersAgree)
{
    namespace fs = std::filesystem;
    std::mt19937 random(8); // NOLINT(bugprone-random-generator-seed)
    nlohmann::json cases = nlohmann::json::array();
    for (int trial = 0; trial < 60; ++trial) {
        std::vector<double> x, y, at;
        double here = std::uniform_real_distribution(-5.0, 5.0)(random);
        for (unsigned i = 0; i < 2 + random() % 9; ++i) {
            x.push_back(here += std::uniform_real_distribution(0.1, 4.0)(random));
            y.push_back(random() % 5 == 0 && !y.empty() ? y.back() : std::uniform_real_distribution(-9.0, 9.0)(random));
        }
        if (trial % 2 == 0)
            std::ranges::sort(y);
        for (int i = 0; i <= 40; ++i)
            at.push_back(std::lerp(x.front(), x.back(), i / 40.0));
        cases.push_back({{"x", x}, {"y", y}, {"at", at}});
    }
    const fs::path folder = fs::temp_directory_path() / ("pchip-" + std::to_string(getpid()));
    fs::create_directories(folder);
    const fs::path in = folder / "in.json", out = folder / "out.json";
    std::ofstream(in) << cases.dump();
    const std::string command =
        "/usr/bin/python3 -c \"import json, sys; from scipy.interpolate import PchipInterpolator as P; "
        "json.dump([P(c['x'], c['y'])(c['at']).tolist() for c in json.load(open(sys.argv[1]))], "
        "open(sys.argv[2], 'w'))\" " +
        in.string() + " " + out.string();
    ASSERT_EQ(std::system(command.c_str()), 0); // NOLINT(cert-env33-c,concurrency-mt-unsafe)
    std::ifstream read(out);
    const auto theirs = nlohmann::json::parse(read);
    fs::remove_all(folder);
    for (size_t c = 0; c < cases.size(); ++c) {
        std::vector<Monotone::Breakpoint> breakpoints;
        for (size_t i = 0; i < cases[c]["x"].size(); ++i)
            breakpoints.push_back({cases[c]["x"][i], cases[c]["y"][i]});
        const auto curve = Monotone::through(breakpoints);
        ASSERT_TRUE(curve);
        for (size_t i = 0; i < cases[c]["at"].size(); ++i)
            EXPECT_NEAR(curve->at(cases[c]["at"][i]), theirs[c][i].get<double>(), 1e-10) << c << " " << i;
    }
}

} // namespace
} // namespace vicegrip::fit
