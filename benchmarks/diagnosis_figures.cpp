#include "tests/support/calibration.h"
#include "tests/support/faulty_car.h"
#include "tests/support/half_splitting.h"
#include "tests/support/petrel.h"

#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <future>

/// Every single fault of both demo jobs: whether hands that do as the finder says end at the truth, and after how many
/// readings; beside halving what is left, and beside the least that any plan needs.
///
///     build/dev/bin/diagnosis_figures [--every N] [--misses]     every Nth fault; those that were not found
///     build/dev/bin/diagnosis_figures --cars N                   whether what is said to be 70 % is, over N cars

namespace vicegrip {
namespace {

struct Sum
{
    int faults = 0, shown = 0, found = 0, probes = 0, halving = 0;
    double seconds = 0, bits = 0, halvingSeconds = 0;

    void say(const char* what) const
    {
        std::printf("%-34s %5d faults, %5d show; first group %5.1f %%; %4.2f readings, %3.0f s "
                    "(halving %4.2f readings, %3.0f s; log2 of the groups %4.2f)\n",
                    what, faults, shown, 100.0 * found / shown, static_cast<double>(probes) / shown, seconds / shown,
                    static_cast<double>(halving) / shown, halvingSeconds / shown, bits / shown);
    }
};

/// A fault that was not found, what was taken for it, and what was read.
void tell(const job::Circuit& c, const diagnosis::Suspect& truth, const test::Ended& e)
{
    const diagnosis::Diagnosis& d = e.work.last;
    std::printf("  %s: %s: group %zu of %zu, %.3f; first %.3f: %s\n", c.id.value.c_str(), truth.what.c_str(),
                e.place + 1, e.groups, d.groups[e.place].share, d.groups[0].share,
                d.suspects[d.groups[0].members[0]].what.c_str());
    for (const diagnosis::Taken& t : e.work.taken)
        std::printf("      %s %s, %s\n", t.station.c_str(), job::readingText(t.reading, {}).c_str(),
                    job::conditionWords(t.reading.condition()).c_str());
    if (!d.probes.empty())
        std::printf("      next %s %.3f bits %.0f s\n", d.probes[0].spot.place.station.key.c_str(), d.probes[0].bits,
                    d.probes[0].seconds);
}

void survey(const char* file, bool noisy, size_t every, bool misses)
{
    const auto a = test::analysed(test::unread(file));
    Sum all;
    unsigned seed = 0;
    size_t turn = 0;
    for (const job::Circuit& c : a.job->circuits) {
        diagnosis::Finder finder(a, c.id, test::families(), test::library());
        const auto before = finder.diagnosis({}, job::Condition::KeyOn, 0);
        if (!before.trouble.empty())
            continue;
        const auto spots = test::spotsOf(a, c.id);
        const auto predicted = diagnosis::predictions(a, c.id, before.suspects, spots);
        const test::Halving halving(a, spots, predicted);
        for (size_t s = 1; s < before.suspects.size(); ++s) { // the first is that nothing is wrong
            if (++turn % every != 0)
                continue;
            ++all.faults;
            ++seed;
            job::Job built;
            test::Hands hands;
            if (noisy) {
                built = test::WithinTolerance(seed).car(*a.job);
                hands = {&built, seed, diagnosis::kSlips};
            }
            test::FaultyCar car(a, before.suspects[s], spots, hands);
            const test::Ended e = test::foundBy(finder, a, spots, car, s);
            if (!e.shows)
                continue;
            ++all.shown;
            all.found += e.place == 0 ? 1 : 0;
            all.probes += e.probes;
            all.seconds += e.seconds;
            all.bits += std::log2(static_cast<double>(e.groups));
            const auto [probes, seconds] = halving.find(car);
            all.halving += probes;
            all.halvingSeconds += seconds;
            if (misses && e.place != 0)
                tell(c, before.suspects[s], e);
        }
    }
    all.say((std::string(file) + (noisy ? ", built, noise, 2 % slips" : ", as drawn")).c_str());
}

/// Three circuits: a thermistor, a line with a supply, and one on the other car.
void calibrate(int cars)
{
    std::vector<std::future<std::string>> working;
    for (const auto& [file, circuit] :
         {std::pair("petrel.vicegrip", "clt"), {"petrel.vicegrip", "map"}, {"curlew.vicegrip", "tps"}})
        working.push_back(std::async(std::launch::async, [file, circuit, cars] {
            const auto a = test::analysed(test::unread(file));
            std::string out = std::string(circuit) + "\n";
            for (const auto& bin : test::calibration(a, {circuit}, cars / 3, 1).bins)
                if (bin.cars > 0) {
                    std::array<char, 80> line{};
                    (void)std::snprintf(line.data(), line.size(), "  said %5.1f %%: right %5.1f %% of %d\n",
                                        100 * bin.said / bin.cars, 100.0 * bin.right / bin.cars, bin.cars);
                    out += line.data();
                }
            return out;
        }));
    for (auto& w : working)
        std::fputs(w.get().c_str(), stdout);
}

} // namespace
} // namespace vicegrip

int main(int argc, char** argv)
{
    bool misses = false;
    size_t every = 1;
    int cars = 0;
    for (int i = 1; i < argc; ++i) {
        misses = misses || std::strcmp(argv[i], "--misses") == 0;
        if (std::strcmp(argv[i], "--every") == 0 && i + 1 < argc)
            every = std::max(1UL, std::strtoul(argv[i + 1], nullptr, 10));
        if (std::strcmp(argv[i], "--cars") == 0 && i + 1 < argc)
            cars = std::atoi(argv[i + 1]); // NOLINT(cert-err34-c): 0 is none
    }
    if (cars > 0) {
        vicegrip::calibrate(cars);
        return 0;
    }
    for (const char* file : {"petrel.vicegrip", "curlew.vicegrip"})
        for (const bool noisy : {false, true})
            vicegrip::survey(file, noisy, every, misses);
    return 0;
}
