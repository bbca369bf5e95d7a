#pragma once

#include <string>
#include <tl/expected.hpp>

/// Errors are values. A function that can fail returns `Result<T>`; the error carries a sentence a person can act on
/// and the place it is about. Exceptions never leave the folder they were thrown in.
///
///     Result<Job> job = readJob(text);
///     if (!job)
///         show(job.error().text());
namespace vicegrip {

enum class ErrorCode {
    Malformed, ///< not readable as what it claims to be
    Schema, ///< readable, but a field is missing or of the wrong shape
    Version, ///< written by a newer program
    TooBig, ///< more than the reader accepts
    Io, ///< the system refused: no such file, no space, no permission
    Reference, ///< a name that nothing in the document bears
    Range, ///< a number outside what is physically or technically possible
    Network, ///< an electrical network without one answer
    Stopped, ///< who asked for it wants it no more
};

/// Where an error is: any part may be empty (0 for line and column).
struct Place
{
    std::string file;
    std::string pointer; ///< JSON pointer (RFC 6901)
    int line = 0;
    int column = 0;
};

struct Error
{
    ErrorCode code = ErrorCode::Malformed;
    std::string sentence;
    Place place;

    /// The sentence with its place in front: "petrel.vicegrip:12:3: /circuits/0/name: ...".
    [[nodiscard]] std::string text() const;
};

template <class T> using Result = tl::expected<T, Error>;

/// An unexpected value for any Result: `return fail(ErrorCode::Range, "a length must be above 0 m");`
[[nodiscard]] tl::unexpected<Error> fail(ErrorCode code, std::string sentence, Place place = {});

} // namespace vicegrip
