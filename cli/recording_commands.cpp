#include "cli/printing.h"
#include "core/base/csv.h"
#include "core/can_log/can_log.h"
#include "core/job/json.h"
#include "core/recording/recording.h"

#include <chrono>
#include <cmath>
#include <fstream>
#include <iostream>
#include <thread>

namespace vicegrip::cli {
namespace {

/// A job, and what makes numbers of frames for it: by the signals it names, and where it names none by their words.
struct Listening
{
    job::Job job;
    stream::Listener listener;
};

Result<Listening> listening(const std::string& jobFile, const std::string& dbcFile)
{
    auto job = job::readFile(jobFile);
    if (!job)
        return tl::make_unexpected(job.error());
    Listening out{std::move(*job), {}};
    if (dbcFile.empty())
        return out;
    const auto read = dbc::readFile(dbcFile);
    if (!read)
        return tl::make_unexpected(read.error());
    for (const Error& remark : read->remarks)
        std::cerr << remark.text() << '\n';
    const auto database = std::make_shared<const dbc::Database>(read->database);
    const auto matched = stream::Matcher(database).match(out.job);
    for (job::Circuit& c : out.job.circuits)
        if (c.told.empty())
            for (const stream::Matched& m : matched)
                if (m.circuit == c.id)
                    c.told.push_back(m.told);
    const auto ears = stream::earsOf(out.job);
    out.listener = stream::Listener(database, ears);
    for (const std::string& missing : out.listener.missing())
        std::cerr << missing << " is not in the database\n";
    for (const stream::Ear& ear : ears)
        std::cerr << job::inputs(out.job)[static_cast<size_t>(ear.input)]->id.value << ' '
                  << fields::enumName(ear.tells) << ": " << ear.message << '.' << ear.signal << '\n';
    return out;
}

void hear(const stream::Listener& listener, const can_log::Frame& frame, std::vector<stream::Heard>& heard)
{
    static std::vector<dbc::Value> values;
    if (!frame.error && !frame.remote)
        (void)listener.hear(frame.time_s, frame.id, frame.extended, frame.data, values, heard);
}

} // namespace

int record(const RecordOptions& options)
{
    const auto by = listening(options.job, options.dbc);
    if (!by)
        return refuse(by.error(), kUnreadable);
    std::ofstream out(options.out, std::ios::binary);
    if (!out)
        return refuse(options.out + ": it cannot be written", kUnreadable);
    recording::Writer writer(recording::columnsOf(by->job));
    std::string text = writer.header();
    std::vector<stream::Heard> heard;
    int number = 0;
    for (std::string line; std::getline(std::cin, line);) {
        ++number;
        if (line.empty() || line.front() == '#')
            continue;
        const auto frame = can_log::readLine(line);
        if (!frame) {
            Error error = frame.error();
            error.place.file = "standard input";
            error.place.line = number;
            return refuse(error, kUnreadable);
        }
        heard.clear();
        hear(by->listener, *frame, heard);
        for (const stream::Heard& h : heard)
            writer.take(h, text);
        out << text;
        text.clear();
    }
    writer.finish(text);
    out << text;
    std::cerr << writer.values() << " values in " << writer.seconds() << " s\n";
    return out.flush() ? kFine : refuse(options.out + ": it cannot be written", kUnreadable);
}

int replay(const ReplayOptions& options)
{
    const auto by = listening(options.job, options.dbc);
    if (!by)
        return refuse(by.error(), kUnreadable);
    auto player = recording::Player::open(options.file, by->job);
    if (!player)
        return refuse(player.error(), kUnreadable);
    if (player->isOfFrames() && options.dbc.empty())
        return refuse("frames need a file that describes them: --dbc", kUsage);
    for (const std::string& left : player->left())
        std::cerr << "the job has no place for " << left << '\n';
    const auto columns = recording::columnsOf(by->job);
    std::cout << csv::row({"time (s)", "input", "tells", "value", "unit"});
    constexpr double kStep_s = 0.02, kAll_s = 1e12;
    std::vector<stream::Heard> heard;
    std::optional<double> began_s;
    for (double due_s = 0; !player->isOver(); due_s += kStep_s * options.speed) {
        heard.clear();
        const auto played = player->until(options.speed > 0 ? due_s : kAll_s, heard,
                                          [&](const can_log::Frame& f) { hear(by->listener, f, heard); });
        for (const stream::Heard& h : heard) {
            began_s = began_s.value_or(h.time_s);
            const auto column = std::ranges::find_if(
                columns, [&](const recording::Column& c) { return c.input == h.input && c.tells == h.tells; });
            if (column == columns.end() || !std::isfinite(h.value))
                continue;
            std::array<char, 32> time{};
            (void)std::snprintf(time.data(), time.size(), "%.4f", h.time_s - *began_s);
            std::cout << csv::row({time.data(), column->name.value, std::string(fields::enumName(h.tells)),
                                   units::shortest(recording::toColumn(*column, h.value)), column->unit});
        }
        if (!played)
            return refuse(played.error(), kUnreadable);
        if (options.speed > 0) {
            std::cout.flush();
            std::this_thread::sleep_for(std::chrono::duration<double>(kStep_s));
        }
    }
    return kFine;
}

} // namespace vicegrip::cli
