#pragma once

#include "core/capture/capture.h"
#include "core/job/job.h"
#include "core/trigger/trigger.h"

#include <QString>

#include <memory>
#include <optional>
#include <vector>

namespace vicegrip::app {

/// A capture as it was read.
struct Capture
{
    QString file; ///< with its folders; empty: it is in none yet
    QString name; ///< the file's alone, or what it was taken by
    capture::Seen seen;
    std::vector<capture::Overview> overviews; ///< of each channel
    QString trouble; ///< why it could not be read; empty: it was
};

/// How one channel of it is to be looked at.
struct Looking
{
    job::CircuitId circuit; ///< whose sensor made it
    size_t channel = 0;
    std::optional<size_t> beside; ///< the cam's
    std::optional<bool> coil; ///< none: as it looks
    trigger::Known known;
    trigger::Wanted wanted;
};

/// What that says.
struct Opened
{
    std::shared_ptr<const Capture> capture;
    Looking how;
    bool coil = false;
    std::optional<trigger::Look> look;
    std::vector<trigger::Verdict> verdicts;
    QString recognised; ///< the wheel it looks like, where that is another than said; empty: none
    QString trouble; ///< why it says nothing
};

[[nodiscard]] std::shared_ptr<const Capture> readForView(const QString& file);
/// What is in no file.
[[nodiscard]] std::shared_ptr<const Capture> forView(capture::Seen seen, const QString& name);
[[nodiscard]] Opened lookForView(std::shared_ptr<const Capture> capture, const Looking& how);

} // namespace vicegrip::app
