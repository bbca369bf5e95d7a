#include "app/stages/handover/difference_rows.h"

namespace vicegrip::app {

int addDifferences(Rows& to, const std::vector<compare::Difference>& differences, const QString& changed,
                   const QString& follows)
{
    const auto orDash = [](const std::string& words) { return words.empty() ? QStringLiteral("–") : text(words); };
    int byHand = 0;
    for (size_t i = 0; i < differences.size(); ++i) {
        const compare::Difference& d = differences[i];
        byHand += compare::follows(d.about) ? 0 : 1;
        if (i == 0 || compare::follows(d.about) != compare::follows(differences[i - 1].about))
            to.heading({compare::follows(d.about) ? follows : changed});
        to.rows.push_back({said(compare::aboutName(d.about)), text(d.what), orDash(d.before), orDash(d.after)});
    }
    return byHand;
}

} // namespace vicegrip::app
