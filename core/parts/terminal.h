#pragma once

#include "core/base/fields.h"
#include "core/base/id.h"
#include "core/base/result.h"

#include <string>

/// Terminals by family: which wires they take, how they go home, and what goes on the wire with them.
namespace vicegrip::parts {

using TerminalId = Id<struct TerminalTag>;

enum class Seating {
    Push, ///< from the rear until it clicks
    Pull ///< threaded through the empty cavity, crimped in front of it, then pulled home
};

struct TerminalFamily
{
    TerminalId id;
    std::string name; ///< "1.5 mm sealed blade, push to seat"
    Seating seating = Seating::Push;
    double blade_m = 1.5e-3; ///< width of the contact
    double leastArea_m2 = 0.5e-6, mostArea_m2 = 1e-6; ///< conductors its crimp takes
    double leastInsulation_m = 1.2e-3, mostInsulation_m = 2.4e-3; ///< outer diameters its seal or grip takes
    double strip_m = 4.5e-3;
    bool sealed = false; ///< a seal on each wire, a blank plug in each unused cavity
    bool boot = false; ///< a boot over the rear of the plug
    bool secondaryLock = true;
    double most_a = 10; ///< continuous current (typical)
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const TerminalFamily&) const = default;
};

/// A family from a library file: checked against data/schema/terminal.schema.json, then for sense (ranges not empty).
[[nodiscard]] Result<TerminalFamily> readTerminal(const nlohmann::json& json);

/// The checks for sense alone; pointers are relative to the family.
[[nodiscard]] Result<void> checkTerminal(const TerminalFamily& family);

template <class A> void listFields(A& a, TerminalFamily& t)
{
    a("id", t.id);
    a("name", t.name);
    a("seating", t.seating);
    a.scaled("blade_mm", t.blade_m, 1e-3);
    a.scaled("least_mm2", t.leastArea_m2, 1e-6);
    a.scaled("most_mm2", t.mostArea_m2, 1e-6);
    a.scaled("least_insulation_mm", t.leastInsulation_m, 1e-3);
    a.scaled("most_insulation_mm", t.mostInsulation_m, 1e-3);
    a.scaled("strip_mm", t.strip_m, 1e-3);
    a("sealed", t.sealed);
    a("boot", t.boot);
    a("secondary_lock", t.secondaryLock);
    a("most_a", t.most_a);
    a.rest(t.extra);
}

} // namespace vicegrip::parts

template <> struct vicegrip::fields::EnumNames<vicegrip::parts::Seating>
{
    static constexpr std::pair<vicegrip::parts::Seating, std::string_view> kNames[] = {
        {vicegrip::parts::Seating::Push, "push"}, {vicegrip::parts::Seating::Pull, "pull"}};
};
