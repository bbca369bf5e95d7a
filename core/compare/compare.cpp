#include "core/compare/compare.h"

#include "core/base/csv.h"
#include "core/base/phrase.h"
#include "core/compare/told.h"

#include <algorithm>

namespace vicegrip::compare {

std::string_view aboutName(About about)
{
    switch (about) {
    case About::Circuit:
        return key("circuit");
    case About::Wire:
        return key("wire");
    case About::Cavity:
        return key("cavity");
    case About::Part:
        return key("part");
    case About::Setting:
        return key("setting");
    case About::Work:
        return key("work");
    case About::Table:
        return key("table");
    case About::Proof:
        return key("proof lost");
    }
    return {};
}

std::vector<Difference> differences(const analysis::Analysis& before, const analysis::Analysis& after)
{
    Told told;
    circuits(told, *before.job, *after.job);
    wires(told, *before.job, *after.job);
    cavities(told, *before.job, *after.job);
    partsOf(told, *before.job, *after.job);
    fitted(told, *before.job, *after.job);
    settings(told, before, after);
    others(told, *before.job, *after.job);
    work(told, before, after);
    tables(told, before, after);
    proofs(told, before, after);
    return std::move(told.out);
}

std::string toCsv(const std::vector<Difference>& differences)
{
    std::string out = csv::row({"about", "circuit", "what", "before", "after"});
    for (const Difference& d : differences)
        out += csv::row({std::string(aboutName(d.about)), d.circuit.value, d.what, d.before, d.after});
    return out;
}

} // namespace vicegrip::compare
