#include "core/base/csv.h"

namespace vicegrip::csv {

std::string row(const std::vector<std::string>& fields)
{
    std::string out;
    for (size_t i = 0; i < fields.size(); ++i) {
        out += i == 0 ? "" : ",";
        if (fields[i].find_first_of(",\"\r\n") == std::string::npos) {
            out += fields[i];
            continue;
        }
        out += '"';
        for (char c : fields[i])
            out += c == '"' ? std::string("\"\"") : std::string(1, c);
        out += '"';
    }
    return out + "\r\n";
}

} // namespace vicegrip::csv
