#include "core/base/result.h"

namespace vicegrip {

std::string Error::text() const
{
    std::string out = place.file;
    if (place.line > 0)
        out += (out.empty() ? "line " : ":") + std::to_string(place.line);
    if (place.column > 0)
        out += ":" + std::to_string(place.column);
    if (!out.empty())
        out += ": ";
    if (!place.pointer.empty())
        out += place.pointer + ": ";
    return out + sentence;
}

tl::unexpected<Error> fail(ErrorCode code, std::string sentence, Place place)
{
    return tl::make_unexpected(Error{code, std::move(sentence), std::move(place)});
}

} // namespace vicegrip
