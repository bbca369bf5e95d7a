#include "core/base/document.h"
#include "core/faults/fault_list.h"
#include "core/parts/describe.h"

#include <cstdint>
#include <cstdlib>

using namespace vicegrip;

namespace {

/// A reader either gives a part or says what is wrong.
void refusesWithASentence(const std::string_view text, const auto reader)
{
    const auto read = document::parse(text).and_then(reader);
    if (!read && read.error().sentence.empty())
        std::abort();
}

template <class Part> void complainsOrUnderstands(const parts::Described<Part>& read)
{
    if (read.part.has_value() != read.complaints.empty())
        std::abort();
}

} // namespace

/// Any bytes as each kind of part file, as the lines a user types, and as a fault list.
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, size_t size)
{
    const std::string_view text(reinterpret_cast<const char*>(data), size); // NOLINT: bytes are characters here
    refusesWithASentence(text, parts::readPart);
    refusesWithASentence(text, parts::readEcu);
    refusesWithASentence(text, parts::readTerminal);
    refusesWithASentence(text, parts::readLayout);
    complainsOrUnderstands(parts::partFromText(text));
    complainsOrUnderstands(parts::ecuFromText(text));
    complainsOrUnderstands(parts::layoutFromText(text, {parts::TerminalFamily{}}));
    (void)faults::readFaults(text, job::Job{});
    return 0;
}
