#include "core/base/document.h"
#include "core/base/phrase.h"
#include "core/base/schema_text.h"
#include "core/parts/layout.h"
#include "core/units/document_range.h"
#include "core/units/units.h"

#include <algorithm>
#include <set>

namespace vicegrip::parts {
namespace {

constexpr size_t kMostCavities = 300;

Result<void> bad(ErrorCode code, std::string pointer, std::string sentence)
{
    return fail(code, std::move(sentence), {{}, std::move(pointer), 0, 0});
}

Result<void> checkRuns(const Layout& layout, std::set<int>& numbers)
{
    for (size_t r = 0; r < layout.rows.size(); ++r)
        for (size_t i = 0; i < layout.rows[r].runs.size(); ++i) {
            const Run& run = layout.rows[r].runs[i];
            const std::string at = "/rows/" + std::to_string(r) + "/runs/" + std::to_string(i);
            if (!run.terminal.empty() &&
                std::ranges::find(layout.terminals, run.terminal, &TerminalFamily::id) == layout.terminals.end())
                return bad(ErrorCode::Reference, at + "/terminal",
                           phrase("the layout has no terminal family \"{}\"", run.terminal.value));
            for (int n = std::min(run.first, run.last); n <= std::max(run.first, run.last); ++n)
                if (!numbers.insert(n).second)
                    return bad(ErrorCode::Reference, at, phrase("cavity {} is there twice", std::to_string(n)));
            if (numbers.size() > kMostCavities)
                return bad(ErrorCode::Range, at, phrase("more than 300 cavities"));
        }
    return {};
}

/// A blade may stand or lie, so it must fit one of the two pitches.
Result<void> checkSpacing(const Layout& layout)
{
    for (size_t r = 0; r < layout.rows.size(); ++r)
        for (size_t i = 0; i < layout.rows[r].runs.size(); ++i) {
            const Run& run = layout.rows[r].runs[i];
            const auto family = std::ranges::find(layout.terminals, run.terminal, &TerminalFamily::id);
            const TerminalFamily& t = family == layout.terminals.end() ? layout.terminals.front() : *family;
            const double pitch = run.pitch_m > 0 ? run.pitch_m : layout.pitch_m;
            if (t.blade_m >= std::max(pitch, layout.rowPitch_m))
                return bad(ErrorCode::Range, "/rows/" + std::to_string(r) + "/runs/" + std::to_string(i),
                           phrase("blades of {} lie on top of each other at a pitch of {}", millimetres(t.blade_m),
                                  millimetres(pitch)));
        }
    return {};
}

} // namespace

Result<void> checkLayout(const Layout& layout)
{
    if (layout.terminals.empty())
        return bad(ErrorCode::Range, "/terminals", phrase("a connector takes at least one family of terminals"));
    for (size_t t = 0; t < layout.terminals.size(); ++t)
        if (auto family = checkTerminal(layout.terminals[t]); !family) {
            family.error().place.pointer = "/terminals/" + std::to_string(t) + family.error().place.pointer;
            return family;
        }
    std::set<int> numbers;
    if (auto runs = checkRuns(layout, numbers); !runs)
        return runs;
    for (size_t m = 0; m < layout.missing.size(); ++m)
        if (!numbers.contains(layout.missing[m]))
            return bad(ErrorCode::Reference, "/missing/" + std::to_string(m),
                       phrase("no row has a place {} that could be missing", std::to_string(layout.missing[m])));
    if (cavities(layout).empty())
        return bad(ErrorCode::Range, "/rows", phrase("a connector has at least one cavity"));
    return checkSpacing(layout);
}

Result<void> checkCavities(const Layout& layout, const std::vector<std::string>& names)
{
    if (auto sense = checkLayout(layout); !sense) {
        sense.error().place.pointer = "/layout" + sense.error().place.pointer;
        return sense;
    }
    const std::vector<std::string> faceNames = cavityNames(layout);
    const std::set<std::string> onFace(faceNames.begin(), faceNames.end());
    for (size_t i = 0; i < names.size(); ++i)
        if (!onFace.contains(names[i]))
            return bad(ErrorCode::Reference, "/cavities/" + std::to_string(i),
                       phrase("its face has no cavity \"{}\"", names[i]));
    if (names.size() < onFace.size())
        return bad(ErrorCode::Reference, "/cavities",
                   phrase("its face has {} cavities, and {} are listed", std::to_string(onFace.size()),
                          std::to_string(names.size())));
    return {};
}

Result<Layout> readLayout(const nlohmann::json& json)
{
    if (auto valid = units::validate(json, kConnectorSchema); !valid)
        return tl::make_unexpected(valid.error());
    auto layout = fields::fromJson<Layout>(json);
    if (auto sense = checkLayout(layout); !sense)
        return tl::make_unexpected(sense.error());
    return layout;
}

} // namespace vicegrip::parts
