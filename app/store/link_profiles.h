#pragma once

#include "app/store/config_file.h"
#include "core/job/job.h"

#include <QString>

#include <map>
#include <vector>

namespace vicegrip::app {

/// How an ECU is listened to, kept for the next car.
struct StreamProfile
{
    QString name;
    QString plugin, interface; ///< of the CAN adapter
    int bitRate = 0; ///< bit/s; 0: as the interface is set up outside
    QString database; ///< file that describes the frames: our own copy, once it is kept; empty: its values are asked
                      ///< for over OBD
    QString from; ///< where that was taken from
    std::map<std::string, std::vector<job::Told>> told; ///< which signals stood for which circuit, last time
    [[nodiscard]] bool isObd() const { return database.isEmpty(); }
    bool operator==(const StreamProfile&) const = default;
};

/// This user's links to instruments and ECUs, whatever the job. Databases are copied beside the list, so that a link
/// lasts longer than the folder its file was taken from.
class LinkProfiles
{
  public:
    LinkProfiles();

    [[nodiscard]] const std::vector<StreamProfile>& streams() const { return m_streams; }
    [[nodiscard]] const StreamProfile* stream(const QString& name) const; ///< null: there is none of that name
    /// Multimeters, by where they are reached, as it was typed.
    [[nodiscard]] const std::vector<QString>& meters() const { return m_meters; }
    /// As ConfigFile.
    [[nodiscard]] const QString& complaint() const { return m_file.complaint(); }

    /// Keeps it in the place of one of the same name. Errors: its database cannot be copied.
    [[nodiscard]] Result<void> keep(StreamProfile profile);
    void forget(const QString& name);
    void keepMeter(const QString& place);
    void forgetMeter(const QString& place);

  private:
    void read();
    void write() const;
    [[nodiscard]] QString copyOf(const QString& name) const;

    ConfigFile m_file;
    std::vector<StreamProfile> m_streams;
    std::vector<QString> m_meters;
};

} // namespace vicegrip::app
