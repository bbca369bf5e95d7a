#include "core/parts/terminal.h"

#include "core/base/document.h"
#include "core/base/phrase.h"
#include "core/base/schema_text.h"
#include "core/units/document_range.h"

namespace vicegrip::parts {

Result<void> checkTerminal(const TerminalFamily& t)
{
    const auto bad = [](const char* pointer, std::string sentence) -> Result<void> {
        return fail(ErrorCode::Range, std::move(sentence), {{}, pointer, 0, 0});
    };
    if (!(t.leastArea_m2 < t.mostArea_m2))
        return bad("/most_mm2", phrase("the crimp takes no conductor: most_mm2 must be above least_mm2"));
    if (!(t.leastInsulation_m < t.mostInsulation_m))
        return bad("/most_insulation_mm",
                   phrase("the seal takes no wire: most_insulation_mm must be above least_insulation_mm"));
    return {};
}

Result<TerminalFamily> readTerminal(const nlohmann::json& json)
{
    if (auto valid = units::validate(json, kTerminalSchema); !valid)
        return tl::make_unexpected(valid.error());
    auto family = fields::fromJson<TerminalFamily>(json);
    if (auto sense = checkTerminal(family); !sense)
        return tl::make_unexpected(sense.error());
    return family;
}

} // namespace vicegrip::parts
