#pragma once

#include "core/can_log/can_log.h"
#include "core/recording/reader.h"

#include <filesystem>
#include <fstream>
#include <functional>

namespace vicegrip::recording {

/// Plays a recording, rows of numbers or a log of frames (candump), as far as its clock has come. Only what is played
/// is read, so that a log of hours begins at once.
class Player
{
  public:
    /// Errors: Io, Malformed (neither of both).
    [[nodiscard]] static Result<Player> open(const std::filesystem::path& file, const job::Job& job);

    /// Everything up to `time_s` after its beginning: what rows tell is added to `heard`, frames are handed to `frame`.
    /// Stops at a line that cannot be read (Malformed, with file, line and column), which has no time to wait for, and
    /// goes on after it the next time.
    [[nodiscard]] Result<void> until(double time_s, std::vector<stream::Heard>& heard,
                                     const std::function<void(const can_log::Frame&)>& frame);

    [[nodiscard]] bool isOver() const { return m_over; }
    [[nodiscard]] bool isOfFrames() const { return !m_rows; }
    [[nodiscard]] double seconds() const { return m_length_s; } ///< all of it, by its last line
    [[nodiscard]] int mark() const { return m_mark; } ///< the last one that was played; 0: none yet
    [[nodiscard]] const std::vector<std::string>& left() const; ///< columns that the job has not

  private:
    Player() = default;
    bool next();
    [[nodiscard]] Result<double> timeOf(const std::string& line) const;
    void measure();
    [[nodiscard]] Error placed(Error error) const;

    std::filesystem::path m_file;
    std::ifstream m_in;
    std::optional<Reader> m_rows; ///< none: it holds frames
    std::string m_line; ///< that waits for its time
    double m_began_s = 0, m_length_s = 0;
    int m_number = 0, m_mark = 0;
    bool m_waits = false, m_over = false;
};

} // namespace vicegrip::recording
