#include "core/base/phrase.h"
#include "core/base/typed_text.h"
#include "core/base/utf8.h"
#include "core/harness/edits.h"
#include "core/lists/taking.h"

#include <algorithm>
#include <map>

namespace vicegrip::lists {
namespace {

constexpr size_t kLongest = 80;

void rename(Taking& taking, int line, job::Circuit& circuit, const std::string& name)
{
    if (name == typed::trimmed(circuit.name)) // as cells are
        return;
    const bool marks = std::ranges::any_of(name, [](char c) { return static_cast<unsigned char>(c) < ' '; });
    if (name.empty() || lettersOf(name) > kLongest || marks)
        taking.stop(line, phrase("a name has 1 to 80 characters, in one line"));
    else
        circuit.name = name;
}

void fit(Taking& taking, int line, const job::Circuit& circuit, const std::string& id,
         const std::vector<parts::Part>& library)
{
    const parts::Part* now = job::partOf(taking.job, circuit);
    if (id == (now == nullptr ? std::string() : now->id.value))
        return;
    const parts::Part* part = job::findPart(taking.job, {id});
    if (const auto it = std::ranges::find(library, parts::PartId{id}, &parts::Part::id);
        part == nullptr && it != library.end())
        part = &*it;
    if (part == nullptr)
        return taking.stop(line, phrase("neither the job nor the library has a part \"{}\"", id));
    const parts::Part copy = *part; // the job's list of parts moves under it
    if (const auto done = harness::setSensor(taking.job, circuit.id, copy); !done)
        taking.stop(line, done.error().sentence);
}

void sit(Taking& taking, int line, const job::CircuitId& id, const std::string& seat)
{
    const job::Circuit& circuit = *job::find(taking.job, id);
    if (seat == job::seatOf(circuit))
        return;
    const auto done = seat.empty() ? harness::unseat(taking.job, id)
                      : job::actuatorOf(taking.job, circuit) != nullptr
                          ? harness::seat(taking.job, id, parts::OutputId{seat})
                          : harness::seat(taking.job, id, parts::InputId{seat});
    if (!done)
        taking.stop(line, done.error().sentence);
}

} // namespace

void takeParts(Taking& taking, const std::vector<Row>& rows, const std::vector<parts::Part>& library)
{
    std::map<std::string, int> seen;
    std::vector<const Row*> fine;
    for (const Row& r : rows) {
        const std::string id = cellOf(r, "circuit").value_or("");
        const auto [it, first] = seen.emplace(id, r.line);
        if (job::find(taking.job, job::CircuitId{id}) == nullptr)
            taking.stop(r.line, phrase("the job has no circuit \"{}\"", id));
        else if (!first)
            taking.stop(r.line, phrase("{} stands in line {} too", id, std::to_string(it->second)));
        else
            fine.push_back(&r);
    }
    for (const Row* r : fine) {
        job::Circuit& circuit = *job::find(taking.job, job::CircuitId{*cellOf(*r, "circuit")});
        if (const auto name = cellOf(*r, "name"))
            rename(taking, r->line, circuit, *name);
        if (const auto part = cellOf(*r, "part"))
            fit(taking, r->line, circuit, *part, library);
    }
    // Those that give their seat up first: nobody is turned out of the seat that its own row gives it.
    std::stable_partition(fine.begin(), fine.end(),
                          [](const Row* r) { return cellOf(*r, "seat").value_or("-").empty(); });
    for (const Row* r : fine)
        if (const auto seat = cellOf(*r, "seat"))
            sit(taking, r->line, job::CircuitId{*cellOf(*r, "circuit")}, *seat);
    for (const Row* r : fine) // several share the port of a bus; of other seats the last has it
        if (const auto seat = cellOf(*r, "seat");
            seat && std::ranges::none_of(taking.notes, &Note::stops) &&
            *seat != job::seatOf(*job::find(taking.job, job::CircuitId{*cellOf(*r, "circuit")})))
            taking.stop(r->line, phrase("{} is the seat of another line too", *seat));
}

} // namespace vicegrip::lists
