#pragma once

#include "core/base/result.h"
#include "core/job/job.h"

#include <filesystem>
#include <map>
#include <string>
#include <string_view>

/// Photos of the work: shrunk, turned upright and without anything but the picture, in a folder beside the job.
///
///     auto photo = photos::readImage("IMG_0042.JPG");
///     auto name = photos::keep(*photo, "petrel.vicegrip"); // petrel-photos/1f0c...-1600x1200.jpg
namespace vicegrip::photos {

/// What is kept of a photo: a JPEG (ITU-T T.81) of three colours, without place, device, date or any other remark.
struct Jpeg
{
    std::string bytes;
    int width = 0, height = 0; ///< pixels
    bool operator==(const Jpeg&) const = default;
};

inline constexpr int kMost_px = 1600; ///< of the longer side: a connector's numbers are read on a page

/// A JPEG or PNG, turned as its own mark of orientation says (Exif, tag 274), shrunk to `kMost_px`, on white where it
/// is not opaque. The same picture makes the same bytes. Errors: Malformed (empty, another kind of file, damaged or cut
/// off), TooBig (above 40 MB or 64 million pixels: it is not unpacked).
[[nodiscard]] Result<Jpeg> shrunk(std::string_view image);
/// The same of a file, of which no more is read than is understood. Errors name it; Io: it cannot be read.
[[nodiscard]] Result<Jpeg> readImage(const std::filesystem::path& file);

/// Where a job's photos are: petrel-photos beside petrel.vicegrip.
[[nodiscard]] std::filesystem::path folderOf(const std::filesystem::path& jobFile);

/// Puts a photo there, whole or not at all; its name there, which is made of what is in it: the same photo is kept
/// once. Errors: Io.
[[nodiscard]] Result<std::string> keep(const Jpeg& photo, const std::filesystem::path& jobFile);

/// A job's photos by their names, each as it is kept or why it cannot be shown. A file that was put in another's place
/// is read as any foreign one.
using Album = std::map<std::string, Result<Jpeg>>;
[[nodiscard]] Album albumOf(const job::Job& job, const std::filesystem::path& jobFile);
[[nodiscard]] Result<Jpeg> photoOf(const job::Photo& photo, const std::filesystem::path& jobFile);

/// Takes a job's photos along to another place. Those that are not there are passed over. Errors: Io, at the first that
/// cannot be written.
[[nodiscard]] Result<void> carry(const job::Job& job, const std::filesystem::path& from,
                                 const std::filesystem::path& to);

/// What it shows, in words: "Coolant temp", "Plug CLT", the part's name, the logbook's line. What is no longer in the
/// job is said so.
[[nodiscard]] std::string subjectText(const job::Job& job, const job::Photo& photo);

/// For a page that holds its pictures itself: "data:image/jpeg;base64,..." (RFC 2397).
[[nodiscard]] std::string dataAddress(const Jpeg& photo);

} // namespace vicegrip::photos
