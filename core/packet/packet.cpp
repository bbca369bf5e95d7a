#include "core/packet/packet.h"

#include "core/base/document.h"
#include "core/base/phrase.h"
#include "core/book/chapters.h"
#include "core/book/html.h"
#include "core/book/pdf.h"
#include "core/electrics/wiring.h"
#include "core/job/json.h"
#include "core/packet/answers.h"

#include <algorithm>
#include <iterator>
#include <set>

namespace vicegrip::packet {
namespace {

namespace fs = std::filesystem;

/// A name that every file system takes.
std::string safe(std::string_view name)
{
    std::string out;
    for (const char c : name) {
        const bool letter = (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9');
        out += letter || c == '_' ? c : '-';
    }
    constexpr size_t kMost = 60;
    return out.empty() ? "job" : out.substr(0, kMost);
}

void addSensors(std::vector<File>& to, const analysis::Analysis& analysis, const std::vector<Priced>& priced)
{
    const job::Job& job = *analysis.job;
    const auto paths = electrics::Wiring(job).paths();
    for (size_t i = 0; i < job.circuits.size(); ++i) {
        const job::Circuit& c = job.circuits[i];
        if (job::sensorOf(job, c) == nullptr)
            continue;
        std::vector<book::Section> sections{
            {phrase("What it is, and what was read"), book::circuitOf(analysis, i, paths[i])}};
        if (auto scale = book::scaleOf(analysis, i, priced[i]); !scale.empty())
            sections.push_back({phrase("Scaling"), std::move(scale)});
        if (auto wheel = book::wheelOf(analysis, i); !wheel.empty())
            sections.push_back({phrase("Trigger"), std::move(wheel)});
        to.push_back({"sensors/" + c.id.value + ".html", phrase("{}: what it is, what was read, its scaling", c.name),
                      book::pageOf(c.name, {}, sections)});
    }
}

std::string startPage(const analysis::Analysis& analysis, const std::vector<Priced>& priced, const std::string& title,
                      const std::vector<File>& files)
{
    std::vector<book::Section> sections{{phrase("What to trust how far"), trustOf(analysis, priced)}};
    std::ranges::move(questionsOf(analysis, priced), std::back_inserter(sections));
    book::Table list{{{phrase("File"), 1.4, true}, {phrase("What is in it"), 3}}};
    for (const File& f : files)
        list.rows.push_back({f.path, f.about});
    sections.push_back({phrase("The files of this packet"), {std::move(list)}});
    return book::pageOf(phrase("Tuner's packet: {}", title), book::coverOf(analysis), sections);
}

} // namespace

Result<std::vector<Log>> readLogs(const std::vector<fs::path>& files)
{
    std::vector<Log> out;
    std::set<std::string> names;
    size_t all = 0;
    for (const fs::path& file : files) {
        auto bytes = document::readFile(file, kMostLogs - all);
        if (!bytes && bytes.error().code == ErrorCode::TooBig)
            return fail(ErrorCode::TooBig,
                        phrase("the logs of a packet are at most {} MB together", std::to_string(kMostLogs >> 20U)),
                        {file.string(), {}, 0, 0});
        if (!bytes)
            return tl::unexpected(bytes.error());
        Log log{{}, std::move(*bytes)};
        all += log.bytes.size();
        const std::string stem = safe(file.stem().string());
        const std::string ending = file.extension().empty() ? "" : "." + safe(file.extension().string().substr(1));
        log.name = stem + ending;
        for (int n = 2; !names.insert(log.name).second; ++n)
            log.name = stem + "-" + std::to_string(n) + ending;
        out.push_back(std::move(log));
    }
    return out;
}

Result<Packet> packetOf(const analysis::Analysis& analysis, const book::Beside& beside, const std::vector<Log>& logs)
{
    const job::Job& job = *analysis.job;
    const std::vector<Priced> priced = pricedOf(analysis, beside.stop);
    const book::Book made = book::bookOf(analysis, {book::allChapters().begin(), book::allChapters().end()}, beside);
    auto pdf = book::pdfOf(made, beside.stop);
    if (!pdf)
        return tl::unexpected(pdf.error());
    std::vector<File> files;
    addTables(files, analysis);
    addSensors(files, analysis, priced);
    addBudgets(files, analysis, priced);
    addFacts(files, analysis);
    for (const Log& log : logs)
        files.push_back({"logs/" + log.name, phrase("A log, as it was recorded"), log.bytes});
    files.push_back({"book.pdf", phrase("The build book"), std::move(*pdf)});
    files.push_back({"job.vicegrip", phrase("The job itself, for whoever goes on with it"), job::write(job)});
    Packet out{safe(job.name) + "-packet", {}};
    std::string start = startPage(analysis, priced, made.title, files);
    out.files.push_back({"start.html", phrase("Read this first"), std::move(start)});
    std::ranges::move(files, std::back_inserter(out.files));
    return out;
}

} // namespace vicegrip::packet
