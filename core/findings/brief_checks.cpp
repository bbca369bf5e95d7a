#include "core/findings/brief_checks.h"

#include "core/base/phrase.h"
#include "core/brief/needs.h"

namespace vicegrip::findings {

void checkBrief(std::vector<Finding>& out, const job::Job& job)
{
    if (!job.brief)
        return;
    for (const brief::Nonsense& n : brief::nonsense(*job.brief))
        out.push_back({"brief-facts",
                       Severity::Fix,
                       {},
                       phrase("Brief: {}", n.sentence),
                       phrase("What sensors and outputs the engine needs follows from its facts."),
                       phrase("Correct it at Brief: the sentence stands beside the field.")});
}

} // namespace vicegrip::findings
