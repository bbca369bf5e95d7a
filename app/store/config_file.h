#pragma once

#include <QString>

#include <nlohmann/json.hpp>

namespace vicegrip::app {

/// A small file of this user's configuration: a JSON object with its version. Nobody's work hangs on it, so whatever is
/// wrong with it is said and the application goes on without: what cannot be understood is set aside under another
/// name, and what a newer version wrote is left as it is and not written over.
class ConfigFile
{
  public:
    /// `name` within the application's folder; `what` as a sentence begins with it: "The list of recent jobs".
    ConfigFile(const QString& name, int version, QString what);

    /// The members as they are now; an empty object where there is no file, or none that is ours.
    [[nodiscard]] nlohmann::json read();
    /// What was wrong, in a sentence; empty: nothing.
    [[nodiscard]] const QString& complaint() const { return m_complaint; }
    /// Writes the members and the version. What cannot be written is forgotten at the end.
    void write(nlohmann::json members) const;

    [[nodiscard]] const QString& path() const { return m_path; }

  private:
    QString m_path, m_what, m_complaint;
    int m_version;
    bool m_writes = true; ///< not over a newer version's
};

} // namespace vicegrip::app
