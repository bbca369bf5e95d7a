#pragma once

#include "app/store/config_file.h"

#include <map>
#include <string>

namespace vicegrip::app {

/// How often each thing of the finder was taken, kept from start to start.
class Taken
{
  public:
    Taken();

    /// Of an entry's key; 0 for one that never was, and for no key.
    [[nodiscard]] int times(const std::string& key) const;
    void add(const std::string& key);

    /// As ConfigFile.
    [[nodiscard]] const QString& complaint() const { return m_file.complaint(); }

    static constexpr size_t kMost = 200; ///< the least taken are forgotten

  private:
    ConfigFile m_file;
    std::map<std::string, int> m_times;
};

} // namespace vicegrip::app
