#pragma once

#include "app/store/config_file.h"

#include <QDateTime>
#include <QString>

#include <vector>

/// The jobs that were open last, the latest first, kept from start to start.
namespace vicegrip::app {

class Recent
{
  public:
    struct Entry
    {
        QString path; ///< absolute
        QString name, title; ///< as they were then
        QDateTime when; ///< UTC
    };
    static constexpr int kMost = 12;

    Recent();

    [[nodiscard]] const std::vector<Entry>& entries() const { return m_entries; }
    /// As ConfigFile.
    [[nodiscard]] const QString& complaint() const { return m_file.complaint(); }

    /// Puts a job first.
    void add(Entry entry);
    void forget(const QString& path);

    /// Where they are kept.
    [[nodiscard]] const QString& file() const { return m_file.path(); }

  private:
    void read();
    void write() const;

    ConfigFile m_file;
    std::vector<Entry> m_entries;
};

} // namespace vicegrip::app
