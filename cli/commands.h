#pragma once

#include <optional>
#include <string>
#include <vector>

/// The commands, each one core call and its printing. They return the exit code.
namespace vicegrip::cli {

enum ExitCode {
    kFine = 0,
    kFindings = 1, ///< `check` found something to stop for or to fix
    kUsage = 2, ///< the command line is wrong
    kUnreadable = 3, ///< a file cannot be read, or is not what it claims to be
    kNoAnswer = 4, ///< the job is fine, but what was asked for is not in it or cannot be worked out
};

struct CheckOptions
{
    std::string job;
    bool json = false;
};

struct ExpectOptions
{
    std::string job;
    std::string circuit; ///< empty: all
    std::string condition = "key-on"; ///< "battery-off" or "key-on"
    std::string ambient, barometer; ///< as typed; empty: the job's
    bool json = false;
};

struct ScaleOptions
{
    std::string job;
    std::string circuit;
    std::optional<int> points;
    bool csv = false;
    bool json = false;
};

struct SeatOptions
{
    std::string job;
    bool json = false;
};

struct RangeOptions
{
    std::string job;
    std::string circuit;
    bool json = false;
};

struct NeedsOptions
{
    std::string job;
    bool json = false;
};

struct PinsOptions
{
    std::string job;
    std::string connector; ///< empty: all
    std::string face = "wire"; ///< "wire" or "mating"
    bool json = false;
};

/// Of `cut` and of `buy`.
struct ListOptions
{
    std::string job;
    bool csv = false;
    bool json = false;
};

struct PlanOptions
{
    std::string job;
    std::vector<std::string> closed; ///< gates that are shut
    bool json = false;
};

struct BundleOptions
{
    std::vector<std::string> wires; ///< "1.6x7": diameter in mm and number
    bool json = false;
};

int check(const CheckOptions& options);
int expect(const ExpectOptions& options);
int scale(const ScaleOptions& options);
int seat(const SeatOptions& options);
int range(const RangeOptions& options);
int needs(const NeedsOptions& options);
int pins(const PinsOptions& options);
int cut(const ListOptions& options);
int buy(const ListOptions& options);
int bundle(const BundleOptions& options);
int plan(const PlanOptions& options);

} // namespace vicegrip::cli
