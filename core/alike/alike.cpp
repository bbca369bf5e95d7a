#include "core/alike/alike.h"

#include "core/base/typed_text.h"

#include <algorithm>
#include <cctype>
#include <map>
#include <vector>

namespace vicegrip::alike {
namespace {

/// What people write for the words of a function (common practice).
const std::map<std::string, std::vector<std::string>>& spelledOut()
{
    static const std::map<std::string, std::vector<std::string>> kWords = {
        {"clt", {"coolant", "temp"}},
        {"ect", {"coolant", "temp"}},
        {"water", {"coolant"}},
        {"iat", {"intake", "air", "temp"}},
        {"act", {"intake", "air", "temp"}},
        {"map", {"manifold", "pressure"}},
        {"tps", {"throttle"}},
        {"maf", {"air", "mass"}},
        {"airflow", {"air", "mass"}},
        {"ckp", {"crank", "trigger"}},
        {"cmp", {"cam", "trigger"}},
        {"crankshaft", {"crank"}},
        {"camshaft", {"cam"}},
        {"vss", {"speed"}},
        {"flex", {"fuel", "composition"}},
        {"ethanol", {"fuel", "composition"}},
        {"temperature", {"temp"}},
        {"earth", {"ground"}},
        {"gnd", {"ground"}},
        {"return", {"ground"}},
        {"vref", {"sensor", "supply"}},
        {"5v", {"sensor", "supply"}},
        {"reference", {"sensor", "supply"}},
        {"12v", {"power", "feed"}},
        {"battery", {"power", "feed"}},
        {"ecu", {"power"}},
        {"sig", {"signal"}},
        {"output", {"signal"}},
        {"second", {"2"}},
        {"press", {"pressure"}},
        {"accelerator", {"pedal"}},
        {"accel", {"pedal"}},
        {"pps", {"pedal"}},
        {"pedalpos", {"pedal"}},
        {"tp", {"throttle"}},
        {"thr", {"throttle"}},
        {"thrtl", {"throttle"}},
        {"cool", {"coolant"}},
        {"clnt", {"coolant"}},
        {"tmp", {"temp"}},
        {"prs", {"pressure"}},
        {"pres", {"pressure"}},
        {"manif", {"manifold"}},
        {"mfp", {"manifold", "pressure"}},
        {"eth", {"fuel", "composition"}},
        {"intk", {"intake"}},
        {"inlet", {"intake"}},
        {"boost", {"charge", "pressure"}},
        {"turbo", {"turbocharger"}},
        {"egt", {"exhaust", "temp"}},
        {"exh", {"exhaust"}},
        {"afr", {"lambda"}},
        {"wideband", {"lambda"}},
        {"o2", {"lambda"}},
        {"baro", {"barometer"}},
        {"lubricant", {"oil"}},
        {"veh", {"road"}},
    };
    return kWords;
}

bool is(int (*what)(int), char c)
{
    return what(static_cast<unsigned char>(c)) != 0;
}

} // namespace

std::set<std::string> wordsOf(std::string_view name)
{
    static const std::set<std::string> kSilent = {"of", "the", "and", "wire", "pin", "position", "plug", "to", "track"};
    std::set<std::string> out;
    std::string word;
    for (char c : typed::lower(std::string(name)) + " ") {
        if ((c >= 'a' && c <= 'z') || (c >= '0' && c <= '9')) {
            word += c;
            continue;
        }
        if (const auto it = spelledOut().find(word); it != spelledOut().end())
            out.insert(it->second.begin(), it->second.end());
        else if (!word.empty() && !kSilent.contains(word))
            out.insert(word);
        word.clear();
    }
    return out;
}

std::string apart(std::string_view name)
{
    std::string out;
    for (size_t i = 0; i < name.size(); ++i) {
        const char before = i > 0 ? name[i - 1] : ' ', c = name[i], after = i + 1 < name.size() ? name[i + 1] : ' ';
        const bool begins =
            is(std::isupper, c) && (is(std::islower, before) || (is(std::isupper, before) && is(std::islower, after)));
        const bool number = is(std::isdigit, c) && is(std::isalpha, before);
        const bool letters = is(std::isalpha, c) && is(std::isdigit, before);
        if (begins || number || letters)
            out += ' ';
        out += c;
    }
    return out;
}

} // namespace vicegrip::alike
