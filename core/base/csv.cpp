#include "core/base/csv.h"

#include <algorithm>

namespace vicegrip::csv {
namespace {

/// What begins so is worked out, and after a sign what calls something: "-40 °C" and "+12 V" are left as they are.
bool isFormula(std::string_view field)
{
    if (field.empty())
        return false;
    const bool sign = field.front() == '+' || field.front() == '-';
    return field.front() == '=' || field.front() == '@' ||
           (sign && field.find_first_of("(|!") != std::string_view::npos);
}

/// What would be taken for a formula, or for one that has its apostrophe.
bool isGuarded(std::string_view field)
{
    return isFormula(field.substr(std::min(field.find_first_not_of('\''), field.size())));
}

} // namespace

std::string row(const std::vector<std::string>& fields)
{
    std::string out;
    for (size_t i = 0; i < fields.size(); ++i) {
        out += i == 0 ? "" : ",";
        const std::string field = isGuarded(fields[i]) ? '\'' + fields[i] : fields[i];
        if (field.find_first_of(",\"\r\n") == std::string::npos) {
            out += field;
            continue;
        }
        out += '"';
        for (char c : field)
            out += c == '"' ? std::string("\"\"") : std::string(1, c);
        out += '"';
    }
    return out + "\r\n";
}

std::string_view unguarded(std::string_view field)
{
    return field.starts_with('\'') && isGuarded(field) ? field.substr(1) : field;
}

} // namespace vicegrip::csv
