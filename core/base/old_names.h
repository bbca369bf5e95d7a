#pragma once

#include <nlohmann/json_fwd.hpp>
#include <string>
#include <string_view>

/// What was called otherwise before version 1.0: members of files, facts that proofs rest on, members of requests to
/// the bench, options of the command line. All are understood; what is written has today's names. The table stands in
/// old_names.cpp alone, and in docs/formats.md for people.
namespace vicegrip::old_names {

/// Gives every member of a job, a part or an ECU that has an old name its new one, wherever the table says it stands.
/// A member whose new name is there already stays as it is, as one that nobody knows.
void renew(nlohmann::json& document);

/// Today's name of a member of a request to the bench's control channel, or of an option ("--knots"); the name itself
/// where it is no old one.
[[nodiscard]] std::string_view requestMember(std::string_view name);
[[nodiscard]] std::string option(std::string_view argument);

} // namespace vicegrip::old_names
